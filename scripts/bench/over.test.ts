import { describe, expect, test } from 'vitest';
import { isOver, withMarks } from './over.ts';

describe('what is over', () => {
  test.each([
    ['5.00 s', '5 s', false],
    ['5.01 s', '5 s', true],
    ['999 ms', '1 s', false],
    ['1,001 ms', '1 s', true],
    ['1.00 min', '59 s', true],
    ['1,034 MB', '600 MB', true],
    ['189 kB', '250 kB', false],
    ['6.4×', '4×', true],
    ['3.9×', '4×', false],
    ['4.5%', '2%', true],
    ['0', '0', false],
    ['1', '0', true],
    // The median, of a median and a percentile; and the time, not how many it is of.
    ['5.8 ms, 13.6 ms', '10 ms', false],
    ['67 ms of 688', '400 ms', false],
    ['under 50 ms', '50 ms', false],
    ['12.0 s', '–', null],
    ['measured', 'at most', null],
  ])('%s where it may be %s: %s', (measured, most, over) => {
    expect(isOver(measured, most)).toBe(over);
  });
});

const table = (...rows: string[]) =>
  ['| what | measured | at most |', '| --- | ---: | ---: |', ...rows].join('\n');

test('each row that is over is marked, and the last line counts them', () => {
  const report = `# Benchmarks\n\n${table('| one | 2 s | 1 s |', '| two | 2 s | 3 s |', '| three | 2 s | – |')}\n`;
  expect(withMarks(report)).toBe(
    `# Benchmarks\n\n${table('| one | 2 s | 1 s (over) |', '| two | 2 s | 3 s |', '| three | 2 s | – |')}\n\n1 of 2 rows that may be at most so much are over it.\n`,
  );
});

test('a report that was marked before is marked anew', () => {
  const before = withMarks(`${table('| one | 2 s | 1 s |', '| two | 5 s | 3 s |')}\n`);
  expect(withMarks(before)).toBe(before);
  const after = withMarks(before.replace('| one | 2 s |', '| one | 0.9 s |'));
  expect(after).toContain('| one | 0.9 s | 1 s |');
  expect(after).toContain('| two | 5 s | 3 s (over) |');
  expect(after.endsWith('\n\n1 of 2 rows that may be at most so much are over it.\n')).toBe(true);
});

test('computations are held against their ratio', () => {
  const line = '| parse | 1556 ms | split | 244 ms | 6.4× | 4× |';
  expect(withMarks(`${line}\n`)).toContain('| 6.4× | 4× (over) |');
});
