import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asDay, dayOf, daysOf, daysOn, isoDay, rangeIn, readDay, readWeek, weekdayOf } from './index.ts';
import { dayOrderOf } from './read-day.ts';

const iso = (day: ReturnType<typeof readDay>) => (day === undefined ? undefined : isoDay(day));
const isoTime = (time: ReturnType<typeof rangeIn> | undefined) =>
  time ? `${isoDay(time.from)} ${isoDay(time.to)}` : time;

describe('days', () => {
  test.each([
    ['2026-11-28', '2026-11-28'],
    ['2026-11-28T00:00:00', '2026-11-28'],
    ['2026/1/5', '2026-01-05'],
    ['20261128', '2026-11-28'],
    ['28.11.2026', '2026-11-28'],
    ['28.11.26', '2026-11-28'],
    ['28 Nov 2026', '2026-11-28'],
    ['Sat, 28 November 2026', '2026-11-28'],
    ['Nov 28, 2026', '2026-11-28'],
    ['November 28th 2026', '2026-11-28'],
    ['28. März 2026', '2026-03-28'],
    ['1 févr. 2026', '2026-02-01'],
    ['5 de enero de 2026', '2026-01-05'],
    ['3 grudnia 2026', '2026-12-03'],
    ['29.02.2028', '2028-02-29'],
    ['29.02.2026', undefined],
    ['31.04.2026', undefined],
    ['2026-13-01', undefined],
    ['1.300', undefined],
    ['300', undefined],
    ['', undefined],
    ['28 Foo 2026', undefined],
  ])('“%s” is %s', (cell, day) => {
    expect(iso(readDay(cell, 'day-first'))).toBe(day);
  });

  test('which of two figures is the month is told by the column, else asked', () => {
    expect(dayOrderOf(['03/04/2026', '13/04/2026'])).toEqual({ order: 'day-first', open: false });
    expect(dayOrderOf(['03/04/2026', '04/13/2026'])).toEqual({ order: 'month-first', open: false });
    expect(dayOrderOf(['13/04/2026', '04/13/2026']).open).toBe(true);
    expect(dayOrderOf(['03/04/2026']).open).toBe(true);
    expect(dayOrderOf(['04/04/2026', '2026-05-06'])).toEqual({ order: 'day-first', open: false });
    // A run of days, read the other way, is spread over months.
    expect(dayOrderOf(['11/01/2026', '11/02/2026', '11/03/2026', '11/04/2026'])).toEqual({
      order: 'month-first',
      open: false,
    });
    expect(dayOrderOf(['01/11/2026', '02/11/2026', '03/11/2026'])).toEqual({
      order: 'day-first',
      open: false,
    });
  });

  test('every day reads back as it is written, and follows the one before', () => {
    fc.assert(
      fc.property(fc.integer({ min: 7_305, max: 80_000 }), (number) => {
        const day = asDay(number);
        const [year = '', month = '', date = ''] = isoDay(day).split('-');
        expect(readDay(isoDay(day), 'day-first')).toBe(day);
        expect(readDay(`${date}.${month}.${year}`, 'day-first')).toBe(day);
        expect(readDay(`${month}/${date}/${year}`, 'month-first')).toBe(day);
        expect(dayOf(Number(year), Number(month), Number(date))).toBe(day);
        expect(weekdayOf(asDay(number + 1))).toBe((weekdayOf(day) % 7) + 1);
      }),
    );
  });

  test('weeks by their first day or their number', () => {
    expect(isoTime(readWeek('2026-W48', 'day-first'))).toBe('2026-11-23 2026-11-29');
    expect(isoTime(readWeek('2026-W01', 'day-first'))).toBe('2025-12-29 2026-01-04');
    expect(isoTime(readWeek('2026-W53', 'day-first'))).toBe('2026-12-28 2027-01-03');
    expect(readWeek('2027-W53', 'day-first')).toBeUndefined();
    expect(readWeek('2026-W54', 'day-first')).toBeUndefined();
    expect(isoTime(readWeek('22.11.2026', 'day-first'))).toBe('2026-11-22 2026-11-28');
    expect(weekdayOf(readWeek('2026-W48', 'day-first')?.from ?? asDay(0))).toBe(1);
  });

  test.each([
    ['Search terms, 1 Nov 2026 – 28 Nov 2026', '2026-11-01 2026-11-28'],
    ['November 1, 2026 - November 28, 2026', '2026-11-01 2026-11-28'],
    ['01.11.2026 bis 28.11.2026', '2026-11-01 2026-11-28'],
    ['2026-11-28', '2026-11-28 2026-11-28'],
    ['Made on 2026-11-29', null],
    ['2026-11-28 to 2026-11-01', null],
    ['2026-11-01 to 2026-11-28, made on 2026-11-29', null],
    ['03/04/2026 - 05/04/2026', null],
    ['Campaign report', null],
  ])('a title “%s” tells %s', (line, range) => {
    expect(isoTime(rangeIn(line))).toBe(range);
  });

  test('days are counted on and back across months and leap days', () => {
    expect([daysOn('2026-12-25', 14), daysOn('2028-03-01', -1), daysOn('2026-11-28', 0)]).toEqual([
      '2027-01-08',
      '2028-02-29',
      '2026-11-28',
    ]);
  });

  test('a time has its first and its last day', () => {
    expect(daysOf({ from: asDay(10), to: asDay(10) })).toBe(1);
    expect(daysOf({ from: asDay(10), to: asDay(16) })).toBe(7);
  });
});
