import type { CaseStyle } from '../text/index.ts';
import { type Line, parseLine, type TokenValues } from '../text/index.ts';
import { fillAddress } from './address.ts';
import { type FieldLines, type Fit, fitLine, type Writing } from './fit-line.ts';

/** The text fields of a plain ad, in the order they are read. */
export const adFields = [
  'headline1',
  'headline2',
  'headline3',
  'description1',
  'description2',
  'path1',
  'path2',
] as const;
export type AdField = (typeof adFields)[number];

/** A plain ad's pattern as the user writes it: lines as typed, first the most wanted. */
export type AdPattern = {
  name: string;
  fields: Record<AdField, { lines: string[]; style: CaseStyle }>;
  finalUrl: string;
};

/** What an outlet asks of each field. */
export type AdLimits = Record<AdField, { limit: number; required: boolean }>;

export type CompiledPattern = { fields: Record<AdField, FieldLines>; finalUrl: Line | null };

/** Parses every line once. Lines that hold an unknown token are left out: they are refused where they are typed. */
export function compilePattern(pattern: AdPattern): CompiledPattern {
  const fields = {} as Record<AdField, FieldLines>;
  for (const name of adFields) {
    const { lines, style } = pattern.fields[name];
    fields[name] = { style, lines: lines.flatMap((line) => lineOf(line) ?? []) };
  }
  return { fields, finalUrl: lineOf(pattern.finalUrl) };
}

function lineOf(source: string): Line | null {
  const read = parseLine(source);
  return 'line' in read ? read.line : null;
}

export type FieldFit = Fit | { status: 'empty' };

/** One ad group's ad at one outlet. */
export type FittedAd = {
  fields: Record<AdField, FieldFit>;
  finalUrl: { status: 'fits'; text: string } | { status: 'unfilled'; why: string };
};

/** Fits every field of a pattern for one ad group. A field without lines is empty, and unfilled if required. */
export function fitAd(
  pattern: CompiledPattern,
  values: TokenValues,
  limits: AdLimits,
  writing: Writing,
): FittedAd {
  const fields = {} as Record<AdField, FieldFit>;
  for (const name of adFields) {
    const lines = pattern.fields[name];
    const { limit, required } = limits[name];
    const spaceless = name === 'path1' || name === 'path2';
    const fit: FieldFit =
      lines.lines.length === 0 && !required ? { status: 'empty' } : fitLine(lines, values, limit, writing);
    fields[name] = spaceless && fit.status === 'fits' ? { ...fit, text: fit.text.replace(/ /g, '-') } : fit;
  }
  const address = pattern.finalUrl ? fillAddress(pattern.finalUrl, values) : null;
  const finalUrl =
    address?.status === 'address'
      ? ({ status: 'fits', text: address.href } as const)
      : ({ status: 'unfilled', why: address?.code ?? 'address-empty' } as const);
  return { fields, finalUrl };
}

/** The fields of an ad that could not be filled. */
export const unfilledFields = (ad: FittedAd): (AdField | 'finalUrl')[] => [
  ...adFields.filter((name) => ad.fields[name].status === 'unfilled'),
  ...(ad.finalUrl.status === 'unfilled' ? (['finalUrl'] as const) : []),
];
