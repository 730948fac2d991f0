import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { nextStep, type Progress, type StepCode, stepCodes } from './index.ts';

/** A plan that was shipped and answered. */
const done: Progress = {
  keywords: 600,
  out: 20,
  lookAlikes: 0,
  judged: 4,
  themes: 12,
  unplaced: 10,
  hasSite: true,
  hasLocation: true,
  hasLanguage: true,
  groups: 40,
  unbudgeted: 0,
  ads: 80,
  misfits: 0,
  outlets: 1,
  blockers: 0,
  shipped: 1,
  unanswered: 0,
};
const next = (change: Partial<Progress>, skipped: StepCode[] = []) =>
  nextStep({ ...done, ...change }, new Set(skipped));

describe('the next step', () => {
  test.each<[string, Partial<Progress>, StepCode, number]>([
    ['an empty plan', { keywords: 0, out: 0 }, 'gather', 0],
    ['look-alikes', { lookAlikes: 40 }, 'fold', 40],
    ['no negative', { judged: 0 }, 'block', 600],
    ['no theme', { themes: 0, unplaced: null }, 'group', 600],
    ['a third without a theme', { unplaced: 200 }, 'group', 200],
    ['no site', { hasSite: false }, 'site', 0],
    ['nowhere to be shown', { hasLocation: false }, 'locate', 0],
    ['nobody’s language', { hasLanguage: false }, 'language', 0],
    ['a campaign without a budget', { unbudgeted: 2 }, 'budget', 2],
    ['no ad at all', { ads: 0 }, 'write', 40],
    ['none that fits', { ads: 40, misfits: 40 }, 'write', 40],
    ['some that do not fit', { misfits: 7 }, 'mend', 7],
    ['no outlet', { outlets: 0, shipped: 0 }, 'choose', 0],
    ['blockers', { blockers: 3, shipped: 0 }, 'clear', 3],
    ['nothing shipped of it as it is', { shipped: 0, outlets: 2 }, 'ship', 2],
    ['shipped to one of three', { outlets: 3 }, 'ship', 2],
    ['sheets without an answer', { unanswered: 1 }, 'hand-in', 1],
  ])('%s', (_, change, code, count) => expect(next(change)).toEqual({ kind: 'step', step: { code, count } }));

  test('what was shipped and answered is done', () => expect(next({})).toEqual({ kind: 'done' }));

  test('what costs a look is asked for only when it is its turn', () => {
    expect(next({ lookAlikes: null })).toEqual({ kind: 'ask', what: 'lookAlikes' });
    expect(next({ lookAlikes: 3, unplaced: null })).toEqual({
      kind: 'step',
      step: { code: 'fold', count: 3 },
    });
    expect(next({ unplaced: null })).toEqual({ kind: 'ask', what: 'unplaced' });
    expect(next({ lookAlikes: null }, ['fold'])).toEqual({ kind: 'done' });
  });

  test('a plan of which all keywords were taken out has no other step', () =>
    expect(next({ keywords: 0, out: 9, hasSite: false })).toEqual({ kind: 'done' }));

  test('without an outlet plain sheets are shipped', () => {
    expect(next({ outlets: 0, shipped: 0 }, ['choose'])).toMatchObject({ step: { code: 'ship', count: 1 } });
    expect(next({ outlets: 0, shipped: 1 }, ['choose'])).toEqual({ kind: 'done' });
  });

  test('a few without a theme are left alone', () =>
    expect(next({ unplaced: 150 })).toEqual({ kind: 'done' }));

  test('skipping goes on to a later step, and skipping all of them ends', () => {
    const number = fc.nat(500);
    const plan = fc.record({
      keywords: number,
      out: number,
      lookAlikes: fc.option(number),
      judged: number,
      themes: number,
      unplaced: fc.option(number),
      hasSite: fc.boolean(),
      hasLocation: fc.boolean(),
      hasLanguage: fc.boolean(),
      groups: number,
      unbudgeted: number,
      ads: number,
      misfits: number,
      outlets: number,
      blockers: number,
      shipped: number,
      unanswered: number,
    });
    fc.assert(
      fc.property(plan, (some) => {
        const known = { ...some, lookAlikes: some.lookAlikes ?? 1, unplaced: some.unplaced ?? 1 };
        const skipped = new Set<StepCode>();
        let last = -1;
        for (;;) {
          const looked = nextStep(known, skipped);
          if (looked.kind === 'done') break;
          if (looked.kind === 'ask') throw new Error('everything is known');
          const at = stepCodes.indexOf(looked.step.code);
          expect(at).toBeGreaterThan(last);
          last = at;
          skipped.add(looked.step.code);
        }
      }),
    );
  });
});
