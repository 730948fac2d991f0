import { describe, expect, test } from 'vitest';
import { loadRegions } from './known-places.ts';
import * as facts from './read-facts.ts';

describe('what is typed into the brief', () => {
  test('lists and forms, each once', () => {
    expect(facts.readLines(' a \n\nb\na')).toEqual({ value: ['a', 'b'] });
    const forms = facts.readForms('Wrenport | wren port |\n|\nHeronsea');
    expect(forms).toEqual({ value: [['Wrenport', 'wren port'], ['Heronsea']] });
    expect(facts.writeForms([['Wrenport', 'wren port'], ['Heronsea']])).toBe(
      'Wrenport | wren port\nHeronsea',
    );
  });

  test('synonyms', () => {
    expect(facts.readSynonyms('SUP = paddle board\n')).toEqual({ value: [['sup', 'paddle board']] });
    expect(facts.readSynonyms('sup = paddle board\nsup')).toMatchObject({
      words: expect.stringContaining('Line 2'),
    });
  });

  test('offers with their dates', () => {
    const value = [
      { text: 'Free delivery', from: null, until: null },
      { text: 'Sale', from: '2027-03-01', until: '2027-03-31' },
    ];
    const typed = 'Free delivery\nSale | from 2027-03-01 | until 2027-03-31';
    expect(facts.readOffers(typed)).toEqual({ value });
    expect(facts.writeOffers(value)).toBe(typed);
    expect(facts.readOffers('Sale | from tomorrow')).toMatchObject({
      words: expect.stringContaining('from tomorrow'),
    });
    expect(facts.readOffers('Sale | until 2027-13-01')).toMatchObject({
      words: expect.stringContaining('Line 1'),
    });
  });

  test('locations pasted many at once, with and without their level', () => {
    expect(
      facts.readLocations('Eastmere, region\nWrenport, town\nWR1 4AB\nNorth, country\nwrenport\ttown'),
    ).toEqual({
      value: [
        { name: 'Eastmere', level: 'region' },
        { name: 'wrenport', level: 'town' },
        { name: 'WR1 4AB', level: 'postal' },
        { name: 'North', level: 'country' },
      ],
    });
    expect(facts.readLocations('Wrenport, harbour')).toMatchObject({
      words: expect.stringContaining('harbour'),
    });
  });

  test.each([
    ['Mon-Fri 9:00-17:30', [{ days: ['mon', 'tue', 'wed', 'thu', 'fri'], from: 540, to: 1_050 }]],
    ['sat+sun 10-16', [{ days: ['sat', 'sun'], from: 600, to: 960 }]],
    ['Monday 0-24', [{ days: ['mon'], from: 0, to: 1_440 }]],
  ])('schedule %j', (typed, value) => expect(facts.readSchedule(typed)).toEqual({ value }));

  test.each(['Mon 17-9', 'Someday 9-17', 'Fri-Mon 9-17', 'Mon', 'Mon 9-25'])('schedule %j is told', (typed) =>
    expect(facts.readSchedule(typed)).toHaveProperty('words'),
  );

  test.each([
    ['+20', 2_000],
    ['-10,5%', -1_050],
    ['0', 0],
    ['900', 90_000],
  ])('adjustment %j', (typed, value) => expect(facts.readAdjustment(typed)).toEqual({ value }));

  test.each(['-91', '901', 'much', '1.234'])('adjustment %j is told', (typed) =>
    expect(facts.readAdjustment(typed)).toHaveProperty('words'),
  );

  test('days', () => {
    expect(facts.readDay('')).toEqual({ value: null });
    expect(facts.readDay('2027-02-28')).toEqual({ value: '2027-02-28' });
    expect(facts.readDay('28.2.2027')).toHaveProperty('words');
  });
});

test('countries and large regions are known by their names; what is anything else is asked', async () => {
  await loadRegions();
  expect(facts.readLocations('Germany\nTexas\nDeutschland\nBayern\nWR1 4AB')).toEqual({
    value: [
      { name: 'Germany', level: 'country' },
      { name: 'Texas', level: 'region' },
      { name: 'Deutschland', level: 'country' },
      { name: 'Bayern', level: 'region' },
      { name: 'WR1 4AB', level: 'postal' },
    ],
  });
  const asked = facts.readLocations('Germany\nWrenport\nHeronsea');
  expect(asked).toMatchObject({ words: expect.stringContaining('Line 2: is “Wrenport” a country') });
  const [towns] = 'offers' in asked ? (asked.offers ?? []) : [];
  expect(towns).toEqual({ words: 'Both are towns', typed: 'Germany\nWrenport, town\nHeronsea, town' });
  expect(facts.readLocations(towns?.typed ?? '')).toEqual({
    value: [
      { name: 'Germany', level: 'country' },
      { name: 'Wrenport', level: 'town' },
      { name: 'Heronsea', level: 'town' },
    ],
  });
  // A country and a region of one name.
  expect(facts.readLocations('Georgia')).toHaveProperty('offers');
});

test('a page that is left out stays a page', () => {
  expect(
    facts.readSites(
      'https://www.games.example\ngames.example/chess/\nhttp://games.example/a?b=1\ngames.example',
    ),
  ).toEqual({ value: ['games.example', 'games.example/chess', 'games.example/a?b=1'] });
});

test('a return is a share of the cost, or none', () => {
  expect(facts.readReturn('450%')).toEqual({ value: 45_000 });
  expect(facts.writeReturn(45_000)).toBe('450%');
  expect(facts.readReturn(' ')).toEqual({ value: null });
  expect(facts.writeReturn(null)).toBe('');
  for (const typed of ['0', 'four times', '-3%', '2000000%'])
    expect(facts.readReturn(typed)).toHaveProperty('words');
});
