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
