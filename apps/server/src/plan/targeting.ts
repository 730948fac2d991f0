import { type Facts, weekdays } from '@sprig/contracts';
import { type Targeting, targetingOverlaps } from '@sprig/core/build';

const DEVICES = ['desktop', 'phone', 'tablet'];

/** Where and when a campaign with these settings shows. An adjustment of bids switches no device off. */
export const targetingOf = ({
  locations,
  languages,
  schedule,
}: Pick<Facts, 'locations' | 'languages' | 'schedule'>): Targeting => ({
  places: locations,
  languages: languages.map((language) => language.toLowerCase()),
  schedule: schedule.map(({ days, from, to }) => ({
    days: days.map((day) => weekdays.indexOf(day)),
    from,
    to,
  })),
  devices: DEVICES,
});

/** Whether the targeting of two campaigns overlaps, worked out once for each pair of different settings. */
export function overlapTable(targetings: readonly Targeting[]): (a: number, b: number) => boolean {
  const kinds = new Map<string, number>();
  const kindOf = targetings.map((one) => {
    const text = JSON.stringify(one);
    const kind = kinds.get(text) ?? kinds.size;
    kinds.set(text, kind);
    return kind;
  });
  const distinct = [...kinds.keys()].map((text) => JSON.parse(text) as Targeting);
  const table = distinct.map((one) => distinct.map((other) => targetingOverlaps(one, other)));
  return (a, b) => table[kindOf[a] as number]?.[kindOf[b] as number] ?? true;
}
