import { type MatchType, matchTypes } from '@sprig/core/match';
import { ChoiceChip } from '../../kit/chips.tsx';
import type { ReadSummary } from '../../pool/worker.ts';
import { Rate } from './Rate.tsx';
import type { GivenList } from './use-given-list.ts';

type Props = {
  list: GivenList;
  summary: ReadSummary;
  currency: string;
  /** The day that its figures are of, empty: that on which it comes in. */
  figuresOn: string;
  onFiguresOn: (day: string) => void;
  onlyFigures: boolean;
  onOnlyFigures: (only: boolean) => void;
};

/** How the list is read, as sentences whose words are the settings. */
export function ReadingSentences(props: Props) {
  const { list, summary, currency, figuresOn, onFiguresOn, onlyFigures, onOnlyFigures } = props;
  const { options, setOptions } = list;
  const hasFigures = summary.withSearches > 0 || summary.withCpc > 0;
  return (
    <>
      <p className="mb-3 leading-8">
        Each line without notation asks for{' '}
        <ChoiceChip
          label="Match type of lines without notation"
          value={options.askedAs ?? 'any'}
          choices={[
            { value: 'any', words: 'no match type' },
            ...matchTypes.map((type) => ({
              value: type,
              words: type === 'modified' ? 'modified broad' : type,
            })),
          ]}
          onChoose={(value) =>
            setOptions({ ...options, askedAs: value === 'any' ? null : (value as MatchType) })
          }
        />
        ; characters that a keyword may not hold are{' '}
        <ChoiceChip
          label="Characters not allowed"
          value={options.takeOutNotAllowed ? 'out' : 'told'}
          choices={[
            { value: 'told', words: 'told as errors' },
            { value: 'out', words: 'taken out' },
          ]}
          onChoose={(value) => setOptions({ ...options, takeOutNotAllowed: value === 'out' })}
        />
        .
        <Rate
          currency={currency}
          found={summary.layout.currency}
          rate={options.rate ?? 1_000_000}
          onRate={(rate) => setOptions({ ...options, rate })}
        />
      </p>
      {hasFigures && (
        <p className="mb-3 leading-8">
          Its figures are of{' '}
          <input
            type="date"
            aria-label="Day that the figures are of"
            title="Of several lists that tell a figure the newest counts; without a day, that on which it comes in"
            className="input input-sm w-40"
            value={figuresOn}
            onChange={({ target }) => onFiguresOn(target.value)}
          />
          ;{' '}
          <label className="inline-flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={onlyFigures}
              onChange={({ target }) => onOnlyFigures(target.checked)}
            />
            only fill the figures of keywords that are here, add none
          </label>
        </p>
      )}
    </>
  );
}
