import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { adFields, adForms, limitsOf } from '../write/index.ts';
import {
  adRulesFor,
  fennelwick,
  harrowlight,
  type Outlet,
  plainOutlet,
  quillmere,
  roomsFor,
  shippedOutlets,
  strictestOf,
} from './index.ts';

const limitsAt = (outlet: Outlet, form: 'plain' | 'assembled') => {
  const own = outlet.ad[form];
  return own ? limitsOf(own) : {};
};

describe('what a pattern for some outlets is measured by', () => {
  const all = strictestOf([plainOutlet, harrowlight, quillmere]);
  test('all of them where it names none, and those that it names', () => {
    expect(adRulesFor(all, [])).toBe(all.ad);
    expect(adRulesFor(all, ['quillmere', 'plain', 'harrowlight'])).toBe(all.ad);
    expect(adRulesFor(all, ['harrowlight'])).toBe(harrowlight.ad);
    expect(adRulesFor(all, ['harrowlight', 'plain'])).toEqual(strictestOf([plainOutlet, harrowlight]).ad);
  });
  test('an outlet by itself, if it is for it', () => {
    expect(adRulesFor(quillmere, ['quillmere', 'plain'])).toBe(quillmere.ad);
    expect(adRulesFor(quillmere, ['plain'])).toBeNull();
    expect(adRulesFor(all, ['fennelwick'])).toBeNull();
  });
});

describe('the strictest of several outlets', () => {
  test('one outlet is itself', () => expect(strictestOf([quillmere])).toBe(quillmere));

  test('each field as short as the shortest that takes it, as many as the one with most', () => {
    const strictest = strictestOf([plainOutlet, harrowlight, quillmere]);
    const limits = limitsAt(strictest, 'plain');
    expect([limits.headline1, limits.headline2, limits.headline3, limits.headline4]).toEqual([
      { limit: 30, required: true },
      { limit: 30, required: true },
      { limit: 32, required: false },
      undefined,
    ]);
    expect(strictest.limits.keywordWords).toBe(7);
    expect(strictest.ad.extras.sitelink).toEqual({ text: 20, line: 30, most: 4 });
  });

  test('an outlet without a form has no say in it', () => {
    const { ad } = strictestOf([harrowlight, fennelwick]);
    expect(ad.assembled).toEqual({
      ...fennelwick.ad.assembled,
      headlines: { ...fennelwick.ad.assembled?.headlines, each: Array.from({ length: 14 }, () => 34) },
      descriptions: { ...fennelwick.ad.assembled?.descriptions, each: [84, 84, 84, 84, 84] },
      paths: { ...fennelwick.ad.assembled?.paths, each: [14, 14] },
    });
    expect(strictestOf([harrowlight, quillmere]).ad.assembled).toBeNull();
  });

  test('what fits by it fits everywhere, and what fits everywhere fits by it', () => {
    const some = fc.shuffledSubarray([...shippedOutlets], { minLength: 1 });
    fc.assert(
      fc.property(some, fc.constantFrom(...adForms), fc.constantFrom(...adFields), (outlets, form, field) => {
        const [first, ...others] = outlets as [Outlet, ...Outlet[]];
        const strict = limitsAt(strictestOf([first, ...others]), form)[field];
        const own = outlets.flatMap((outlet) => limitsAt(outlet, form)[field] ?? []);
        expect(strict?.limit).toBe(own.length === 0 ? undefined : Math.min(...own.map(({ limit }) => limit)));
        expect(strict?.required ?? false).toBe(own.some(({ required }) => required));
      }),
    );
  });

  test('two sets of outlets are told apart by their key', () => {
    const keys = [
      strictestOf([plainOutlet, quillmere]),
      strictestOf([plainOutlet, harrowlight]),
      plainOutlet,
    ].map(({ key }) => key);
    expect(new Set(keys).size).toBe(3);
  });
});

test('the room that each outlet has for a field, the shortest first', () => {
  expect(roomsFor(shippedOutlets, 'plain', 'headline2')).toEqual([
    { name: 'Quillmere', limit: 30 },
    { name: 'Plain sheets', limit: 32 },
    { name: 'Fennelwick', limit: 34 },
  ]);
  expect(roomsFor([harrowlight], 'assembled', 'headline1')).toEqual([]);
});
