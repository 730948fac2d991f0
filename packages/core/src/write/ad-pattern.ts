import { type CaseStyle, type Line, parseLine, type TokenValues } from '../text/index.ts';
import { CompiledLine, type TextRules } from './compiled-line.ts';
import { type AdField, type AdForm, type AdLimits, adFields, type FieldLimit, partOf } from './fields.ts';
import { type FieldLines, type Fit, fitLine } from './fit-line.ts';

export const patternScopes = ['all', 'campaigns', 'themes', 'groups', 'without'] as const;

/** Which ad groups a pattern is for; a theme stands for itself and what is below it. */
export type PatternScope = {
  to: (typeof patternScopes)[number];
  themes: number[];
  groups: string[];
  /** The keys of campaigns; a pattern that was kept before there were any has none. */
  campaigns: string[];
};

export const splitKinds = ['none', 'live', 'line'] as const;

/**
 * A split test in every group: the same ad twice, written against live, or with one field's lines put in the place of
 * its own. Each version has its label, by which they are compared across groups.
 */
export type PatternSplit = {
  by: (typeof splitKinds)[number];
  field: AdField;
  lines: string[];
  labels: [string, string];
  /** The version that runs no more, since the other was better; null: both run. */
  paused: VersionName | null;
};

/** `kept`: the place in which an assembled ad always shows it, from 1; 0 leaves that to the engine. */
export type PatternField = { lines: string[]; style: CaseStyle; kept: number };

/** An ad as the user writes it: of each field the lines as typed, first the most wanted. */
export type AdPattern = {
  name: string;
  form: AdForm;
  status: 'enabled' | 'paused';
  labels: string[];
  groups: PatternScope;
  /** The keys of the outlets that it is for; none: all. */
  outlets: string[];
  split: PatternSplit;
  fields: Record<AdField, PatternField>;
};

export const noSplit = (): PatternSplit => ({
  by: 'none',
  field: 'headline1',
  lines: [],
  labels: ['first', 'second'],
  paused: null,
});

const IN_TITLE = { headlines: 'title', descriptions: 'sentence', paths: 'lower' } as const;

/** A pattern for all groups, with these lines and nothing else; in title case only the headlines are. */
export function patternOf(
  lines: Partial<Record<AdField, string[]>>,
  style: CaseStyle = 'as-is',
  more: Partial<AdPattern> = {},
): AdPattern {
  return {
    name: 'Ad',
    form: 'plain',
    status: 'enabled',
    labels: [],
    groups: { to: 'all', themes: [], groups: [], campaigns: [] },
    outlets: [],
    split: noSplit(),
    fields: Object.fromEntries(
      adFields.map((field) => [
        field,
        {
          lines: lines[field] ?? [],
          style: style === 'title' ? IN_TITLE[partOf(field)] : style,
          kept: 0,
        },
      ]),
    ) as AdPattern['fields'],
    ...more,
  };
}

/** Whether one version of a pattern runs. */
export const statusOfVersion = (
  { status, split }: Pick<AdPattern, 'status' | 'split'>,
  version: VersionName,
): AdPattern['status'] => (split.by !== 'none' && split.paused === version ? 'paused' : status);

export type CompiledPattern = { form: AdForm; fields: Record<AdField, FieldLines>; kept: Kept };
/** The places that fields of an assembled ad are kept in; none for the others. */
export type Kept = Partial<Record<AdField, number>>;

/** Parses every line once. Lines that can't be read are left out: they are refused where they are typed. */
export function compilePattern(pattern: Pick<AdPattern, 'form' | 'fields'>): CompiledPattern {
  const fields = {} as Record<AdField, FieldLines>;
  const kept: Kept = {};
  for (const name of adFields) {
    const { lines, style, kept: place } = pattern.fields[name];
    fields[name] = compileLines(lines, style);
    if (pattern.form === 'assembled' && place > 0 && lines.length > 0) kept[name] = place;
  }
  return { form: pattern.form, fields, kept };
}

export const compileLines = (lines: readonly string[], style: CaseStyle): FieldLines => ({
  style,
  lines: lines.flatMap((source) => {
    const line = lineOf(source);
    return line ? [new CompiledLine(line)] : [];
  }),
});

export function lineOf(source: string): Line | null {
  const read = parseLine(source);
  return 'line' in read ? read.line : null;
}

export type VersionName = 'a' | 'b';

/**
 * What a pattern makes: itself, or the two versions of its split test. Written against live: the first has no live token,
 * the second has `@keyword` live wherever it stands in a headline, description or path.
 */
export function versionsOf(
  pattern: AdPattern,
): { version: VersionName; compiled: CompiledPattern; label: string | null }[] {
  const { split } = pattern;
  const whole = { version: 'a', compiled: compilePattern(pattern), label: null } as const;
  if (split.by === 'none') return [whole];
  const [first, second] = split.labels;
  if (split.by === 'live')
    return [
      { version: 'a', compiled: withLive(whole.compiled, false), label: first },
      { version: 'b', compiled: withLive(whole.compiled, true), label: second },
    ];
  const { style } = pattern.fields[split.field];
  const other = { ...whole.compiled.fields, [split.field]: compileLines(split.lines, style) };
  return [
    { ...whole, label: first },
    { version: 'b', compiled: { ...whole.compiled, fields: other }, label: second },
  ];
}

function withLive(pattern: CompiledPattern, isLive: boolean): CompiledPattern {
  const fields = {} as Record<AdField, FieldLines>;
  for (const name of adFields) {
    const { style, lines } = pattern.fields[name];
    fields[name] = { style, lines: lines.map(({ line }) => new CompiledLine(setLive(line, isLive))) };
  }
  return { ...pattern, fields };
}

const setLive = ({ parts }: Line, isLive: boolean): Line => ({
  parts: parts.map((part) =>
    part.kind === 'token' && part.name === 'keyword' ? { ...part, live: isLive } : part,
  ),
});

export type FieldFit = Fit | { status: 'empty' };
export type FittedFields = Partial<Record<AdField, FieldFit>>;

/** Fits every field that the form has. A field without lines is empty, and unfilled if it is required. */
export function fitFields(
  pattern: CompiledPattern,
  values: TokenValues,
  limits: AdLimits,
  writing: TextRules,
): FittedFields {
  const fields: FittedFields = {};
  for (const name in limits) {
    const field = name as AdField;
    fields[field] = fitField(field, pattern.fields[field], values, limits[field] as FieldLimit, writing);
  }
  return fields;
}

const empty: FieldFit = { status: 'empty' };

/** Paths have hyphens where others have spaces. */
export function fitField(
  name: AdField,
  lines: FieldLines,
  values: TokenValues,
  { limit, required }: FieldLimit,
  writing: TextRules,
): FieldFit {
  if (lines.lines.length === 0 && !required) return empty;
  const fit = fitLine(lines, values, limit, writing);
  return fit.status === 'fits' && partOf(name) === 'paths'
    ? { ...fit, text: fit.text.replace(/ /g, '-') }
    : fit;
}

/** The fields that could not be filled, in the order they are read. */
export const unfilledOf = (fields: FittedFields): AdField[] =>
  adFields.filter((name) => fields[name]?.status === 'unfilled');

/** What is shown of a field: its text, also where it is too long; empty where there is none. */
export const textOf = (fit: FieldFit | undefined): string =>
  fit?.status === 'fits' || (fit?.status === 'unfilled' && fit.why === 'too-long') ? fit.text : '';
