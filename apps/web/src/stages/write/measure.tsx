import { type MeasuredOutlet, type Outlet, plainOutlet, roomsFor, strictestOf } from '@sprig/core/outlets';
import {
  type AdField,
  type AdForm,
  type AdLimits,
  type AdPattern,
  type FormLimits,
  limitsOf,
} from '@sprig/core/write';
import { createContext, useContext } from 'react';

/** What ads are measured by: all outlets that the plan ships to, or one of them. */
export type Measure = {
  outlet: MeasuredOutlet;
  /** Those that ads are for: all that the plan ships to, or those that a pattern is for. */
  outlets: readonly Outlet[];
  /** Those that the plan ships to. */
  shipped: readonly Outlet[];
  /** The key of the one that is looked at; empty: all. */
  at: string;
};

const MeasureContext = createContext<Measure>({
  outlet: plainOutlet,
  outlets: [plainOutlet],
  shipped: [plainOutlet],
  at: '',
});
export const MeasureProvider = MeasureContext.Provider;
export const useMeasure = (): Measure => useContext(MeasureContext);

/** `at`: the outlet to look at, by its key; another than those that the plan ships to stands for all. */
export function measureBy(outlets: readonly Outlet[], at: string): Measure {
  const [first = plainOutlet, ...others] = outlets;
  const one = outlets.find(({ key }) => key === at);
  return { outlet: one ?? strictestOf([first, ...others]), outlets, shipped: outlets, at: one?.key ?? '' };
}

/** What the ads of a pattern are measured by: those of the outlets that it is for. */
export const measureFor = (measure: Measure, { outlets }: Pick<AdPattern, 'outlets'>): Measure =>
  outlets.length === 0
    ? measure
    : {
        ...measureBy(
          measure.shipped.filter(({ key }) => outlets.includes(key)),
          measure.at,
        ),
        shipped: measure.shipped,
      };

/** The limits of an ad's fields by the pattern that makes it; a pattern that is gone is for all outlets. */
export function limitsOfAds(
  measure: Measure,
  patterns: Readonly<Record<number, Pick<AdPattern, 'outlets'>>>,
): (ad: { pattern: number; form: AdForm }) => AdLimits {
  const known = new Map<number, Record<AdForm, AdLimits>>();
  return ({ pattern, form }) => {
    const limits = known.get(pattern) ?? limitsBy(measureFor(measure, patterns[pattern] ?? { outlets: [] }));
    known.set(pattern, limits);
    return limits[form];
  };
}

/** The limits of a form, also where no outlet of the plan knows it: then as plain sheets have them, so that it can be read. */
export const formOf = ({ outlet }: Measure, form: AdForm): FormLimits | null =>
  outlet.ad[form] ?? plainOutlet.ad[form];

export const limitsBy = (measure: Measure): Record<AdForm, AdLimits> => {
  const of = (form: AdForm) => limitsOf(formOf(measure, form) as FormLimits);
  return { plain: of('plain'), assembled: of('assembled') };
};

/** The outlet with the least room for a field, and the room at each: `30 (Quillmere), 34 (Fennelwick)`; null where all have the same. */
export function roomWords(
  { outlets, at }: Measure,
  form: AdForm,
  field: AdField,
): { least: string; all: string } | null {
  if (at !== '') return null;
  const rooms = roomsFor(outlets, form, field);
  const [least] = rooms;
  if (!least || new Set(rooms.map(({ limit }) => limit)).size < 2) return null;
  return { least: least.name, all: rooms.map(({ name, limit }) => `${limit} (${name})`).join(', ') };
}

/** Which outlets ads are measured by, and one of them to look at alone. */
export function MeasureChips({ measure, onAt }: { measure: Measure; onAt: (at: string) => void }) {
  const { outlets, at } = measure;
  if (outlets.length === 1)
    return <span className="whitespace-nowrap text-faint">measured by {outlets[0]?.name}</span>;
  const choices = [
    { key: '', name: outlets.length === 2 ? 'both outlets' : `all ${outlets.length} outlets` },
    ...outlets,
  ];
  return (
    <label className="flex items-center gap-1.5 whitespace-nowrap text-faint">
      measured by
      <select
        className="chip cursor-pointer"
        aria-label="Measured by"
        title="All outlets: a line fits where it fits at each of them. One outlet: as it gets the ads."
        value={at}
        onChange={({ target }) => onAt(target.value)}
      >
        {choices.map(({ key, name }) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
