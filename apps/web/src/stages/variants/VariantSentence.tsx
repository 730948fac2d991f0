import { asMicros, decimalFromMicros } from '@sprig/core/money';
import { ChoiceChip, TextChip } from '../../kit/chips.tsx';
import { LinesChip } from '../../kit/LinesChip.tsx';
import { matchWords } from '../../kit/match-words.ts';
import { readMoneyOrNone, readPercent } from '../../kit/read-typed.ts';
import { type Settings, STEPS } from './variant-settings.ts';

type Props = { settings: Settings; onSet: (change: Record<string, string>) => void };

/** How the variants are written, as one sentence. */
export function VariantSentence({ settings, onSet: set }: Props) {
  const { types, marks, chosen, order, form, base, steps } = settings;
  return (
    <p className="shrink-0 border-hair border-b px-4 py-1.5 leading-8">
      Write them{' '}
      <ChoiceChip
        label="Form"
        value={form}
        choices={[
          { value: 'notation', words: 'in notation' },
          { value: 'columns', words: 'as columns' },
        ]}
        onChoose={(value) => set({ form: value === 'columns' ? value : '' })}
      />
      ,{' '}
      <ChoiceChip
        label="Order"
        value={order}
        choices={[
          { value: 'keyword', words: 'keyword by keyword' },
          { value: 'type', words: 'match type by match type' },
        ]}
        onChoose={(value) => set({ order: value === 'type' ? value : '' })}
      />
      {types.includes('modified') && (
        <>
          ; modified broad marks{' '}
          <ChoiceChip
            label="Which words are marked"
            value={marks}
            choices={[
              { value: 'every', words: 'every word' },
              { value: 'content', words: 'words that carry meaning' },
              { value: 'chosen', words: 'chosen words' },
            ]}
            onChoose={(value) => set({ marks: value === 'every' ? '' : value })}
          />
          {marks === 'chosen' && (
            <>
              {' '}
              <LinesChip<string[]>
                label="Words to mark"
                shown={chosen.length === 0 ? 'none yet' : chosen.slice(0, 4).join(', ')}
                text={chosen.join('\n')}
                placeholder={'red\nmug'}
                help="A word to a line, plural or not. A keyword that holds none of them has its content words marked."
                read={(lines) => ({ value: lines.split('\n').filter((line) => line.trim() !== '') })}
                onKeep={async (value) => {
                  set({ words: value.join('\n') });
                  return null;
                }}
              />
            </>
          )}
        </>
      )}
      {form === 'columns' && (
        <>
          ; bid{' '}
          <TextChip
            label="Base of the bids"
            value={base === null ? '' : decimalFromMicros(asMicros(base), 2)}
            shown={base === null ? 'nothing' : decimalFromMicros(asMicros(base), 2)}
            read={readMoneyOrNone}
            onKeep={async (value) => {
              set({ bid: value === null ? '' : String(value) });
              return null;
            }}
            width={6}
          />
          {base !== null &&
            types.map((type, at) => (
              <span key={type} className="whitespace-nowrap">
                {at === 0 ? ' × ' : ', '}
                <TextChip
                  label={`Step of ${matchWords[type]}`}
                  value={String(steps[type] / 100)}
                  shown={`${steps[type] / 100}%`}
                  read={readPercent}
                  onKeep={async (value) => {
                    set({ [`step-${type}`]: value === STEPS[type] ? '' : String(value) });
                    return null;
                  }}
                  width={5}
                />{' '}
                {matchWords[type]}
              </span>
            ))}
        </>
      )}
      .
    </p>
  );
}
