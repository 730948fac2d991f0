import { loaded } from './clients.ts';
import { diskFull } from './disk-full.ts';
import { fuzz } from './fuzz.ts';
import { type End, killed } from './kills.ts';
import { type Line, writeFigures } from './report.ts';

/**
 * The long form of the fault tests: kills, cut connections, mutated inputs, a full disk, many clients. Prints what it finds
 * and writes the figures to docs/reliability.md; ends with 1 where anything was lost. `seed=N` for other moments.
 */
const seed = Number(process.argv.find((one) => one.startsWith('seed='))?.slice(5) ?? 1);
const url = process.env.DATABASE_URL ?? '';
const KILLS = 200;
/** A plan is left for a new one after so many, so that it does not grow without end. */
const KILLS_OF_A_PLAN = 8;
const start = performance.now();
const lines: Line[] = [];
const failures: string[] = [];
const found = (list: readonly string[]) => (list.length === 0 ? 'nothing' : `**${list.length} failures**`);
const ms = (value: number) => `${Math.round(value).toLocaleString('en')} ms`;
const count = (value: number) => value.toLocaleString('en');
function note(line: Line, list: readonly string[]) {
  lines.push(line);
  failures.push(...list.map((what) => `${line.what}: ${what}`));
  console.log(`${line.what}: ${line.tries}; found ${line.found}; ${line.slowest}`);
  for (const what of list.slice(0, 20)) console.log(`  ${what}`);
}

const fuzzed = await fuzz(20_000, seed);
for (const [name, { tries, slowestMs }] of Object.entries(fuzzed.byReader)) {
  const own = fuzzed.failures.filter((one) => one.startsWith(`${name},`));
  note({ what: `Mutated ${name}`, tries: count(tries), found: found(own), slowest: ms(slowestMs) }, own);
}

const sums = { kills: 0, edits: 0, imports: 0, shipments: 0, calls: 0, slowest: 0 };
const lost: string[] = [];
for (let round = 0; sums.kills < KILLS; round++) {
  // Every fourth end is of the connections, all others of the server.
  const ends = Array.from({ length: KILLS_OF_A_PLAN }, (_, n): End => (n % 4 === 3 ? 'database' : 'server'));
  const told = await killed(url, ends, seed * 1_000 + round);
  sums.kills += told.kills;
  sums.edits += told.edits;
  sums.imports += told.imports;
  sums.shipments += told.shipments;
  sums.calls += told.tally.calls;
  sums.slowest = Math.max(sums.slowest, told.tally.slowestMs);
  lost.push(...told.failures.map((what) => `round ${round}, ${what}`));
  console.log(`${sums.kills} of ${KILLS} kills, ${lost.length} failures`);
  if (told.kills === 0) break;
}
note(
  {
    what: 'Server killed, or its connections cut, in the middle of edits, lists and shipments',
    tries: `${count(sums.kills)} ends; ${count(sums.edits)} edits, ${count(sums.imports)} lists, ${count(sums.shipments)} shipments acknowledged`,
    found: found(lost),
    slowest: ms(sums.slowest),
  },
  lost,
);

const full = await diskFull(seed);
note(
  full
    ? {
        what: 'A disk that fills up while lists come in, and has room again',
        tries: `${full.listsBefore} lists in, ${full.refusals.length} refused${full.databaseEnded ? ', the database ended and was started again' : ''}`,
        found: found(full.failures),
        slowest: '–',
      }
    : { what: 'A disk that fills up', tries: 'not run: needs the right to mount', found: '–', slowest: '–' },
  full?.failures ?? [],
);
for (const words of full?.refusals ?? []) console.log(`  it said: ${words}`);

const many = await loaded(url, 50, 60, seed);
note(
  {
    what: '50 clients at once on ten plans, one of which takes in lists of 30,000',
    tries: `60 s; ${count(many.tally.calls)} requests, half of them within ${ms(many.p50)}, 99% within ${ms(many.p99)}; ${many.busy} edits told to come again`,
    found: found(many.failures),
    slowest: ms(many.tally.slowestMs),
  },
  many.failures,
);
writeFigures(lines, seed, Math.round((performance.now() - start) / 60_000));
if (failures.length > 0) process.exitCode = 1;
