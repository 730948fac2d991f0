import type { AloneRule, NeverPair, Recipe } from '@sprig/core/mix';
import { ChoiceChip } from '../../kit/chips.tsx';
import { LinesChip } from '../../kit/LinesChip.tsx';
import { readAlone, readPairs, writeAlone, writeAloneRule, writePairs, writeSide } from './never-words.ts';

type Props = {
  recipe: Recipe;
  lists: readonly { id: number; name: string }[];
  onEdit: (at: 'never' | 'alone' | 'repeats' | 'firstFormOnly', value: unknown) => Promise<string | null>;
};

/** What a recipe leaves out, as one sentence. */
export function RulesSentence({ recipe, lists, onEdit }: Props) {
  const { never, alone, repeats, firstFormOnly } = recipe;
  return (
    <p className="min-w-0 leading-7">
      Of each entry{' '}
      <ChoiceChip
        label="Which forms"
        value={firstFormOnly ? 'first' : 'all'}
        choices={[
          { value: 'all', words: 'all forms' },
          { value: 'first', words: 'the first form only' },
        ]}
        onChoose={(value) => void onEdit('firstFormOnly', value === 'first')}
      />{' '}
      ; the same word twice{' '}
      <ChoiceChip
        label="The same word twice"
        value={repeats ? 'stays' : 'goes'}
        choices={[
          { value: 'goes', words: 'goes' },
          { value: 'stays', words: 'may stay' },
        ]}
        onChoose={(value) => void onEdit('repeats', value === 'stays')}
      />{' '}
      ; never together:{' '}
      <LinesChip<NeverPair[]>
        label="Never together"
        shown={
          never.length === 0
            ? 'nothing yet'
            : `${never
                .slice(0, 3)
                .map((pair) => pair.map((side) => writeSide(side, lists)).join(' + '))
                .join(', ')}${never.length > 3 ? ` and ${never.length - 3} more` : ''}`
        }
        text={writePairs(never, lists)}
        placeholder={'in + near me\n@Places + bay'}
        help="A pair to a line with + between; a list by its name with @ before it."
        read={(typed) => readPairs(typed, lists)}
        onKeep={(value) => onEdit('never', value)}
      />{' '}
      ; no keyword by itself:{' '}
      <LinesChip<AloneRule[]>
        label="No keyword by itself"
        shown={
          alone.length === 0
            ? 'nothing yet'
            : `${alone
                .slice(0, 3)
                .map((rule) => writeAloneRule(rule, lists))
                .join('; ')}${alone.length > 3 ? ` and ${alone.length - 3} more` : ''}`
        }
        text={writeAlone(alone, lists)}
        placeholder={'near me\n@Traits but folding, racing'}
        help="A word to a line, or a list by its name with @ before it, but for those of its words that may stand alone."
        read={(typed) => readAlone(typed, lists)}
        onKeep={(value) => onEdit('alone', value)}
      />
      .
    </p>
  );
}
