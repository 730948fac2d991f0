import { reportRoles } from '@sprig/core/learn';
import { matchTypes } from '@sprig/core/match';
import {
  cellValues,
  checkKinds,
  matchForms,
  networkNames,
  type Outlet,
  outletProblems,
  rowKinds,
  rowOrders,
  sheetEncodings,
  sheetFormats,
  sheetKinds,
  underPresentNames,
  usualAdvice,
} from '@sprig/core/outlets';
import { extraKinds } from '@sprig/core/write';
import { z } from 'zod';
import { count, micros, planParams, text } from '../common.ts';
import { factsSchema } from './brief.ts';

const limit = z
  .number('Write a whole number.')
  .int('Write a whole number.')
  .min(1, 'It has to be 1 at least: nothing would fit.')
  .max(10_000_000, 'It may be at most 10,000,000.');
const few = z
  .number('Write a whole number.')
  .int('Write a whole number.')
  .min(0, 'It has to be at least 0.')
  .max(15, 'It may be at most 15.');
const part = z.strictObject({ limit, least: few, most: few, shown: few });
const form = z.strictObject({ headlines: part, descriptions: part, paths: part }).nullable();
const advised = z.strictObject({ least: few, most: limit });
const word = text(60);
const amount = micros.refine((value) => value > 0, 'An amount above 0.').nullable();
const filled = (most: number, words: string) => text(most).refine((typed) => typed.trim() !== '', words);
/** What is filled in at search time, in the outlet's own notation. */
const insertion = text(200).refine(
  (typed) => typed.includes('@default'),
  'Say where the text to fall back on stands: write @default.',
);
const each = <Name extends string, Shape extends z.ZodType>(names: readonly Name[], shape: Shape) =>
  z.strictObject(Object.fromEntries(names.map((name) => [name, shape])) as Record<Name, Shape>);

/** The key by which an outlet is known: small letters, digits, hyphens. */
export const outletKey = z
  .string()
  .regex(/^[a-z][a-z0-9-]{0,39}$/, 'Small letters, digits and hyphens, up to 40, a letter first.');

const presentShape = z.strictObject({
  key: outletKey,
  name: z.string().trim().min(1, 'It needs a name.').max(80),
  limits: z.strictObject({
    campaignName: limit,
    groupName: limit,
    keywordLength: limit,
    keywordWords: limit,
    groupsPerCampaign: limit,
    rowsPerCampaign: limit,
    rowsPerGroup: limit,
    negativesPerGroup: limit,
    finalUrl: limit,
  }),
  ad: z.strictObject({
    plain: form,
    assembled: form,
    insertion: z
      .strictObject({ 'as-is': insertion, lower: insertion, sentence: insertion, title: insertion })
      .nullable(),
    extras: z.strictObject({
      sitelink: z.strictObject({ text: limit, line: limit, most: limit }),
      callout: z.strictObject({ text: limit, most: limit }),
    }),
  }),
  match: z.enum(matchForms),
  matchTypes: z.array(z.enum(matchTypes)).min(1, 'It has to know one match type at least.'),
  negativeTypes: z.array(z.enum(matchTypes)),
  bids: z.strictObject({
    on: z.enum(['keyword', 'group']),
    perNetwork: z.boolean(),
    least: amount,
    conversions: limit.nullable().default(null),
  }),
  bidIncrement: amount,
  budget: z.strictObject({ least: amount, changesPerDay: limit.nullable() }),
  adultSites: z
    .strictObject({ taken: z.boolean(), networks: z.array(z.enum(networkNames)) })
    .default({ taken: true, networks: [...networkNames] }),
  words: z.strictObject({
    matchTypes: each(matchTypes, word),
    notation: each(matchTypes, word),
    negative: word,
    matchSettings: z.strictObject({ close: word, wide: word }),
    enabled: word,
    paused: word,
    removed: word,
    adForms: z.strictObject({ plain: word, assembled: word }),
    extraKinds: each(extraKinds, word),
    rowKinds: each(rowKinds, word),
  }),
  gone: z.enum(['paused', 'removed']),
  needs: z
    .array(
      z.strictObject({
        key: outletKey,
        words: filled(200, 'Say what has to be in place.'),
        before: z.enum(['sheets', 'live']),
      }),
    )
    .max(20),
  sheets: z
    .array(
      z.strictObject({
        kind: z.enum(sheetKinds),
        fileName: z.string().regex(/^[a-z0-9-]{1,60}$/, 'Small letters, digits and hyphens, up to 60.'),
        columns: z
          .array(
            z.strictObject({
              heading: text(100),
              value: z.enum(cellValues, 'There is no such value.'),
              /** Of a column that says the same in every row. */
              text: text(500).optional(),
            }),
          )
          .min(1, 'A sheet needs a column.')
          .max(200),
      }),
    )
    .min(1, 'An outlet needs a sheet.')
    .max(7),
  rowOrder: z.enum(rowOrders),
  money: z.strictObject({ mark: z.enum(['.', ',']), unit: z.enum(['major', 'minor']) }),
  file: z.strictObject({
    formats: z.array(z.enum(sheetFormats)).min(1, 'An outlet needs a file form.'),
    delimiter: z.enum([',', ';', '|']),
    encoding: z.enum(sheetEncodings),
    lineEnding: z.enum(['\r\n', '\n']),
    byteOrderMark: z.boolean(),
    rowsPerFile: limit.nullable(),
    zipped: z.boolean(),
  }),
  // Outlets that were kept before they advised anything advise what is usual.
  advised: z
    .strictObject({
      plain: advised,
      assembled: advised,
      keywordsPerGroup: limit,
      groupsPerCampaign: limit.nullable().default(null),
      sitelinks: few.default(0),
      callouts: few.default(0),
    })
    .default(usualAdvice),
  checks: z
    .array(
      z.strictObject({
        value: z.enum(cellValues, 'There is no such value.'),
        kind: z.enum(rowKinds).nullable(),
        is: z.enum(checkKinds),
        text: text(200),
        severity: z.enum(['blocker', 'warning']),
        words: filled(200, 'Say what is wrong with such a cell.'),
      }),
    )
    .max(50)
    .default([]),
  timeZone: factsSchema.shape.timeZone.unwrap().nullable().default(null),
  answer: z.strictObject({ refusal: filled(100, 'A column needs a heading.') }),
  report: z
    .strictObject({
      headings: z
        .array(
          z.strictObject({
            heading: filled(100, 'A column needs a heading.'),
            role: z.enum(reportRoles, 'Reports tell no such thing.').exclude(['skip']),
          }),
        )
        .max(40),
      decimal: z.enum(['.', ',']),
    })
    // Outlets that were kept before reports were read.
    .default({ headings: [], decimal: '.' }),
});

/** So many rows of each kind. */
export const byKind = z.record(z.enum(rowKinds), count);

export const outletParams = planParams.extend({ outlet: outletKey });

/** An outlet's parts, each sound by itself: what is kept may be older than a rule about them all, and than names of today. */
export const outletShape = z.preprocess(underPresentNames, presentShape);

/** An outlet's profile as data: each part sound by itself, and all of them with each other. */
export const outletSchema = outletShape.superRefine((outlet, context) => {
  for (const { at, words } of outletProblems(outlet as Outlet))
    context.addIssue({ code: 'custom', message: words, path: at.split('.') });
});

export type OutletReading =
  | { status: 'outlet'; outlet: Outlet }
  | { status: 'problem'; problems: { at: string; words: string }[] };

/** Reads an outlet from JSON; every problem is told with its place in it. Nothing of it is run. */
export function readOutletJson(typed: string): OutletReading {
  if (typed.length > 500_000)
    return { status: 'problem', problems: [{ at: '', words: 'Longer than any outlet: 500 kB at most.' }] };
  let body: unknown;
  try {
    body = JSON.parse(typed);
  } catch {
    return { status: 'problem', problems: [{ at: '', words: `Not JSON: ${placeIn(typed)}` }] };
  }
  const read = outletSchema.safeParse(body);
  if (read.success) return { status: 'outlet', outlet: read.data as Outlet };
  const problems = read.error.issues.flatMap(({ path, message, ...issue }) => {
    const at = path.join('.');
    if (issue.code === 'unrecognized_keys')
      return (issue as { keys: string[] }).keys.map((key) => ({
        at: at === '' ? key : `${at}.${key}`,
        words: 'An outlet has no such part.',
      }));
    return [{ at, words: message }];
  });
  return { status: 'problem', problems };
}

/** The line and column at which JSON stops being JSON: behind the longest beginning that could still go on. */
function placeIn(typed: string): string {
  if (typed.trim() === '') return 'there is nothing.';
  let sound = 0;
  let broken = typed.length + 1;
  while (broken - sound > 1) {
    const middle = (sound + broken) >> 1;
    if (mayGoOn(typed.slice(0, middle))) sound = middle;
    else broken = middle;
  }
  if (sound === typed.length) return 'it ends too early.';
  const before = typed.slice(0, sound).split('\n');
  return `line ${before.length}, column ${(before.at(-1)?.length ?? 0) + 1} is not what is expected there.`;
}

function mayGoOn(beginning: string): boolean {
  try {
    JSON.parse(beginning);
    return true;
  } catch (error) {
    const said = error instanceof Error ? error.message : '';
    const at = /position (\d+)/.exec(said)?.[1];
    return /end of (JSON|data|input)|unterminated/i.test(said) || Number(at) >= beginning.length;
  }
}
