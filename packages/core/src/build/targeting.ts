/** Where and when a campaign shows: no place and no language mean all of them, no time means always. */
export type Targeting = {
  places: readonly { name: string; level: string }[];
  languages: readonly string[];
  /** Days from 0 = Monday, and minutes of the day. */
  schedule: readonly { days: readonly number[]; from: number; to: number }[];
  /** Devices that it shows on. */
  devices: readonly string[];
};

/**
 * Whether one search can meet both. Two places of one level are two places; of two levels one may lie in the other, so
 * they count as overlapping.
 */
export function targetingOverlaps(a: Targeting, b: Targeting): boolean {
  return (
    placesMeet(a.places, b.places) &&
    sharesOne(a.languages, b.languages) &&
    (a.schedule.length === 0 ||
      b.schedule.length === 0 ||
      a.schedule.some((one) => b.schedule.some(meets(one)))) &&
    a.devices.some((device) => b.devices.includes(device))
  );
}

const placesMeet = (a: Targeting['places'], b: Targeting['places']): boolean =>
  a.length === 0 ||
  b.length === 0 ||
  a.some((one) =>
    b.some(({ name, level }) => level !== one.level || name.toLowerCase() === one.name.toLowerCase()),
  );

const sharesOne = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === 0 || b.length === 0 || a.some((one) => b.includes(one));

type Time = Targeting['schedule'][number];
const meets =
  (one: Time) =>
  (other: Time): boolean =>
    one.from < other.to && other.from < one.to && one.days.some((day) => other.days.includes(day));
