import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { root } from '../setup/root.mjs';

export type Line = { what: string; tries: string; found: string; slowest: string };

const FROM = '<!-- figures -->';
const TO = '<!-- end of figures -->';

/** Puts the figures of a run in their place in docs/reliability.md. */
export function writeFigures(lines: readonly Line[], seed: number, minutes: number): void {
  const file = join(root, 'docs/reliability.md');
  const text = readFileSync(file, 'utf8');
  const from = text.indexOf(FROM);
  const to = text.indexOf(TO);
  if (from < 0 || to < from) throw new Error(`${file} has no place for figures.`);
  const day = new Date().toISOString().slice(0, 10);
  const rows = lines.map(
    ({ what, tries, found, slowest }) => `| ${what} | ${tries} | ${found} | ${slowest} |`,
  );
  const table = [
    '| What was tried | How often | What was found | Slowest |',
    '| --- | --- | --- | --- |',
    ...rows,
  ];
  const about = `Of ${day}, on ${cpus().length} cores, seed ${seed}, ${minutes} minutes.`;
  writeFileSync(
    file,
    `${text.slice(0, from + FROM.length)}\n\n${about}\n\n${table.join('\n')}\n\n${text.slice(to)}`,
  );
  execFileSync('npx', ['biome', 'format', '--write', file]);
}
