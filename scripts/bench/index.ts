import { manyKeywords } from '@sprig/market';
import { browserFigures } from './browser.ts';
import { buildFigures } from './build.ts';
import { coreEntries } from './core.ts';
import { figuresMeasured } from './figures.ts';
import { loadingMeasured } from './loading.ts';
import { type Measured, measuredApart } from './measured-apart.ts';
import { mixFigures } from './mix.ts';
import { peopleMeasured } from './people.ts';
import { keystrokes } from './prune.ts';
import { replaceInReport, writeReport } from './report.ts';
import { serverFigures } from './server.ts';
import { millionFigures, sortEntries, sortFigures } from './sort.ts';
import { stepsBackFigures } from './steps-back.ts';
import { storing } from './storing.ts';
import { writeEntries, writeKeystrokes } from './write.ts';

/** Measures everything in one run, prints it, and writes docs/benchmarks.md; `build`, `ship`, `figures`, `loading`, `people` and `learn` measure only that part anew. */
if (process.argv.includes('build'))
  replaceInReport({ entries: [], figures: await buildAndBack(manyKeywords(100_000)) });
else if (process.argv.includes('ship')) replaceInReport(await measuredApart('ship'));
else if (process.argv.includes('figures')) replaceInReport(await figuresMeasured());
else if (process.argv.includes('loading')) replaceInReport(await loadingMeasured());
else if (process.argv.includes('people')) replaceInReport(await peopleMeasured());
else if (process.argv.includes('learn')) replaceInReport(await measuredApart('learn'));
else writeReport(await everything());

async function buildAndBack(many: Parameters<typeof buildFigures>[0]): Promise<Measured['figures']> {
  return [...(await buildFigures(many)), ...(await stepsBackFigures(many))];
}

async function everything(): Promise<Measured> {
  const entries = await coreEntries();
  const many = manyKeywords(100_000);
  const figures = [
    ...(await keystrokes(many)),
    ...(await mixFigures(many)),
    ...(await sortFigures(many)),
    ...millionFigures(manyKeywords(1_000_000)),
    ...(await browserFigures()),
    ...(await serverFigures()),
    ...(await buildAndBack(many)),
  ];
  figures.push(...(await loadingMeasured()).figures);
  figures.push(...(await peopleMeasured()).figures);
  const learned = await figuresMeasured();
  const ship = await measuredApart('ship');
  const results = await measuredApart('learn');
  figures.push(...ship.figures, ...results.figures, ...(await writeKeystrokes(many)));
  entries.push(
    ...(await sortEntries(many)),
    ...learned.entries,
    await storing(),
    ...ship.entries,
    ...results.entries,
    ...(await writeEntries(many)),
  );
  return { entries, figures };
}
