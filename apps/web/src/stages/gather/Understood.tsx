import type { ColumnRole, DecimalMark, LineProblem } from '@sprig/core/gather';
import type { MatchType } from '@sprig/core/match';
import { ChoiceChip } from '../../kit/chips.tsx';
import { count, counted, money } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { AskedMarks, ReachBars } from '../../kit/ReachBars.tsx';
import type { ReadSummary } from '../../pool/worker.ts';

type Props = {
  summary: ReadSummary;
  currency: string;
  roleChoices: { value: ColumnRole; words: string }[];
  onRoles: (roles: ColumnRole[]) => void;
  onDecimal: (decimal: DecimalMark) => void;
  wordsOf: (problem: LineProblem) => string;
};

/** What was understood: notations, columns, errors with their lines, and the first keywords. */
export function Understood({ summary, currency, roleChoices, onRoles, onDecimal, wordsOf }: Props) {
  const { layout, counts, problems, problemCount, sample } = summary;
  const notations = (['plain', 'broad', 'modified', 'phrase', 'exact'] as const).filter(
    (name) => counts.byNotation[name] > 0,
  );
  return (
    <div className="flex flex-col gap-4">
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
        {notations.map((name) => (
          <span key={name} className="inline-flex items-center gap-1.5">
            {name !== 'plain' && <ReachBars type={name as MatchType} />}
            <b>{count(counts.byNotation[name])}</b>
            <span className="text-faint">
              {name === 'plain' ? 'without notation' : matchWords[name as MatchType]}
            </span>
          </span>
        ))}
        {counts.askedAgain > 0 && (
          <span className="text-faint">{count(counts.askedAgain)} asked again in another match type</span>
        )}
        {summary.withSearches > 0 && (
          <span className="text-faint">{count(summary.withSearches)} with searches</span>
        )}
        {summary.withCpc > 0 && <span className="text-faint">{count(summary.withCpc)} with a CPC</span>}
      </p>
      {layout.delimiter !== null && (
        <section aria-label="Columns">
          <h3 className="mb-1 font-semibold">
            Columns, by{' '}
            {layout.headerLine === null ? 'their shape' : `the headings in line ${layout.headerLine}`};
            decimals after{' '}
            <ChoiceChip
              label="Decimal mark"
              value={layout.decimal}
              choices={[
                { value: '.', words: 'a point (0.40)' },
                { value: ',', words: 'a comma (0,40)' },
              ]}
              onChoose={onDecimal}
            />
          </h3>
          <div className="overflow-x-auto">
            <table className="text-[12.5px]">
              <thead>
                <tr>
                  {layout.roles.map((role, at) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place
                    <th key={at} className="px-1 pb-1 text-left font-normal">
                      <div className="max-w-40 truncate text-faint">
                        {layout.headings[at] || `Column ${at + 1}`}
                      </div>
                      <ChoiceChip
                        label={`Column ${at + 1}`}
                        value={role}
                        choices={roleChoices}
                        onChoose={(chosen) =>
                          onRoles(
                            layout.roles.map((old, place) => {
                              if (place === at) return chosen;
                              if (old === chosen && chosen !== 'extra' && chosen !== 'skip') return 'extra';
                              return old;
                            }),
                          )
                        }
                      />
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {layout.samples.map((row, line) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a sample row is its place
                  <tr key={line} className="border-base-200 border-t">
                    {layout.roles.map((_, at) => (
                      // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place
                      <td key={at} className="max-w-44 truncate px-2 py-0.5">
                        {row[at] ?? ''}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
      )}
      {problemCount > 0 && (
        <section aria-label="Lines with errors">
          <h3 className="mb-1 font-semibold text-error">
            {counted(problemCount, 'line')} with errors; the others go in all the same
          </h3>
          <ul className="max-h-52 divide-y divide-base-200 overflow-auto border-hair border-y">
            {problems.map((problem) => (
              <li key={`${problem.line}:${problem.code}`} className="grid grid-cols-[64px_1fr] gap-x-2 py-1">
                <span className="text-right text-faint">Line {count(problem.line)}</span>
                <span className="min-w-0">
                  <span className="block truncate">{problem.raw}</span>
                  <span className="text-error">{wordsOf(problem)}</span>
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label="First keywords">
        <h3 className="mb-1 font-semibold">
          {summary.keywords > sample.length ? `The first ${count(sample.length)} keywords` : 'Keywords'}
        </h3>
        <table className="w-full">
          <tbody>
            {sample.map(({ line, text, asked, searches, cpc }) => (
              <tr key={line} className="border-base-200 border-b">
                <td className="w-16 py-0.5 pr-2 text-right text-faint">{count(line)}</td>
                <td className="py-0.5">{text}</td>
                <td className="w-28">
                  <AskedMarks asked={asked} />
                </td>
                <td className="w-24 text-right">{count(searches)}</td>
                <td className="w-20 text-right">{money(cpc, currency)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </div>
  );
}
