import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asMicros } from '../money/index.ts';
import { BY_HAND, fromMentions, type Mention } from './index.ts';

const mention = (kind: string, said: Partial<Mention> = {}): Mention => ({
  source: 1,
  kind,
  asked: 0,
  marks: [],
  toldOf: null,
  searches: null,
  searchesAbout: false,
  cpc: null,
  cpcAbout: false,
  competition: null,
  ...said,
});

describe('what the pool holds of all that is said', () => {
  test('each figure is the last told one that there is; what tells nothing takes nothing away', () => {
    const sum = fromMentions([
      mention('paste', { source: 1, searches: 10, cpc: asMicros(500_000) }),
      mention('file', { source: 2, searches: 0 }),
      mention('paste', { source: 3, competition: 40 }),
    ]);
    expect(sum).toMatchObject({ searches: 0, cpc: 500_000, competition: 40, from: 3, hand: 0 });
  });

  test('by hand, taken, made up and told of a look-alike are told apart', () => {
    const sum = fromMentions([
      mention('ideas', { searches: 900, cpc: asMicros(1), competition: 3 }),
      mention('estimates', { cpc: asMicros(333_000) }),
      mention('figures', { source: 5, searches: 70, toldOf: 'red mugs' }),
      mention('hand', { source: 6, cpc: asMicros(400_000) }),
    ]);
    expect(sum).toMatchObject({
      searches: 70,
      toldOf: 'red mugs',
      cpc: 400_000,
      hand: BY_HAND.cpc,
      takenCpc: 333_000,
      madeSearches: 900,
      madeCompetition: 3,
      competition: null,
    });
  });

  test('match types are everyone’s, or those set by hand alone', () => {
    const asked = [
      mention('paste', { asked: 2, marks: [0] }),
      mention('file', { asked: 4, marks: [2] }),
      mention('hand', { searches: 9 }),
    ];
    expect(fromMentions(asked)).toMatchObject({ asked: 6, marks: [0, 2], hand: BY_HAND.searches });
    const byHand = [...asked, mention('hand', { asked: 8 })];
    expect(fromMentions(byHand)).toMatchObject({
      asked: 8,
      marks: [],
      hand: BY_HAND.searches + BY_HAND.asked,
    });
  });

  test('whatever is made up or taken, in whatever order, what is told stays what it is', () => {
    const kinds = fc.constantFrom('paste', 'file', 'hand', 'ideas', 'recipe', 'estimates', 'figures');
    const said = fc.record({ kind: kinds, searches: fc.option(fc.nat(999)), cpc: fc.option(fc.nat(999)) });
    fc.assert(
      fc.property(fc.array(said, { maxLength: 12 }), (list) => {
        const mentions = list.map(({ kind, searches, cpc }, at) =>
          mention(kind, { source: at + 1, searches, cpc: cpc === null ? null : asMicros(cpc) }),
        );
        const isTold = ({ kind }: Mention) => ['paste', 'file', 'hand', 'figures'].includes(kind);
        const { searches, cpc, from, hand } = fromMentions(mentions);
        expect({ searches, cpc, from, hand }).toEqual(
          (({ searches: s, cpc: c, from: f, hand: h }) => ({ searches: s, cpc: c, from: f, hand: h }))(
            fromMentions(mentions.filter(isTold)),
          ),
        );
      }),
      { seed: 2 },
    );
  });
});
