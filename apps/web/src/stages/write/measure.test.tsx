import { fennelwick, harrowlight, plainOutlet, quillmere } from '@sprig/core/outlets';
import { screen } from '@testing-library/react';
import { describe, expect, test, vi } from 'vitest';
import { shown } from '../../testing/rendered.tsx';
import { formOf, limitsBy, limitsOfAds, MeasureChips, measureBy, measureFor, roomWords } from './measure.tsx';

const three = [plainOutlet, harrowlight, quillmere];

describe('what ads are measured by', () => {
  test('all outlets of the plan together, or one of them', () => {
    expect(limitsBy(measureBy(three, '')).plain.headline1?.limit).toBe(30);
    expect(measureBy(three, 'harrowlight').outlet).toBe(harrowlight);
    expect(limitsBy(measureBy(three, 'harrowlight')).plain.headline1?.limit).toBe(46);
  });

  test('an outlet that the plan does not ship to stands for all', () => {
    const measure = measureBy(three, 'fennelwick');
    expect(measure.at).toBe('');
    expect(measure.outlet.key).toBe(measureBy(three, '').outlet.key);
  });

  test('without outlets yet, plain sheets', () => {
    expect(measureBy([], '').outlet).toBe(plainOutlet);
  });

  test('a pattern that is for some outlets is measured by these alone', () => {
    const all = measureBy(three, '');
    const wide = measureFor(all, { outlets: ['harrowlight'] });
    expect([wide.outlet, wide.shipped]).toEqual([harrowlight, three]);
    const two = measureFor(all, { outlets: ['harrowlight', 'plain', 'of-another-plan'] });
    expect(limitsBy(two).plain.headline1?.limit).toBe(32);
    // The one that is looked at is not one of them.
    expect(measureFor(measureBy(three, 'quillmere'), { outlets: ['harrowlight'] }).outlet).toBe(harrowlight);
    expect(measureFor(all, { outlets: ['fennelwick'] }).outlets).toEqual([]);
    const limits = limitsOfAds(all, { 1: { outlets: ['harrowlight'] }, 2: { outlets: [] } });
    expect([1, 2, 3].map((pattern) => limits({ pattern, form: 'plain' }).headline1?.limit)).toEqual([
      46, 30, 30,
    ]);
  });

  test('a form that none of them knows can still be read', () => {
    const measure = measureBy([harrowlight, quillmere], '');
    expect(measure.outlet.ad.assembled).toBeNull();
    expect(formOf(measure, 'assembled')).toBe(plainOutlet.ad.assembled);
  });
});

describe('the room of a field, in words', () => {
  test('the outlet with the least, and all of them', () => {
    expect(roomWords(measureBy(three, ''), 'plain', 'headline1')).toEqual({
      least: 'Quillmere',
      all: '30 (Quillmere), 32 (Plain sheets), 46 (Harrowlight)',
    });
    expect(roomWords(measureBy(three, ''), 'plain', 'headline3')).toBeNull();
  });

  test('nothing where all have the same, and nothing of one outlet alone', () => {
    expect(roomWords(measureBy([plainOutlet], ''), 'plain', 'headline1')).toBeNull();
    expect(roomWords(measureBy(three, 'quillmere'), 'plain', 'headline1')).toBeNull();
    expect(roomWords(measureBy([harrowlight], ''), 'assembled', 'headline1')).toBeNull();
  });
});

describe('the choice', () => {
  test('of one outlet there is none: it says which', () => {
    shown(<MeasureChips measure={measureBy([fennelwick], '')} onAt={() => {}} />);
    expect(screen.getByText('measured by Fennelwick')).toBeTruthy();
    expect(screen.queryByRole('combobox')).toBeNull();
  });

  test.each([
    [[plainOutlet, quillmere], 'both outlets'],
    [three, 'all 3 outlets'],
  ])('all together, and each by its name', async (outlets, all) => {
    const chosen = vi.fn();
    const { user } = shown(<MeasureChips measure={measureBy(outlets, '')} onAt={chosen} />);
    const choice = screen.getByRole('combobox', { name: 'Measured by' }) as HTMLSelectElement;
    expect([...choice.options].map(({ text }) => text)).toEqual([all, ...outlets.map(({ name }) => name)]);
    expect(choice.value).toBe('');
    await user.selectOptions(choice, 'Quillmere');
    expect(chosen).toHaveBeenCalledWith('quillmere');
  });
});
