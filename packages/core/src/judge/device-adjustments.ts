/** Devices that bids are adjusted for. */
export const adjustedDevices = ['desktop', 'phone', 'tablet'] as const;
export type AdjustedDevice = (typeof adjustedDevices)[number];

const NAMED: readonly (readonly [AdjustedDevice, RegExp])[] = [
  ['tablet', /tablet/i],
  ['phone', /phone|mobil|m[oó]vil|handy|cellul|celular|telefo/i],
  ['desktop', /desktop|computer|ordinateur|ordenador|rechner|laptop|\bpcs?\b/i],
];

/** Which device a report means by a name; null for another, such as a television. */
export const deviceNamed = (name: string): AdjustedDevice | null =>
  NAMED.find(([, pattern]) => pattern.test(name))?.[0] ?? null;

/** The least and the greatest adjustment, in basis points. */
const [LEAST, GREATEST] = [-9_000, 90_000];

/**
 * The adjustment by which a click on a device costs what it brings: its rate of conversions by that of all devices, less one,
 * at most so many percent of what is bid there at a time. Basis points, whole percents.
 */
export function deviceAdjustment(rate: number, all: number, now: number, most: number): number {
  const wanted = all > 0 ? rate / all : 1;
  const there = 1 + now / 10_000;
  const near = Math.min(Math.max(wanted, there * Math.max(0, 1 - most / 100)), there * (1 + most / 100));
  return Math.min(Math.max(Math.round((near - 1) * 100) * 100, LEAST), GREATEST);
}
