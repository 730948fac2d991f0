import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { CopyRows, copyField, numbersIn, textsIn } from './copy.ts';

const text = fc.oneof(
  fc.string({ unit: 'binary', maxLength: 12 }).map((one) => one.replaceAll('\0', '')),
  fc.constantFrom('', '\\N', 'a\tb', 'a\nb', 'a\r\nb', '\\', 'enabled', '{}', '🛶'),
);
const row = fc.record({
  key: text,
  bid: fc.maxSafeInteger(),
  marks: fc.array(fc.integer({ min: -9, max: 99 }), { maxLength: 3 }),
  labels: fc.array(
    text.filter((one) => one !== ''),
    { maxLength: 3 },
  ),
});
const lineOf = ({ key, bid, marks, labels }: typeof row extends fc.Arbitrary<infer R> ? R : never) =>
  `${[copyField(key, 'text'), copyField(bid, 'int8'), copyField(marks, 'int2[]'), copyField(labels, 'text[]')].join('\t')}\n`;

describe('rows in the form of COPY', () => {
  test('are gone over field by field, whatever stands in them', () => {
    fc.assert(
      fc.property(fc.array(row, { maxLength: 6 }), (rows) => {
        const over = new CopyRows(rows.map(lineOf).join(''));
        const read = [];
        while (!over.isDone)
          read.push({
            key: over.text(),
            bid: over.whole(),
            marks: numbersIn(over.text()),
            labels: textsIn(over.text()),
          });
        expect(read).toEqual(rows);
      }),
    );
  });

  test('a field is passed only if it says just this, and a row is skipped to its end', () => {
    const rows = new CopyRows('t1\t{}\tx\nt12\t{1}\ty\nt1\tz\n');
    expect(rows.passes('t')).toBe(false);
    expect(rows.passes('t1')).toBe(true);
    expect(rows.passes('{}')).toBe(true);
    rows.skip();
    expect(rows.passes('t1')).toBe(false);
    rows.skip();
    expect([rows.passes('t1'), rows.passes('z'), rows.isDone, rows.passes('z')]).toEqual([
      true,
      true,
      true,
      false,
    ]);
  });

  test('some of the rows of a text', () => {
    const all = 'a\t1\nb\t2\nc\t3\n';
    const rows = new CopyRows(all, all.indexOf('b'), all.indexOf('c'));
    expect([rows.text(), rows.whole(), rows.isDone]).toEqual(['b', 2, true]);
  });
});
