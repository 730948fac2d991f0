import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { manyKeywords } from '@sprig/market';
import { browserFigures } from './browser.ts';
import { buildFigures } from './build.ts';
import { coreEntries } from './core.ts';
import { mixFigures } from './mix.ts';
import { keystrokes } from './prune.ts';
import { serverFigures } from './server.ts';
import { shipEntries, shipFigures } from './ship.ts';
import { millionFigures, sortEntries, sortFigures } from './sort.ts';
import { storing } from './storing.ts';
import { writeEntries, writeKeystrokes } from './write.ts';

/** Measures everything in one run, prints it, and writes docs/benchmarks.md. */
const entries = await coreEntries();
const many = manyKeywords(100_000);
const figures = [
  ...(await keystrokes(many)),
  ...(await mixFigures(many)),
  ...(await sortFigures(many)),
  ...millionFigures(manyKeywords(1_000_000)),
  ...(await browserFigures()),
  ...(await serverFigures()),
  ...(await buildFigures(many)),
  ...(await shipFigures()),
  ...(await writeKeystrokes(many)),
];
entries.push(
  ...(await sortEntries(many)),
  await storing(),
  ...(await shipEntries()),
  ...(await writeEntries(many)),
);

const row = (...cells: string[]) => `| ${cells.join(' | ')} |`;
const day = new Date().toISOString().slice(0, 10);
const report = `# Benchmarks

Made by \`npm run bench\` on ${day}: Node ${process.versions.node}, ${cpus().length} cores. Times are medians and vary from machine to machine; the
ratio is against a floor measured in the same run on the same data: the least work that any program would have to do.

${[
  row('computation', 'time', 'floor', 'floor time', 'ratio'),
  row('---', '---:', '---', '---:', '---:'),
  ...entries.map(({ name, ms, floor, floorMs }) =>
    row(name, `${ms.toFixed(0)} ms`, floor, `${floorMs.toFixed(0)} ms`, `${(ms / floorMs).toFixed(1)}×`),
  ),
].join('\n')}

The whole path through a real server process and PostgreSQL, as the browser takes it:

${[row('what', 'measured', 'at most'), row('---', '---:', '---:'), ...figures.map(({ name, value, target }) => row(name, value, target))].join('\n')}
`;
console.log(report);
const file = fileURLToPath(new URL('../../docs/benchmarks.md', import.meta.url));
writeFileSync(file, report);
execFileSync('npx', ['biome', 'format', '--write', file]);
