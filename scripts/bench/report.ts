import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { Entry } from './measure.ts';
import type { Measured } from './measured-apart.ts';
import { withMarks } from './over.ts';
import type { Figure } from './server.ts';

const file = fileURLToPath(new URL('../../docs/benchmarks.md', import.meta.url));
const row = (...cells: string[]) => `| ${cells.join(' | ')} |`;
const entryRow = ({ name, ms, floor, floorMs, most }: Entry) =>
  row(
    name,
    `${ms.toFixed(0)} ms`,
    floor,
    `${floorMs.toFixed(0)} ms`,
    `${(ms / floorMs).toFixed(1)}×`,
    most === undefined ? '–' : `${most}×`,
  );
const figureRow = ({ name, value, target }: Figure) => row(name, value, target);

const write = (made: string) => {
  const report = withMarks(made);
  console.log(report);
  writeFileSync(file, report);
  execFileSync('npx', ['biome', 'format', '--write', file]);
};

/** Writes docs/benchmarks.md. */
export function writeReport({ entries, figures }: Measured): void {
  const day = new Date().toISOString().slice(0, 10);
  write(`# Benchmarks

Made by \`npm run bench\` on ${day}: Node ${process.versions.node}, ${cpus().length} cores. Times are medians and vary from machine to machine; the
ratio is against a floor measured in the same run on the same data: the least work that any program would have to do. What is more
than it may be at most is marked.

${[
  row('computation', 'time', 'floor', 'floor time', 'ratio', 'at most'),
  row('---', '---:', '---', '---:', '---:', '---:'),
  ...entries.map(entryRow),
].join('\n')}

The whole path through a real server process and PostgreSQL, as the browser takes it:

${[row('what', 'measured', 'at most'), row('---', '---:', '---:'), ...figures.map(figureRow)].join('\n')}
`);
}

/** Puts a part that was measured again, floors and all, in the place of what stands there. */
export function replaceInReport({ entries, figures }: Measured): void {
  const made = new Map([
    ...entries.map((entry) => [entry.name, entryRow(entry)] as const),
    ...figures.map((figure) => [figure.name, figureRow(figure)] as const),
  ]);
  const lines = readFileSync(file, 'utf8').split('\n');
  const there = new Set(lines.map((line) => line.split('|')[1]?.trim() ?? ''));
  const missing = (names: readonly { name: string }[]) =>
    names.flatMap(({ name }) => (there.has(name) ? [] : [made.get(name) as string]));
  // What is measured for the first time goes to the end of its table.
  const ends = lines.flatMap((line, at) =>
    line.startsWith('|') && !lines[at + 1]?.startsWith('|') ? [at] : [],
  );
  lines.splice((ends[1] ?? lines.length) + 1, 0, ...missing(figures));
  lines.splice((ends[0] ?? lines.length) + 1, 0, ...missing(entries));
  write(lines.map((line) => made.get(line.split('|')[1]?.trim() ?? '') ?? line).join('\n'));
}
