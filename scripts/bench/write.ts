import { AdWriter, HeldAds, type NumberedPattern, type TokenGroup, tokensOf } from '@sprig/core/ads';
import { plainOutlet } from '@sprig/core/outlets';
import { casingOf, english, ListedWords, lengthOf, type TokenValues } from '@sprig/core/text';
import {
  compilePattern,
  countFits,
  groupValues,
  limitsOf,
  patternOf,
  tryInsertion,
  usualAddressRule,
} from '@sprig/core/write';
import type { DemoKeyword } from '@sprig/market';
import { type Entry, median } from './measure.ts';
import { type Figure, timed } from './server.ts';

const RUNS = 5;
const GROUPS = 20_000;
const writing = {
  pack: english,
  casing: casingOf(['Wrenport', 'Tallowby Bay', 'Saltmarsh Paddle Co.', 'Otterline', 'SUP']),
};

/** Four plain ads, each field with a fallback or two, as one would write them. */
const patterns: NumberedPattern[] = ['today', 'this week', 'for the family', 'by the hour'].map(
  (end, at) => ({
    id: at + 1,
    body: patternOf(
      {
        headline1: [`@keyword ${end} in Eastmere`, `@keyword ${end}`, '@keyword', '@theme'],
        headline2: [`@theme from the boathouse, ${end}`, 'Saltmarsh Paddle Co.'],
        headline3: ['@keyword at Saltmarsh', 'On the water in an hour'],
        description1: [
          `Looking for @keyword? Try it on the water first, ${end}, then decide.`,
          `Try it on the water first, ${end}, then decide. Open all year.`,
        ],
        description2: ['Fitted by people who paddle. Hire by the hour, the day or the week.'],
        path1: ['@theme', 'paddle'],
        path2: ['eastmere'],
      },
      'title',
    ),
  }),
);

/** The first keywords, each an ad group. */
const groupsOf = (many: readonly DemoKeyword[]): TokenGroup[] =>
  many.slice(0, GROUPS).map(
    ({ text }, at): TokenGroup => ({
      key: `k${at + 1}`,
      keyword: text,
      name: text,
      theme: 1,
      themeName: text.split(' ').slice(0, 3).join(' '),
      branch: 'Boats',
      place: null,
      stage: null,
      campaignKey: 'c0',
    }),
  );

const input = {
  patterns,
  address: { ...usualAddressRule(), path: '/find/@keyword' },
  common: { site: 'saltmarshpaddle.example', offer: '', year: '2027', brands: new ListedWords([]) },
  held: new HeldAds([]),
  writing,
  parentOf: () => null,
};

/** What one more letter in a pattern costs: the ads in view, written at once, and the counts of all groups behind them. */
export async function writeKeystrokes(many: readonly DemoKeyword[]): Promise<Figure[]> {
  const groups = groupsOf(many);
  const limits = limitsOf(plainOutlet.ad.plain ?? fail());
  const values = groups.map((group) => groupValues(tokensOf(group, input.common)));
  const typed = (letters: number) => {
    const [first, ...others] = patterns as [NumberedPattern, ...NumberedPattern[]];
    const fields = { ...first.body.fields };
    fields.headline1 = { ...fields.headline1, lines: [`@keyword ${'today'.slice(0, letters)}`, '@keyword'] };
    return [{ ...first, body: { ...first.body, fields } }, ...others];
  };
  const views: number[] = [];
  const counts: number[] = [];
  for (let letter = 0; letter < 60; letter++) {
    const now = typed(letter % 6);
    const inView = groups.slice(letter * 4, letter * 4 + 4);
    views.push(
      await timed(async () => {
        const writer = new AdWriter({ ...input, patterns: now }, plainOutlet);
        for (const group of inView) writer.of(group);
      }),
    );
    counts.push(
      await timed(async () =>
        countFits(
          compilePattern((now[0] as NumberedPattern).body),
          GROUPS,
          (at) => values[at] as TokenValues,
          limits,
          writing,
        ),
      ),
    );
  }
  const words = (times: number[]) => {
    const sorted = times.slice(2).sort((a, b) => a - b);
    return `${at(sorted, 0.5)}, ${at(sorted, 0.95)}`;
  };
  return [
    {
      name: 'a letter in a pattern: the four ad groups in view with all their ads, median and 95th percentile',
      value: words(views),
      target: '16 ms',
    },
    {
      name: `and the counts of all ${GROUPS.toLocaleString('en')} ad groups, in the worker`,
      value: words(counts),
      target: '300 ms',
    },
  ];
}

const at = (sorted: readonly number[], share: number) =>
  `${(sorted[Math.floor(sorted.length * share)] as number).toFixed(1)} ms`;

/** Ads for many groups, and keywords put in at search time. */
export async function writeEntries(many: readonly DemoKeyword[]): Promise<Entry[]> {
  const groups = groupsOf(many);
  const limits = limitsOf(plainOutlet.ad.plain ?? fail());
  const values = groups.map((group) => groupValues(tokensOf(group, input.common)));
  const first = performance.now();
  for (const { body } of patterns)
    countFits(compilePattern(body), GROUPS, (at) => values[at] as TokenValues, limits, writing);
  const fresh = performance.now() - first;
  const counted = await median(RUNS, () =>
    patterns.map(({ body }) =>
      countFits(compilePattern(body), GROUPS, (at) => values[at] as TokenValues, limits, writing),
    ),
  );
  const fitted = await median(RUNS, () => {
    const writer = new AdWriter(input, plainOutlet);
    return groups.map((group) => writer.of(group));
  });
  const floor = await median(RUNS, () => {
    let total = 0;
    for (const { keyword, themeName } of groups)
      for (const { body } of patterns)
        for (const { lines } of Object.values(body.fields)) {
          const text = (lines[0] ?? '').replace('@keyword', keyword).replace('@theme', themeName ?? '');
          total += lengthOf(text);
        }
    return total;
  });
  const live = compilePattern(
    patternOf(
      {
        headline1: ['@keyword(live, or Kayaks) for hire'],
        headline2: ['Try @keyword(live, or a kayak)'],
        headline3: ['@keyword(live, or Kayaks)'],
        description1: ['Looking for a @keyword(live, or kayak)? Try it on the water first.'],
      },
      'title',
    ),
  );
  const keywords = many.map(({ text }) => text);
  const words = { banned: new ListedWords(['Fathom & Reed', 'Deepwell']), casing: new Set(['SUP']) };
  const insertion = await median(RUNS, () =>
    tryInsertion(live, { keyword: 'kayak' }, keywords, limits, writing, words),
  );
  const filling = await median(RUNS, () => {
    let total = 0;
    for (const keyword of keywords)
      for (const line of ['@ for hire', 'Try @', '@', 'Looking for a @? Try it on the water first.'])
        total += lengthOf(line.replace('@', keyword));
    return total;
  });
  return [
    {
      name: `${GROUPS.toLocaleString('en')} groups × 4 ads fitted and counted for the first time`,
      ms: fresh,
      floor: 'fill and measure one line per field',
      floorMs: floor,
    },
    {
      name: 'the same again, as after a change of every pattern',
      ms: counted,
      floor: 'fill and measure one line per field',
      floorMs: floor,
    },
    {
      name: `${GROUPS.toLocaleString('en')} groups × 4 ads written whole, with their addresses, and kept`,
      ms: fitted,
      floor: 'fill and measure one line per field',
      floorMs: floor,
    },
    {
      name: `${keywords.length.toLocaleString('en')} keywords inserted in 4 fields and checked`,
      ms: insertion,
      floor: 'fill and measure each',
      floorMs: filling,
    },
  ];
}

const fail = (): never => {
  throw new Error('no form');
};
