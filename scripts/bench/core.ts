import { closeSync, openSync, writeSync } from 'node:fs';
import { type BuildKeyword, bidOf, buildPlan, defaultLayout } from '@sprig/core/build';
import { readList } from '@sprig/core/gather';
import { asMicros, decimalFromMicros } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { CellMaker, SheetWriter } from '@sprig/core/sheets';
import { normalise } from '@sprig/core/text';
import { type DemoKeyword, manyKeywords } from '@sprig/market';
import { frameInputOf, keywordOf } from '../../packages/core/fixtures/build.ts';
import { buildEntries } from './build.ts';
import { type Entry, median } from './measure.ts';
import { mixEntries } from './mix.ts';
import { pruneEntries } from './prune.ts';

const RUNS = 5;
const usual = defaultLayout('Saltmarsh', 'GBP');
const layout = { ...usual, lanes: usual.lanes.map((lane) => ({ ...lane, types: 1 | 4 | 8 })) };

/** Parse 100,000 lines, against splitting the same text at lines, tabs and spaces and counting the words once. */
async function parseList(keywords: readonly DemoKeyword[]): Promise<Entry> {
  const text = keywords
    .map(({ text: keyword, searches, cpc }) => `${keyword}\t${searches}\t${decimalFromMicros(cpc, 2)}`)
    .join('\n');
  const ms = await median(RUNS, () => readList(text));
  const floorMs = await median(RUNS, () => {
    const counts = new Map<string, number>();
    for (const line of text.split('\n'))
      for (const word of (line.split('\t')[0] ?? '').split(' '))
        counts.set(word, (counts.get(word) ?? 0) + 1);
    return counts;
  });
  return {
    name: 'parse 100,000 lines with figures',
    ms,
    floor: 'split the same text and count its words once',
    floorMs,
    most: 4,
  };
}

/** Build 100,000 keywords into 300,000 rows, against joining the cells of the same rows to strings. */
async function build(keywords: readonly BuildKeyword[]): Promise<Entry> {
  const input = frameInputOf({ keywords, layout });
  const { rows } = buildPlan(input);
  const ms = await median(RUNS, () => buildPlan(input));
  const floorMs = await median(RUNS, () => {
    const lines: string[] = [];
    for (const { key, groupKey, text, type, base } of rows)
      lines.push(`${key}\t${groupKey}\t${text}\t${type}\t${base}`);
    return lines;
  });
  return {
    name: `build 100,000 keywords, an ad group each, into ${rows.length.toLocaleString('en')} rows`,
    ms,
    floor: 'join the same rows',
    floorMs,
  };
}

/** Write 1,000,000 rows of sheet to a file, against joining the same finished cells and writing the same bytes. */
async function writeRows(keywords: readonly BuildKeyword[]): Promise<Entry> {
  const { rows, groups } = buildPlan(frameInputOf({ keywords, layout }));
  const names = new Map(groups.map(({ key, name }) => [key, name]));
  const { columns } = plainOutlet.sheets.find(
    ({ kind }) => kind === 'keywords',
  ) as (typeof plainOutlet.sheets)[number];
  const penny = asMicros(10_000);
  const total = 1_000_000;
  const into = (line: (at: number) => string) => {
    const file = openSync('/dev/null', 'w');
    let text = '';
    for (let at = 0; at < total; at++) {
      text += line(at);
      if (text.length > 524_288) {
        writeSync(file, text);
        text = '';
      }
    }
    writeSync(file, text);
    closeSync(file);
  };
  const maker = new CellMaker({ outlet: plainOutlet, decimals: 2 });
  const writer = new SheetWriter(columns, maker.values, ',', '\r\n');
  const place = new Map(
    rows.map(({ groupKey }) => [groupKey, { campaign: 'Saltmarsh', name: names.get(groupKey) ?? '' }]),
  );
  const groupOf = rows.map(({ groupKey }) => place.get(groupKey) as { campaign: string; name: string });
  const ms = await median(3, () =>
    into((at) => {
      const n = at % rows.length;
      const { campaign, name } = groupOf[n] as { campaign: string; name: string };
      const { text, type, marks, base, steps, heldBid, labels, status } = rows[n] as (typeof rows)[number];
      const bid = bidOf({ base, steps, held: heldBid }, layout.ladder, penny);
      const row = {
        kind: 'keyword' as const,
        finalUrl: '',
        campaign,
        group: name,
        bids: null,
        text,
        type,
        marks,
        labels,
        status,
      };
      return writer.row(maker.of({ ...row, bid }));
    }),
  );
  const cells = rows.map((row) => [
    'Saltmarsh',
    names.get(row.groupKey),
    row.text,
    'Exact',
    '0.58',
    '',
    'Enabled',
  ]);
  const floorMs = await median(3, () =>
    into((at) => `${(cells[at % cells.length] as string[]).join(',')}\r\n`),
  );
  return {
    name: 'write 1,000,000 keyword rows as csv',
    ms,
    floor: 'join the same finished cells and write the same bytes',
    floorMs,
    most: 4,
  };
}

export async function coreEntries(): Promise<Entry[]> {
  const demo = manyKeywords(100_000);
  const keywords = demo.map(
    ({ text, cpc }, at): BuildKeyword => keywordOf(at + 1, text, { norm: normalise(text), cpc }),
  );
  return [
    await parseList(demo),
    await build(keywords),
    await writeRows(keywords),
    ...(await pruneEntries(demo)),
    ...(await mixEntries(demo)),
    ...(await buildEntries(demo)),
  ];
}
