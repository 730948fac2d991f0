import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Hold } from '../build/index.ts';
import { AdChecks, PlaceNames, type RefusedText } from '../findings/index.ts';
import {
  fennelwick,
  harrowlight,
  type MeasuredOutlet,
  plainOutlet,
  quillmere,
  strictestOf,
} from '../outlets/index.ts';
import { english, ListedWords } from '../text/index.ts';
import {
  type AdPattern,
  adFields,
  inNotation,
  limitsOf,
  patternOf,
  readSite,
  textOf,
  usualAddressRule,
} from '../write/index.ts';
import {
  type AdInput,
  AdWriter,
  adKeyOf,
  HeldAds,
  type NumberedPattern,
  type TokenGroup,
  unfilledOfAd,
} from './index.ts';

const writing = { pack: english, casing: null };
/** 2 and 3 are below 1. */
const parents = new Map([
  [1, null],
  [2, 1],
  [3, 1],
  [4, null],
]);
const inputOf = (patterns: Partial<AdPattern>[], more: Partial<AdInput> = {}): AdInput => ({
  patterns: patterns.map(
    (body, at): NumberedPattern => ({ id: at + 1, body: patternOf(lines(`Ad ${at + 1}`), 'title', body) }),
  ),
  address: { ...usualAddressRule(), path: '/@theme' },
  common: {
    site: 'saltmarshpaddle.example',
    offer: 'Free delivery',
    year: '2027',
    brands: new ListedWords([]),
  },
  held: new HeldAds([]),
  writing,
  parentOf: (theme) => parents.get(theme) ?? null,
  ...more,
});
const lines = (name: string) => ({
  headline1: ['@keyword hire'],
  headline2: [name],
  description1: ['On the water in an hour'],
});
const group = (key: string, keyword: string, theme = 2): TokenGroup => ({
  key,
  keyword,
  name: keyword,
  theme,
  themeName: 'Kayak hire',
  branch: 'Kayaks',
  place: null,
  stage: null,
  campaignKey: theme === 4 ? 'ct4' : 'ct1',
});
const write = (input: AdInput, one: TokenGroup) => new AdWriter(input, plainOutlet).of(one);
const keys = (input: AdInput, one: TokenGroup) => write(input, one).ads.map(({ key }) => key);
const to = (
  scope: AdPattern['groups']['to'],
  themes: number[] = [],
  groups: string[] = [],
  campaigns: string[] = [],
) => ({ groups: { to: scope, themes, groups, campaigns } });

describe('which groups a pattern is for', () => {
  test('all, a branch with what is below it, some, and those without an ad', () => {
    const input = inputOf([to('themes', [1]), to('groups', [], ['k9']), to('without'), to('all')]);
    expect(keys(input, group('k1', 'canoe', 2))).toEqual(['k1/a1', 'k1/a4']);
    expect(keys(input, group('k9', 'canoe', 4))).toEqual(['k9/a2', 'k9/a4']);
    expect(keys(input, group('k5', 'canoe', 4))).toEqual(['k5/a3', 'k5/a4']);
    expect(keys(input, group('k6', 'canoe', 0))).toEqual(['k6/a3', 'k6/a4']);
  });

  test('the default ad of a campaign is for its ad groups, and only they are no more without one', () => {
    const input = inputOf([to('campaigns', [], [], ['ct4']), to('without')]);
    expect(keys(input, group('k1', 'canoe', 4))).toEqual(['k1/a1']);
    expect(keys(input, group('k2', 'canoe', 2))).toEqual(['k2/a2']);
  });

  test('an ad that would say the same again is not made', () => {
    const same = inputOf([{}, {}]);
    for (const { body } of same.patterns) body.fields.headline2.lines = ['The same'];
    expect(write(same, group('k1', 'canoe'))).toMatchObject({ doubled: 1, ads: [{ key: 'k1/a1' }] });
  });

  test('a form that the outlet has not makes none', () => {
    const input = inputOf([{ form: 'assembled' }, {}]);
    const rules = { ...plainOutlet.ad, assembled: null };
    const { ads } = new AdWriter(input, { ad: rules, key: 'plain' }).of(group('k1', 'canoe'));
    expect(ads.map(({ pattern }) => pattern)).toEqual([2]);
  });
});

describe('split tests', () => {
  const split: AdPattern['split'] = {
    by: 'line',
    field: 'headline2',
    lines: ['Other'],
    labels: ['x', 'y'],
    paused: null,
  };

  test('two versions in every group, each with its label behind the pattern’s', () => {
    const { ads } = write(inputOf([{ split, labels: ['spring', 'x'] }]), group('k1', 'canoe'));
    expect(ads.map(({ key, labels, fields }) => [key, labels, textOf(fields.headline2)])).toEqual([
      ['k1/a1', ['spring', 'x'], 'Ad 1'],
      ['k1/a1b', ['spring', 'x', 'y'], 'Other'],
    ]);
  });

  test('the version that was given up is paused; without a split nothing is', () => {
    const paused = { ...split, paused: 'a' } as const;
    const statuses = (part: Partial<AdPattern>) =>
      write(inputOf([part]), group('k1', 'canoe')).ads.map(({ status }) => status);
    expect(statuses({ split: paused })).toEqual(['paused', 'enabled']);
    expect(statuses({ split: { ...paused, paused: 'b' } })).toEqual(['enabled', 'paused']);
    expect(statuses({ split: { ...paused, by: 'none' } })).toEqual(['enabled']);
  });

  test('live against written differ though they read alike', () => {
    const { ads } = write(inputOf([{ split: { ...split, by: 'live' } }]), group('k1', 'canoe'));
    expect(ads.map(({ fields }) => textOf(fields.headline1))).toEqual(['Canoe Hire', 'Canoe Hire']);
    const live = ads[1]?.fields.headline1;
    expect(live?.status === 'fits' && inNotation(live.text, live.live, plainOutlet.ad.insertion)).toBe(
      '<<keyword:title|Canoe>> Hire',
    );
  });
});

describe('what is held', () => {
  const held = (field: string, value: string, outlet: string | null = null): Hold => ({
    rowKey: adKeyOf('k1', 1),
    field,
    outlet,
    value,
  });

  test('stands as written with its tokens filled in, and tells what it covers', () => {
    const holds = [held('headline1', 'Our @keyword FLEET'), held('status', 'paused'), held('labels', 'a, b')];
    const [ad] = write(inputOf([{}], { held: new HeldAds(holds) }), group('k1', 'canoe')).ads;
    expect(textOf(ad?.fields.headline1)).toBe('Our canoe FLEET');
    expect(ad).toMatchObject({
      status: 'paused',
      labels: ['a', 'b'],
      covered: { headline1: 'Canoe Hire', status: 'enabled', labels: '' },
    });
  });

  test('an address of its own, sound or told as unsound', () => {
    const of = (value: string) =>
      write(inputOf([{}], { held: new HeldAds([held('finalUrl', value)]) }), group('k1', 'canoe')).ads[0];
    expect(of('saltmarshpaddle.example/canoes')).toMatchObject({
      address: { final: { href: 'https://saltmarshpaddle.example/canoes' } },
      covered: { finalUrl: 'https://saltmarshpaddle.example/kayak-hire' },
    });
    expect(unfilledOfAd(of('javascript:alert(1)') as never)).toEqual(['finalUrl']);
  });

  test('too long, or a token that is none: unfilled, not cut', () => {
    const [ad] = write(
      inputOf([{}], {
        held: new HeldAds([held('headline1', 'x'.repeat(33)), held('headline2', 'Hire @nothing')]),
      }),
      group('k1', 'canoe'),
    ).ads;
    expect(unfilledOfAd(ad as never)).toEqual(['headline1', 'headline2']);
  });
});

describe('what is found', () => {
  const checksOf = (refused: RefusedText[], outlet: MeasuredOutlet = plainOutlet) =>
    new AdChecks({
      outlet,
      site: readSite('saltmarshpaddle.example'),
      words: { banned: new ListedWords(['Fathom & Reed']), casing: new Set() },
      refused,
      places: new PlaceNames([['Wrenport', 'wren port'], ['Heronsea']]),
      writing,
    });
  const check = (
    input: AdInput,
    one: TokenGroup,
    norms: string[],
    refused: RefusedText[] = [],
    outlet = plainOutlet,
  ) => {
    const checks = checksOf(refused, outlet);
    const writer = new AdWriter(input, plainOutlet);
    return checks
      .group(writer.of(one).ads, one, norms, writer)
      .findings.map(({ rule, field, count }) => [rule, field, count]);
  };
  const three = [{}, {}, {}];

  test('nothing in a group with three sound ads', () => {
    expect(check(inputOf(three), group('k1', 'canoe'), ['canoe hire'])).toEqual([]);
  });

  describe('places', () => {
    const inWrenport = { ...group('k1', 'canoe hire wrenport'), place: 'Wrenport' };
    const says = (text: string) => {
      const input = inputOf(three);
      for (const { body } of input.patterns) body.fields.description1.lines = [text];
      return input;
    };
    const norms = ['canoe hire wrenport', 'hire canoe wren port'];

    test('an ad of a group of one place that names another', () => {
      expect(check(says('Canoes for hire in Heronsea.'), inWrenport, norms)).toEqual([
        ['other-place', 'description1', 3],
      ]);
      expect(check(says('Canoes for hire in Wren-Port.'), inWrenport, norms)).toEqual([]);
    });

    test('a place that a keyword of the group names too is no other one', () => {
      const both = [...norms, 'wrenport to heronsea by canoe'];
      expect(check(says('From Heronsea by canoe.'), inWrenport, both)).toEqual([]);
    });

    test('a keyword of another place', () => {
      const stray = [...norms, 'canoe hire heronsea'];
      expect(check(says('Canoes for hire.'), inWrenport, stray)).toEqual([
        ['other-place-in-keyword', null, 1],
      ]);
    });

    test('a group of which at most half of the keywords name its place is of no place', () => {
      const mixed = [...norms, 'canoe hire heronsea', 'canoe hire'];
      expect(check(says('Canoes in Heronsea.'), inWrenport, mixed)).toEqual([]);
      expect(check(says('Canoes in Heronsea.'), group('k1', 'canoe'), ['canoe'])).toEqual([]);
    });

    test('one ad tells what its group tells', () => {
      const checks = checksOf([]);
      const writer = new AdWriter(says('Canoes in Heronsea.'), plainOutlet);
      const [ad] = writer.of(inWrenport).ads;
      expect(ad && checks.problemsOf(ad, inWrenport, norms)).toEqual([
        { field: 'description1', rule: 'other-place', found: 'Heronsea', fix: null },
      ]);
    });
  });

  test.each([
    ['XXXX', 'https://saltmarshpaddle.example/xxkeywordxx'],
    ['insert_town', 'https://saltmarshpaddle.example/insert_town'],
    ['[keyword]', 'https://saltmarshpaddle.example/[town]'],
  ])('a marker left in a text and in an address: %s', (marker, href) => {
    const input = inputOf(three, { address: { ...usualAddressRule(), base: href } });
    for (const { body } of input.patterns) body.fields.description1.lines = [`Canoes in ${marker} today.`];
    const found = check(input, group('k1', 'canoe'), ['canoe hire']);
    expect(found).toContainEqual(['marker-left', 'description1', 3]);
    expect(found).toContainEqual(['address-marker-left', 'finalUrl', 3]);
  });

  test('what one outlet refused is warned about there, also where several measure together', () => {
    const text = inputOf([{}]).patterns[0]?.body.fields.headline2.lines[0] ?? '';
    const refused = [{ text, reason: 'No', outlet: 'fennelwick' }];
    const rules = (outlet: MeasuredOutlet) =>
      checksOf(refused, outlet)
        .group(
          writer(outlet).of(group('k1', 'canoe')).ads,
          group('k1', 'canoe'),
          ['canoe hire'],
          writer(outlet),
        )
        .findings.map(({ rule }) => rule);
    const writer = (outlet: MeasuredOutlet) => new AdWriter(inputOf(three), outlet);
    expect(rules(plainOutlet)).not.toContain('refused-before');
    expect(rules(fennelwick)).toContain('refused-before');
    expect(rules(strictestOf([plainOutlet, fennelwick]))).toContain('refused-before');
    expect(rules(strictestOf([plainOutlet, harrowlight]))).not.toContain('refused-before');
  });

  test('none, few, many', () => {
    const rules = (patterns: Partial<AdPattern>[]) =>
      check(inputOf(patterns), group('k1', 'canoe'), ['canoe hire']).map(([rule]) => rule);
    expect(rules([to('groups')])).toEqual(['no-ad']);
    expect(rules([{}, {}])).toEqual(['few-ads']);
    expect(rules(Array.from({ length: 9 }, () => ({})))).toEqual(['many-ads']);
  });

  test('few and many are as the outlet advises', () => {
    const advised = { ...plainOutlet.advised, plain: { least: 1, most: 2 } };
    const rules = (patterns: Partial<AdPattern>[]) =>
      check(inputOf(patterns), group('k1', 'canoe'), ['canoe hire'], [], { ...plainOutlet, advised }).map(
        ([rule]) => rule,
      );
    expect(rules([{}])).toEqual([]);
    expect(rules(three)).toEqual(['many-ads']);
  });

  test('an address elsewhere, not by https, with a rival in it', () => {
    const address = { ...usualAddressRule(), base: 'http://fathomreedboats.example' };
    expect(check(inputOf(three, { address }), group('k1', 'canoe'), ['canoe hire'])).toEqual([
      ['address-not-https', 'finalUrl', 3],
      ['address-other-site', 'finalUrl', 3],
      ['address-word-not-allowed', 'finalUrl', 3],
    ]);
  });

  test('a text that was refused once is warned about wherever it stands', () => {
    const refused = [{ text: 'AD 2 ', reason: 'Not clear' }];
    expect(check(inputOf(three), group('k1', 'canoe'), ['canoe hire'], refused)).toEqual([
      ['refused-before', 'headline2', 1],
    ]);
  });

  test('live: one keyword, what falls back, what names a rival', () => {
    const live = inputOf(three);
    for (const { body } of live.patterns) body.fields.headline1.lines = ['@keyword(live, or Canoe) hire'];
    expect(check(live, group('k1', 'canoe'), ['canoe hire'])).toEqual([['live-one-keyword', 'headline1', 3]]);
    const norms = ['canoe', 'fathom reed canoe', 'an inflatable canoe for two people'];
    expect(check(live, group('k1', 'canoe'), norms)).toEqual([
      ['live-word-not-allowed', 'headline1', 3],
      ['live-falls-back', 'headline1', 3],
    ]);
  });

  test('an ad that says nothing of its keywords', () => {
    expect(check(inputOf(three), group('k1', 'canoe'), ['boat rental'])).toEqual([
      ['relevance-low', null, 3],
    ]);
  });

  test('of an assembled ad: what is left out, what is said twice, what may be read three times', () => {
    const input = inputOf([{ form: 'assembled' }]);
    const [pattern] = input.patterns;
    if (!pattern) throw new Error('no pattern');
    const { fields } = pattern.body;
    fields.headline2.lines = ['Hire canoes'];
    fields.headline3.lines = ['Canoe'];
    fields.headline4.lines = ['x'.repeat(40)];
    fields.description2.lines = ['Open all year'];
    expect(check(input, group('k1', 'canoe'), ['canoe hire'])).toEqual([
      ['field-left-out', 'headline4', 1],
      ['headlines-alike', null, 1],
      ['word-thrice', null, 1],
    ]);
  });
});

describe('properties', () => {
  const word = fc.constantFrom('kayak', 'inflatable', 'sea', 'for', 'two', '東京', 'Otterline');
  const keyword = fc.array(word, { minLength: 1, maxLength: 5 }).map((words) => words.join(' '));
  const piece = fc.constantFrom(
    '@keyword',
    '@theme',
    '@place',
    '@offer',
    '@keyword(live)',
    'hire',
    'in Eastmere',
    '@',
  );
  const line = fc.array(piece, { minLength: 1, maxLength: 4 }).map((pieces) => pieces.join(' '));
  const field = fc.array(line, { maxLength: 3 });
  const patterns = fc.array(
    fc.record({ headline1: field, headline2: field, description1: field, path1: field }),
    {
      minLength: 1,
      maxLength: 3,
    },
  );
  const made = (bodies: Record<string, string[]>[], keywords: string[]) => {
    const input = {
      ...inputOf([]),
      patterns: bodies.map((fields, at) => ({ id: at + 1, body: patternOf(fields, 'title') })),
    };
    const writer = new AdWriter(input, plainOutlet);
    return keywords.map((text, at) => writer.of(group(`k${at + 1}`, text)));
  };
  const form = plainOutlet.ad.plain;
  const limits = form ? limitsOf(form) : {};

  test('what ships fits, and no token is left in it', () => {
    fc.assert(
      fc.property(patterns, fc.array(keyword, { minLength: 1, maxLength: 5 }), (bodies, keywords) => {
        for (const { ads } of made(bodies, keywords))
          for (const { fields } of ads)
            for (const name of adFields) {
              const fit = fields[name];
              if (fit?.status !== 'fits') continue;
              expect(fit.length).toBeLessThanOrEqual(limits[name]?.limit ?? 0);
              expect(inNotation(fit.text, fit.live, plainOutlet.ad.insertion)).not.toMatch(/@[a-z]/i);
            }
      }),
    );
  });

  test('a group’s ads do not hang on the groups before it', () => {
    fc.assert(
      fc.property(patterns, fc.array(keyword, { minLength: 1, maxLength: 5 }), (bodies, keywords) => {
        const all = made(bodies, keywords);
        const input = {
          ...inputOf([]),
          patterns: bodies.map((fields, at) => ({ id: at + 1, body: patternOf(fields, 'title') })),
        };
        keywords.forEach((text, at) => {
          expect(write(input, group(`k${at + 1}`, text))).toEqual(all[at]);
        });
      }),
    );
  });
});

describe('patterns for some outlets', () => {
  const at = (outlets: string[], text: string) => ({
    outlets,
    fields: patternOf({ headline1: [text] }).fields,
  });
  const said = (patterns: Partial<AdPattern>[], outlet: MeasuredOutlet) =>
    new AdWriter(inputOf(patterns), outlet)
      .of(group('k1', 'canoe'))
      .ads.map(({ key, fields }) => [key, textOf(fields.headline1)]);
  const long = 'Canoes by the hour and by the day for all';
  test('are written at these, and measured by what these take', () => {
    const patterns = [at([], 'Everywhere'), at(['harrowlight'], long)];
    const [both] = [
      ['k1/a1', 'Everywhere'],
      ['k1/a2', long],
    ].map((one) => [one]);
    expect(said(patterns, plainOutlet)).toEqual(both);
    expect(said(patterns, harrowlight)).toEqual([
      ['k1/a1', 'Everywhere'],
      ['k1/a2', long],
    ]);
    const { ads } = new AdWriter(inputOf(patterns), strictestOf([plainOutlet, harrowlight])).of(
      group('k1', 'canoe'),
    );
    expect(ads.map(({ key, fields }) => [key, fields.headline1?.status])).toEqual([
      ['k1/a1', 'fits'],
      ['k1/a2', 'fits'],
    ]);
  });

  test('may say the same as one for another outlet', () => {
    const patterns = [at(['plain'], 'The same'), at(['quillmere'], 'The same')];
    expect(said(patterns, strictestOf([plainOutlet, quillmere])).map(([key]) => key)).toEqual([
      'k1/a1',
      'k1/a2',
    ]);
    expect(said(patterns, quillmere)).toEqual([['k1/a2', 'The same']]);
  });

  test('one for ad groups without an ad is for those that have none at one of its outlets', () => {
    const patterns = [at(['quillmere'], 'Quillmere'), { ...at([], 'Fallback'), ...to('without') }];
    expect(said(patterns, quillmere)).toEqual([['k1/a1', 'Quillmere']]);
    expect(said(patterns, plainOutlet)).toEqual([['k1/a2', 'Fallback']]);
    expect(said(patterns, strictestOf([plainOutlet, quillmere])).length).toBe(2);
  });
});
