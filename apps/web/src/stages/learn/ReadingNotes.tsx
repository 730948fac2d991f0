import type { ReportReading } from '@sprig/contracts';
import { count, counted, money } from '../../kit/format.ts';
import { notMetWords, problemText } from './report-words.ts';

/** What was not read, not met, or does not fit together. */
export function ReadingNotes({ reading }: { reading: ReportReading }) {
  const { problems, setAside, repeated, otherwise, unlikely, notMet, account } = reading;
  const cost = notMet.reduce((sum, one) => sum + one.cost, 0);
  const rows = notMet.reduce((sum, one) => sum + one.rows, 0);
  return (
    <div className="grid gap-x-8 gap-y-2 text-[12.5px] min-[1100px]:grid-cols-2">
      {notMet.length > 0 && (
        <Note
          title={`${counted(rows, 'row')} not met in the plan${cost > 0 ? `, with ${money(cost, account.currency)} of cost` : ''}: they count, and are told by their names`}
          lines={notMet.map(
            (one) =>
              `${one.campaign || 'no campaign'}: ${notMetWords[one.why]}, ${counted(one.rows, 'row')}${one.cost > 0 ? `, ${money(one.cost, account.currency)}` : ''} (${one.samples.join(', ')})`,
          )}
        />
      )}
      {problems.count > 0 && (
        <Note
          isBad
          title={`${counted(problems.count, 'cell')} or lines not read`}
          lines={problems.shown.map(problemText)}
        />
      )}
      {otherwise.count > 0 && (
        <Note
          isBad
          title={`${counted(otherwise.count, 'figure')} that the others don’t make: the others count`}
          lines={otherwise.shown.map(
            ({ line, column, told, worked }) =>
              `Line ${count(line)}, ${column}: ${round(told)} told, ${round(worked)} worked out`,
          )}
        />
      )}
      {unlikely.count > 0 && (
        <Note
          isBad
          title={`${counted(unlikely.count, 'row')} with more clicks than impressions: kept as told`}
          lines={[`Lines ${unlikely.shown.map(count).join(', ')}`]}
        />
      )}
      {repeated.count > 0 && (
        <Note
          title={`${counted(repeated.count, 'line')} that say again what an earlier one said: counted once`}
          lines={[`Lines ${repeated.shown.map(count).join(', ')}`]}
        />
      )}
      {setAside.count > 0 && (
        <Note
          title={`${counted(setAside.count, 'totals row')} set aside`}
          lines={setAside.shown.map(({ line, text }) => `Line ${count(line)}: ${text}`)}
        />
      )}
    </div>
  );
}

const round = (value: number): string => String(Number(value.toPrecision(4)));

const Note = ({
  title,
  lines,
  isBad = false,
}: {
  title: string;
  lines: readonly string[];
  isBad?: boolean;
}) => (
  <details>
    <summary className={`cursor-pointer ${isBad ? 'text-warning' : ''}`}>{title}</summary>
    <ul className="mt-1 max-h-44 overflow-auto pl-4 text-faint" tabIndex={0} aria-label={title}>
      {lines.map((text, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: lines may be the same
        <li key={at} className="py-0.5">
          {text}
        </li>
      ))}
    </ul>
  </details>
);
