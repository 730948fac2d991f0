/** So many of so many: clicks of impressions, conversions of clicks. */
export type Share = { of: number; all: number };

/** Two-sided, at 5%: the quantile of the normal distribution at 97.5%. */
const LEVEL = 1.959_964;
/** Below so many expected on either side the normal distribution tells nothing. */
const LEAST_EXPECTED = 5;

/**
 * Whether two rates differ by more than chance, at 5%: the pooled two-proportion z-test. null where there is too little of
 * either to tell, as fewer than 5 expected of what happened or of what did not.
 *
 * Source: J. L. Fleiss, B. Levin and M. C. Paik, Statistical Methods for Rates and Proportions, 3rd ed., 2003, section 3.2.
 */
export function differMoreThanChance(a: Share, b: Share): boolean | null {
  if (!isShare(a) || !isShare(b)) return null;
  const pooled = (a.of + b.of) / (a.all + b.all);
  const least = Math.min(a.all, b.all) * Math.min(pooled, 1 - pooled);
  if (least < LEAST_EXPECTED) return null;
  const error = Math.sqrt(pooled * (1 - pooled) * (1 / a.all + 1 / b.all));
  return Math.abs(a.of / a.all - b.of / b.all) > LEVEL * error;
}

const isShare = ({ of, all }: Share): boolean => all > 0 && of >= 0 && of <= all;

/**
 * Whether two counts over as many days each differ by more than chance, at 5%, where counts of a day vary as a negative
 * binomial with this `alpha`: the difference against its variance under one common mean a day. null where there is too little
 * to tell, as fewer than 5 expected on either side.
 *
 * Source: A. C. Cameron and P. K. Trivedi, Regression Analysis of Count Data, 2nd ed., 2013, sections 3.3 and 3.5.
 */
export function countsDifferMoreThanChance(
  a: number,
  b: number,
  days: number,
  alpha: number,
): boolean | null {
  if (a < 0 || b < 0 || days < 1 || (a + b) / 2 < LEAST_EXPECTED) return null;
  const mean = (a + b) / (2 * days);
  return Math.abs(a - b) > LEVEL * Math.sqrt(2 * days * (mean + alpha * mean * mean));
}
