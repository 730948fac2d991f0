import type { OutletCheck, OutletFinding, TakeResult } from '@sprig/contracts';
import { findingRules } from '@sprig/core/findings';
import { plainOutlet, sheetKinds, shippedOutlets, valuesOfKind } from '@sprig/core/outlets';
import { lossRules } from '@sprig/core/sheets';
import { afterEach, describe, expect, test, vi } from 'vitest';
import { findingPlace, findingWords } from './finding-words.ts';
import { differing, rowsIn, toldBy } from './look.ts';
import { partAt, withPart } from './outlet-path.ts';
import { noteWords, sheetProblemWords, takenWords } from './read-back-words.ts';
import { delimiterIn, readStart, readTable } from './read-file.ts';
import { lossWords, valuesFor, valueWords } from './ship-words.ts';

/** `1 ads`, `2 ad `: a number with the wrong form of its word. */
const WRONG_NUMBER =
  /\b1 (?:\w+ )?(?:ads|keywords|groups|campaigns|rows|negatives|values|extras|budgets)\b|\b2 (?:ad|keyword|campaign|row|negative|value|extra|budget)\b(?! group| setting| row)/;

describe('findings in words', () => {
  test.each(findingRules)('%s says what is wrong and what to do, for one and for many', (rule) => {
    const [one, two] = [1, 2].map((count) => findingWords({ rule, count, field: 'headline2' }));
    for (const { title, remedy } of [one, two] as { title: string; remedy: string }[]) {
      expect(title).toMatch(/^[A-Z0-9].*\.$/);
      expect(title).not.toMatch(WRONG_NUMBER);
      expect(title).not.toContain('headline2');
      expect(remedy).toMatch(/^[A-Z].*[^.]$/);
    }
  });

  test('no two rules say the same', () => {
    const titles = findingRules.map((rule) => findingWords({ rule, count: 3, field: 'headline1' }).title);
    expect(new Set(titles).size).toBe(titles.length);
  });

  const finding = (
    rule: OutletFinding['rule'],
    stage: OutletFinding['place']['stage'],
    more = {},
  ): OutletFinding => ({
    rule,
    severity: 'warning',
    field: null,
    count: 1,
    searches: null,
    facts: 0,
    place: { stage, ...more },
    samples: [],
    outlet: null,
    accepted: null,
    acceptedBy: null,
    acceptedAt: null,
  });

  test.each([
    [finding('no-extras', 'write'), '../write?view=extras'],
    [finding('no-location', 'brief'), '../brief'],
    [finding('presence-interested', 'brief'), '../brief'],
    [finding('spend-over-budget', 'build'), '../build'],
    [finding('address-too-long', 'write'), '../write?view=addresses'],
    [finding('own-keyword-blocked', 'prune'), '../prune?view=negatives'],
    [finding('rival-in-keyword', 'prune'), '../prune'],
    [finding('field-unfilled', 'write', { field: 'headline1' }), '../write?group=t4&field=headline1'],
    [finding('keyword-too-long', 'gather'), '../gather?filter=sea+%26+kayak&state=all'],
    [finding('group-too-large', 'build'), '../build?filter=sea+%26+kayak'],
    [finding('group-loose', 'sort'), '../sort?filter=sea+%26+kayak'],
    [{ ...finding('not-carried', 'ship'), outlet: 'harrowlight' }, '?at=harrowlight'],
  ] as const)('a way to its place', (one, way) => {
    expect(findingPlace(one, 't4', 'sea & kayak')).toBe(way);
  });
});

describe('outlets in words', () => {
  test('each value that a sheet can tell has a name of its own', () => {
    const values = valuesFor('combined');
    const names = values.map(valueWords);
    expect(new Set(names).size).toBe(names.length);
    for (const name of names) expect(name).toMatch(/^[A-Z]/);
    expect(valueWords('headline12')).toBe('Headline 12');
  });

  test('a sheet of one kind offers what such rows have, and the combined one what each of them has', () => {
    for (const kind of sheetKinds) {
      const values = valuesFor(kind);
      expect(values.length).toBeGreaterThan(2);
      expect(new Set(values).size).toBe(values.length);
      expect(values.includes('row-kind')).toBe(kind === 'combined');
    }
    expect(valuesFor('keywords')).toEqual(valuesOfKind.keyword.filter((value) => value !== 'row-kind'));
  });

  test('whatever the shipped outlets have in their columns can be picked', () => {
    for (const { sheets } of shippedOutlets)
      for (const { kind, columns } of sheets)
        expect(valuesFor(kind)).toEqual(
          expect.arrayContaining(columns.map(({ value }) => value).filter((value) => value !== 'row-kind')),
        );
  });

  test.each(lossRules)('%s is told of one and of many', (rule) => {
    expect(lossWords(rule, 1)).toMatch(/^1 /);
    expect(lossWords(rule, 1_200)).toMatch(/^1,200 /);
    for (const words of [lossWords(rule, 1), lossWords(rule, 2)]) expect(words).not.toMatch(WRONG_NUMBER);
  });

  test('a part of an outlet is changed in a copy', () => {
    const changed = withPart(plainOutlet, 'limits.keywordLength', 12);
    expect(partAt(changed, 'limits.keywordLength')).toBe(12);
    expect(partAt(plainOutlet, 'limits.keywordLength')).not.toBe(12);
    expect({ ...changed, limits: plainOutlet.limits }).toEqual(plainOutlet);
    const heading = withPart(plainOutlet, 'sheets.0.columns.0.heading', 'Kampagne');
    expect(partAt(heading, 'sheets.0.columns.0.heading')).toBe('Kampagne');
    expect(partAt(plainOutlet, 'ad.nothing.there')).toBeUndefined();
  });
});

describe('what a look found', () => {
  const check = (rows: Partial<OutletCheck['rows']>, difference: Partial<OutletCheck['difference']>) =>
    ({ rows, difference: { added: 0, changed: 0, removed: 0, same: 0, ...difference } }) as OutletCheck;

  test('rows of all kinds, and those that differ', () => {
    const made = check(
      { campaign: 1, group: 4, keyword: 20 },
      { added: 3, changed: 2, removed: 1, same: 19 },
    );
    expect([rowsIn(made), differing(made)]).toEqual([25, 6]);
    expect([rowsIn(null), differing(null)]).toEqual([0, 0]);
  });

  test('what differs is told by the sheets that are chosen, each kind of row once', () => {
    const told = { campaign: 1, group: 2, keyword: 30, negative: 0, ad: 4, extra: 0 };
    const made = check({}, { told });
    expect(toldBy([{ kind: 'keywords' }, { kind: 'ads' }], made)).toBe(34);
    expect(toldBy([{ kind: 'combined' }, { kind: 'keywords' }], made)).toBe(37);
    expect([toldBy([], made), toldBy([{ kind: 'keywords' }], null)]).toEqual([0, 0]);
  });
});

describe('what was read back, in words', () => {
  const nothing: TakeResult['taken'] = {
    campaigns: 0,
    keywords: 0,
    ads: 0,
    negatives: 0,
    extras: 0,
    groups: 0,
    values: 0,
    paused: 0,
  };
  const result = (taken: Partial<TakeResult['taken']>) => ({ taken: { ...nothing, ...taken } }) as TakeResult;

  test('only what was taken in is told', () => {
    expect(takenWords(result({}))).toBe('Nothing had to change.');
    expect(takenWords(result({ keywords: 1, ads: 2 }))).toBe(
      'Took in 1 keyword row, 2 ads. Ctrl+Z takes it back.',
    );
    expect(takenWords(result({ values: 1_200, paused: 3 }))).toBe(
      'Took in 1,200 values, 3 paused or taken out. Ctrl+Z takes it back.',
    );
  });

  test('a row that can’t be read says what it holds and under which heading', () => {
    const words = (code: Parameters<typeof sheetProblemWords>[0]['code'], column: string, text = '') =>
      sheetProblemWords({ code, column, text });
    expect(words('amount', 'Bid', 'lots')).toBe('“lots” under “Bid” is no amount.');
    expect(words('amount', '', 'lots')).toBe('“lots” is no amount.');
    expect(words('column-missing', 'Keyword')).toContain('no column “Keyword”');
  });

  test('a note speaks of one as of one', () => {
    expect(noteWords('ad-patterns-full', 1)).toMatch(/^1 ad left out/);
    expect(noteWords('ad-mobile', 2)).toMatch(/^2 addresses for phones/);
    expect(noteWords('campaign-by-rule', 1)).toMatch(/^1 row of/);
  });
});

describe('sheets that were written', () => {
  afterEach(() => vi.unstubAllGlobals());

  test.each([
    ['keywords.csv', 'Campaign,Ad group,Keyword', ','],
    ['keywords.csv', 'Campaign;Ad group;Keyword, or not', ';'],
    ['keywords.csv', 'Campaign|Ad group', '|'],
    ['keywords.tsv', 'Campaign, of sorts\tAd group', '\t'],
    ['one.csv', 'Keyword', ','],
  ])('%s: %j is cut at %j', (name, heading, mark) => {
    expect(delimiterIn(name, `${heading}\n;;;;;;\t\t\t\t`)).toBe(mark);
  });

  test('a sheet is read in the encoding that it is in, quotes and line ends within them too', async () => {
    const text = '\ufeffCampaign\tKeyword\n"Café ""one"""\t"sea\nkayak"\n';
    vi.stubGlobal(
      'fetch',
      async () =>
        new Response(Buffer.from(text, 'utf16le'), {
          headers: { 'content-type': 'text/tab-separated-values; charset=utf-16le' },
        }),
    );
    expect(await readTable('/x', 'keywords.tsv')).toEqual([
      ['Campaign', 'Keyword'],
      ['Café "one"', 'sea\nkayak'],
    ]);
  });

  test('of a long sheet only the beginning is fetched, and no row that was cut short is shown', async () => {
    let sent = 0;
    let isCancelled = false;
    const encoder = new TextEncoder();
    const stream = new ReadableStream<Uint8Array>({
      pull: (controller) => {
        sent++;
        controller.enqueue(
          encoder.encode(sent === 1 ? 'Keyword,Bid\n' : `kayak ${'x'.repeat(5_000)},0.5\nkay`),
        );
      },
      cancel: () => {
        isCancelled = true;
      },
    });
    vi.stubGlobal('fetch', async () => new Response(stream));
    const rows = await readStart('/x', 'keywords.csv', 3);
    expect(rows).toHaveLength(4);
    expect(rows[0]).toEqual(['Keyword', 'Bid']);
    expect(rows.at(-1)?.[1]).toBe('0.5');
    expect(isCancelled).toBe(true);
    expect(sent).toBeLessThan(12);
  });

  test('a record that is cut short within its quotes is not shown, nor what would follow it', async () => {
    const text = `Keyword,Bid\nkayak,1\n"sea\ncanoe\n${'x'.repeat(30_000)}`;
    vi.stubGlobal('fetch', async () => new Response(text));
    expect(await readStart('/x', 'keywords.csv', 20)).toEqual([
      ['Keyword', 'Bid'],
      ['kayak', '1'],
    ]);
  });

  test('a short one is shown whole', async () => {
    vi.stubGlobal('fetch', async () => new Response('Keyword\nkayak\ncanoe'));
    expect(await readStart('/x', 'keywords.csv', 20)).toEqual([['Keyword'], ['kayak'], ['canoe']]);
  });

  test('a sheet that is no longer there says so in the server’s words', async () => {
    vi.stubGlobal('fetch', async () =>
      Response.json({ code: 'not-found', message: 'This sheet is gone.' }, { status: 404 }),
    );
    await expect(readTable('/x', 'keywords.csv')).rejects.toThrow('This sheet is gone.');
  });
});
