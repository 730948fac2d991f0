import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { plainOutlet } from '../outlets/index.ts';
import { casingOf, english, parseLine, type TokenValues } from '../text/index.ts';
import {
  type AdField,
  adFields,
  compilePattern,
  fitFields,
  limitsOf,
  type StartingGoal,
  type StartingInput,
  startingLines,
} from './index.ts';

/** As in a plan: the client’s name always stands as it is written. */
const writing = { pack: english, casing: casingOf(['Heron Dental']) };
const dentist: StartingInput = {
  language: 'en',
  client: 'Heron Dental',
  goal: 'calls',
  hasOffer: true,
  hasPlaces: true,
  ofSite: [
    'Gentle dentists since 1994',
    'Six chairs, two hygienists and an evening a week for those who work.',
  ],
  forms: plainOutlet.ad,
};
const group = (keyword: string, more: TokenValues = {}): TokenValues => ({
  keyword,
  theme: 'Implants',
  branch: 'Treatments',
  offer: 'First look for free',
  site: 'herondental.example',
  ...more,
});
const set = (input: StartingInput, code: string) => startingLines(input).find((one) => one.code === code);
/** The texts of the fields that are filled, by field. */
const said = (input: StartingInput, code: string, values: TokenValues) => {
  const found = set(input, code);
  const form = found && input.forms[found.body.form];
  if (!found || !form) return null;
  const fields = fitFields(compilePattern(found.body), values, limitsOf(form), writing);
  return Object.fromEntries(
    Object.entries(fields).flatMap(([field, fit]) => (fit.status === 'fits' ? [[field, fit.text]] : [])),
  );
};

describe('lines to start from', () => {
  test('the keyword, what to do, and who it is', () =>
    expect(said(dentist, 'keyword', group('dental implants'))).toEqual({
      headline1: 'Dental Implants',
      headline2: 'Call Us Today',
      headline3: 'Heron Dental',
      description1: 'Dental implants from Heron Dental. Call us today.',
    }));

  test('what is too long for a line falls back on the theme, the branch, the client', () => {
    const long = 'dental implants for people with hardly any bone left in the jaw';
    expect(said(dentist, 'keyword', group(long))?.headline1).toBe('Implants');
    const none = group(long, { theme: '', branch: '' });
    expect(said(dentist, 'keyword', none)?.headline1).toBe('Heron Dental');
  });

  test('an offer that the brief has, else a gap', () => {
    expect(said(dentist, 'offer', group('implants'))?.headline2).toBe('First Look for Free');
    const without = { ...dentist, hasOffer: false };
    expect(said(without, 'offer', group('implants'))?.headline2).toBeUndefined();
    expect(set(without, 'offer')?.gaps).toBe(1);
  });

  test('places only where the plan has some, and the site’s own words as they stand', () => {
    expect(said(dentist, 'place', group('implants', { place: 'Wrenport' }))?.headline2).toBe('In Wrenport');
    expect(said(dentist, 'place', group('implants'))?.headline2).toBe('Call Us Today');
    expect(set({ ...dentist, hasPlaces: false }, 'place')).toBeUndefined();
    expect(said(dentist, 'site', group('implants'))).toMatchObject({
      headline2: 'Gentle Dentists Since 1994',
      description1: 'Six chairs, two hygienists and an evening a week for those who work.',
    });
    expect(set({ ...dentist, ofSite: ['', '@keyword <b>'] }, 'site')).toBeUndefined();
  });

  test('in another language nothing is said for it', () => {
    const german = startingLines({ ...dentist, language: 'de' });
    const ours = german.flatMap(({ body }) => adFields.flatMap((field) => body.fields[field].lines));
    expect(ours.filter((line) => /call|order/i.test(line.replace(/@gap\([^)]*\)/, '')))).toEqual([]);
    expect(german[0]?.gaps).toBeGreaterThan(0);
  });

  const goals: StartingGoal[] = ['sales', 'leads', 'visits', 'calls', 'awareness', 'none'];
  const input: fc.Arbitrary<StartingInput> = fc.record({
    language: fc.constantFrom('en', 'de'),
    client: fc.constantFrom('', 'Heron', 'The Old Company of Very Long Names and Sons of Wrenport'),
    goal: fc.constantFrom(...goals),
    hasOffer: fc.boolean(),
    hasPlaces: fc.boolean(),
    ofSite: fc.array(fc.constantFrom('Short', 'x'.repeat(60), 'y'.repeat(300)), { maxLength: 2 }),
    forms: fc.constantFrom(
      plainOutlet.ad,
      { ...plainOutlet.ad, plain: null },
      { ...plainOutlet.ad, assembled: null },
      {
        ...plainOutlet.ad,
        plain: plainOutlet.ad.plain && {
          ...plainOutlet.ad.plain,
          headlines: { limit: 25, least: 1, most: 1, shown: 1 },
          descriptions: { limit: 35, least: 2, most: 2, shown: 2 },
        },
      },
    ),
  });

  test('every field of every set is filled in any ad group, or has a gap', () =>
    fc.assert(
      fc.property(
        input,
        fc.string({ minLength: 1, maxLength: 80, unit: 'grapheme-ascii' }),
        (some, keyword) => {
          for (const { body, gaps } of startingLines(some)) {
            const form = some.forms[body.form];
            if (!form) throw new Error('a form that is not taken');
            const limits = limitsOf(form);
            const fields = fitFields(compilePattern(body), { keyword }, limits, writing);
            const unfilled = adFields.filter((field) => fields[field]?.status === 'unfilled');
            const isGap = (field: AdField) => body.fields[field].lines.at(-1)?.startsWith('@gap(') ?? false;
            expect(unfilled.filter((field) => !isGap(field))).toEqual([]);
            expect(unfilled.length).toBeGreaterThanOrEqual(gaps);
            const lines = adFields.flatMap((field) => body.fields[field].lines);
            for (const line of lines) expect(parseLine(line)).toHaveProperty('line');
          }
        },
      ),
    ));
});
