import { defaultLayout } from '@sprig/core/build';
import { plainOutlet } from '@sprig/core/outlets';
import { patternOf } from '@sprig/core/write';
import { describe, expect, test } from 'vitest';
import { z } from 'zod';
import { type AnyEndpoint, allEndpoints } from './all-endpoints.ts';
import {
  adPatternSchema,
  briefSchema,
  dayIn,
  editPreferences,
  extraBody,
  type HoldField,
  heldWords,
  layoutSchema,
  lineWords,
  outletSchema,
  problemWords,
  readOutletJson,
  settingValues,
} from './index.ts';

/** Where a schema finds its first fault; null for none. */
const fault = (
  schema: {
    safeParse: (value: unknown) => { success: boolean; error?: { issues: { path: PropertyKey[] }[] } };
  },
  value: unknown,
) => {
  const read = schema.safeParse(value);
  return read.success ? null : (read.error?.issues[0]?.path.join('.') ?? '');
};

describe('an outlet as data', () => {
  test('the shipped one passes, and comes back the same from JSON', () => {
    expect(outletSchema.parse(JSON.parse(JSON.stringify(plainOutlet)))).toEqual(plainOutlet);
  });

  test.each([
    ['a limit of nothing', { limits: { ...plainOutlet.limits, groupName: 0 } }, 'limits.groupName'],
    [
      'a limit that is text',
      { limits: { ...plainOutlet.limits, keywordWords: '10' } },
      'limits.keywordWords',
    ],
    ['no sheets', { sheets: [] }, 'sheets'],
    [
      'a sheet without columns',
      { sheets: [{ kind: 'ads', fileName: 'ads', columns: [] }] },
      'sheets.0.columns',
    ],
    [
      'a value nobody knows',
      { sheets: [{ kind: 'ads', fileName: 'ads', columns: [{ heading: 'x', value: 'y' }] }] },
      'sheets.0.columns.0.value',
    ],
    [
      'a file name that leaves the folder',
      { sheets: [{ kind: 'ads', fileName: '../ads', columns: [{ heading: 'x', value: 'bid' }] }] },
      'sheets.0.fileName',
    ],
    ['an increment of half a micro', { bidIncrement: 0.5 }, 'bidIncrement'],
    ['a format nobody writes', { file: { ...plainOutlet.file, formats: ['pdf'] } }, 'file.formats.0'],
  ])('%s is named', (_, change, at) => expect(fault(outletSchema, { ...plainOutlet, ...change })).toBe(at));
});

describe('what is wrong is told in words that name no schema', () => {
  /** The plain outlet with something else at one place; null: nothing. */
  const change = (place: string, value: unknown) => {
    const outlet = JSON.parse(JSON.stringify(plainOutlet));
    const names = place.split('.');
    const last = names.pop() as string;
    const part = names.reduce((at, name) => at[name], outlet);
    if (value === undefined) delete part[last];
    else part[last] = value;
    const read = readOutletJson(JSON.stringify(outlet));
    return read.status === 'problem' ? read.problems.map((one) => `${one.at}: ${one.words}`) : [];
  };
  test.each([
    ['name', 5, 'name: It has to be a text.'],
    ['name', undefined, 'name: It is missing.'],
    ['name', 'x'.repeat(81), 'name: It may be at most 80 characters.'],
    ['limits.groupName', 10_000_001, 'limits.groupName: It may be at most 10,000,000.'],
    ['negativeTypes', 'exact', 'negativeTypes: It has to be a list.'],
    [
      'negativeTypes',
      ['wide'],
      'negativeTypes.0: It has to be one of “broad”, “modified”, “phrase”, “exact”.',
    ],
    ['bids.perNetwork', 1, 'bids.perNetwork: It has to be true or false.'],
    ['limits', null, 'limits: It has to be a group of fields.'],
    ['ad.plain.paths.most', 16, 'ad.plain.paths.most: It may be at most 15.'],
    ['what', 1, 'what: An outlet has no such part.'],
  ])('%s as %j', (place, value, words) => expect(change(place, value)).toContain(words));

  test('everything that a schema finds by itself has words', () => {
    const schema = z.object({
      part: z.strictObject({ a: z.literal('x') }),
      many: z.array(z.number()).min(2).max(3),
      one: z.union([z.string(), z.number()]),
      step: z.number().multipleOf(5),
      above: z.number().gt(1).lt(3),
      address: z.url(),
      map: z.record(z.string().max(1), z.number()),
    });
    const told = (value: unknown) =>
      schema.safeParse(value).error?.issues.map(({ path, message }) => `${path.join('.')}: ${message}`);
    expect(
      told({
        part: { a: 'y', b: 1 },
        many: [1],
        one: true,
        step: 3,
        above: 3,
        address: 'no',
        map: { ab: 1 },
      }),
    ).toEqual([
      'part.a: It has to be “x”.',
      'part: There is no such field: “b”.',
      'many: It has to be at least 2 entries.',
      'one: It is none of what may stand here.',
      'step: It has to be a multiple of 5.',
      'above: It may be less than 3.',
      'address: It is not written as it has to be (url).',
      'map.ab: Something in it can’t be read.',
    ]);
  });
});

describe('a layout', () => {
  const layout = defaultLayout('Kayaks', 'GBP');
  test.each(['GBP', 'JPY', 'KWD'])('the default passes in %s', (currency) => {
    expect(fault(layoutSchema, defaultLayout('Kayaks', currency))).toBeNull();
  });
  test.each([
    ['no campaign name', { campaignName: '  ' }, 'campaignName'],
    ['a NUL in a name', { campaignName: 'a\0b' }, 'campaignName'],
    ['a name of 501 characters', { campaignName: 'x'.repeat(501) }, 'campaignName'],
    ['a token that is none', { groupName: { pattern: '@what', style: 'title' } }, 'groupName.pattern'],
    ['a floor above the ceiling', { ladder: { ...layout.ladder, floor: 6_000_000 } }, 'ladder.floor'],
    [
      'a bid that is no number',
      { ladder: { ...layout.ladder, defaultBase: Number.NaN } },
      'ladder.defaultBase',
    ],
    ['a field too many', { extra: 1 }, ''],
  ])('%s is refused at its place', (_, change, at) =>
    expect(fault(layoutSchema, { ...layout, ...change })).toBe(at),
  );
});

test('a brief: name, currency and site', () => {
  const brief = { name: 'Kayaks', currency: 'GBP', language: 'en', site: 'shop.example', archived: false };
  expect(fault(briefSchema, brief)).toBeNull();
  expect(fault(briefSchema, { ...brief, site: '' })).toBeNull();
  expect(fault(briefSchema, { ...brief, site: 'not a site' })).toBe('site');
  expect(fault(briefSchema, { ...brief, site: 'javascript:alert(1)' })).toBe('site');
  expect(fault(briefSchema, { ...brief, currency: 'XXX' })).toBe('currency');
  expect(fault(briefSchema, { ...brief, name: ' ' })).toBe('name');
});

test('half a surrogate pair is marked, since the database keeps none', () => {
  const brief = { name: 'a\ud83d', currency: 'GBP', language: 'en', site: '', archived: false };
  expect(briefSchema.parse(brief).name).toBe('a\ufffd');
});

test('an ad line with a token that can’t be read is refused at its place', () => {
  const pattern = patternOf({ headline1: ['@keyword'], path1: ['x', '@place(or Eastmere)'] });
  expect(fault(adPatternSchema, pattern)).toBeNull();
  const broken = (path1: string[]) => fault(adPatternSchema, patternOf({ path1 }));
  expect(broken(['x', '@no'])).toBe('fields.path1.lines.1');
  expect(broken([' '])).toBe('fields.path1.lines.0');
  expect(fault(adPatternSchema, { ...pattern, fields: { ...pattern.fields, headline16: [] } })).toBe(
    'fields',
  );
});

test.each([
  ['@nothing', '@nothing (column 1) is no token'],
  ['Hire @keyword(live', 'The bracket behind @keyword (column 6) does not close'],
  ['@place(or @theme)', '“@theme” (column 8) can’t stand inside'],
  ['@place(loud)', '“loud” (column 8) is nothing a token can be told'],
  ['@place(live)', '@place can’t be live'],
])('%s in words', (typed, words) => expect(lineWords(typed)).toContain(words));

test.each<[HoldField, string | number, string | null]>([
  ['bid', 0, 'A bid has to be more than nothing'],
  ['bid', 10_000, null],
  ['budget', 0, 'A daily budget has to be more than nothing'],
  ['step', 100_000, null],
  ['step', 100_001, 'at most 1000%'],
  ['status', 'paused', null],
  ['status', 'Paused', 'enabled or paused'],
  ['labels', 'x'.repeat(1_001), 'too long'],
  ['name', ' ', 'It needs a name'],
  ['name', 'x'.repeat(500), null],
  ['name', 'x'.repeat(501), 'up to 500 characters'],
  ['finalUrl', 'https://dentist.example/prices', null],
  ['finalUrl', 'not an address', 'Write it like https://site.example/prices.'],
  ['headline1', 'Call @nobody', '@nobody (column 6) is no token'],
  ['headline1', 'Call us', null],
  ['lead', 3, null],
])('%s of %j by hand', (field, value, words) => {
  const said = heldWords(field, value);
  if (words === null) expect(said).toBeNull();
  else expect(said).toContain(words);
});

test('an extra with a phone that is none is refused in words', () => {
  expect(fault(extraBody, { kind: 'phone', number: '+44 1632 960123' })).toBeNull();
  expect(fault(extraBody, { kind: 'phone', number: 'ring us' })).toBe('number');
  expect(fault(extraBody, { kind: 'banner', text: 'x' })).toBe('kind');
});

test('every problem of a line has its place and its remedy in words', () => {
  expect(problemWords({ code: 'unbalanced-bracket', at: 4 })).toBe(
    'The bracket at column 4 has no other. Add it, or take this one away.',
  );
  expect(problemWords({ code: 'not-allowed', at: 2, character: ',' })).toContain('may not hold , (column 2)');
  expect(problemWords({ code: 'figure', at: 1, character: 'lots' })).toContain('“lots” is no figure');
});

test.each([
  ['2027-03-31T23:30:00Z', 'UTC', '2027-03-31'],
  ['2027-03-31T23:30:00Z', 'Asia/Tokyo', '2027-04-01'],
  ['2027-03-31T03:30:00Z', 'America/Lima', '2027-03-30'],
  ['2026-12-31T23:59:59Z', 'Pacific/Kiritimati', '2027-01-01'],
])('at %s it is, in %s, %s', (at, zone, day) => expect(dayIn(zone, new Date(at))).toBe(day));

describe('what a call changes', () => {
  const calls = allEndpoints.map(({ name, endpoint }) => ({ name, endpoint }));
  const tellsRevision = (endpoint: AnyEndpoint) =>
    'answer' in endpoint && endpoint.answer instanceof z.ZodObject && 'revision' in endpoint.answer.shape;

  test('every call that makes a revision says that it changes the plan', () => {
    const silent = calls.filter(
      ({ endpoint }) =>
        endpoint.method !== 'GET' && tellsRevision(endpoint) && !endpoint.changes.includes('plan'),
    );
    // What somebody has looked at is told with the revision at which it was.
    expect(silent.map(({ name }) => name)).toEqual(['lookedAtSort']);
  });

  test('every call that begins a job says so', () => {
    const silent = calls.filter(
      ({ endpoint }) =>
        endpoint.method !== 'GET' &&
        'answer' in endpoint &&
        endpoint.answer instanceof z.ZodObject &&
        'job' in endpoint.answer.shape &&
        !endpoint.changes.includes('jobs'),
    );
    expect(silent.map(({ name }) => name)).toEqual([]);
  });

  test('whoever may only read changes nothing of a plan by any call, but notes', () => {
    const writing = calls.filter(
      ({ endpoint }) =>
        endpoint.access === 'read' &&
        endpoint.method !== 'GET' &&
        endpoint.changes.some((kind) => kind !== 'own' && kind !== 'jobs'),
    );
    expect(
      writing.map(({ name, endpoint }) => [name, endpoint.method === 'GET' ? [] : endpoint.changes]),
    ).toEqual([
      ['addNote', ['work']],
      ['changeNote', ['work']],
      ['removeNote', ['work']],
    ]);
  });
});

describe('some fields of many', () => {
  test('what nothing is said of stays missing: a default would overwrite what is there', () => {
    const networks = { search: true, partners: true, display: false };
    expect(settingValues.parse({ networks })).toEqual({ networks });
    expect(settingValues.parse({})).toEqual({});
    expect(editPreferences.body.parse({ helps: false })).toEqual({ helps: false });
    expect(() => settingValues.parse({ colour: 'red' })).toThrow();
    expect(() => settingValues.parse({ rotation: 'never' })).toThrow();
  });

  test('no body of a call fills in what is only said in part', () => {
    const filled = (schema: z.ZodType): string[] => {
      if (schema instanceof z.ZodOptional)
        return schema.unwrap() instanceof z.ZodDefault
          ? ['an optional field has a default']
          : filled(schema.unwrap() as z.ZodType);
      if (schema instanceof z.ZodObject)
        return Object.entries(schema.shape).flatMap(([name, field]) =>
          filled(field as z.ZodType).map((words) => `${name}: ${words}`),
        );
      if (schema instanceof z.ZodArray) return filled(schema.element as z.ZodType);
      if (schema instanceof z.ZodUnion) return schema.options.flatMap((one) => filled(one as z.ZodType));
      if (schema instanceof z.ZodNullable || schema instanceof z.ZodDefault)
        return filled(schema.unwrap() as z.ZodType);
      return [];
    };
    expect(filled(z.object({ a: z.string().default('').optional() }))).toHaveLength(1);
    for (const { name, endpoint } of allEndpoints)
      if ('body' in endpoint) expect([name, filled(endpoint.body as z.ZodType)]).toEqual([name, []]);
  });
});
