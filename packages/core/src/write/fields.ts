const numbered = <P extends string>(prefix: P, count: number) =>
  Array.from({ length: count }, (_, at) => `${prefix}${at + 1}`);

type Digit15 = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9 | 10 | 11 | 12 | 13 | 14 | 15;
export type Headline = `headline${Digit15}`;
export type Description = `description${1 | 2 | 3 | 4 | 5}`;
export type Path = `path${1 | 2}`;
export type AdField = Headline | Description | Path;

export const headlines = numbered('headline', 15) as Headline[];
export const descriptions = numbered('description', 5) as Description[];
export const paths = numbered('path', 2) as Path[];

/** The text fields that an ad may have, in the order they are read. */
export const adFields: readonly AdField[] = [...headlines, ...descriptions, ...paths];
const all: ReadonlySet<string> = new Set(adFields);
export const isAdField = (name: string): name is AdField => all.has(name);

export const partsOfAd = ['headlines', 'descriptions', 'paths'] as const;
export type PartOfAd = (typeof partsOfAd)[number];
const FIELDS: Record<PartOfAd, readonly AdField[]> = { headlines, descriptions, paths };

export const partOf = (field: AdField): PartOfAd =>
  field[0] === 'h' ? 'headlines' : field[0] === 'd' ? 'descriptions' : 'paths';

/** Plain: fields in their order. Assembled: a set from which the engine picks. */
export const adForms = ['plain', 'assembled'] as const;
export type AdForm = (typeof adForms)[number];

/** Of one kind of field: how long each may be, how many are needed and allowed, and how many are shown at a time. */
export type PartLimits = {
  limit: number;
  least: number;
  most: number;
  shown: number;
  /** Where each field has a limit of its own: what several outlets ask together. */
  each?: readonly number[];
};
export type FormLimits = Record<PartOfAd, PartLimits>;

/** What an outlet asks of each field that it has. */
export type FieldLimit = { limit: number; required: boolean };
export type AdLimits = Partial<Record<AdField, FieldLimit>>;

/** Each field that a form has: of each kind the first so many are needed. */
export function limitsOf(form: FormLimits): AdLimits {
  const limits: AdLimits = {};
  for (const part of partsOfAd) {
    const { limit, least, most, each } = form[part];
    FIELDS[part].slice(0, most).forEach((field, at) => {
      limits[field] = { limit: each?.[at] ?? limit, required: at < least };
    });
  }
  return limits;
}

/** The fields of a form, in the order they are read. */
export const fieldsOf = (limits: AdLimits): AdField[] => adFields.filter((field) => limits[field]);

/** All fields, those that most ads have before the others: short when cut behind the last that is filled. */
export const storedFields: readonly AdField[] = [
  ...headlines.slice(0, 3),
  ...descriptions.slice(0, 2),
  ...paths,
  ...headlines.slice(3),
  ...descriptions.slice(2),
];
