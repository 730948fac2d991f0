import { accountCode, type ReportAccount, type ReportChoices, type ReportReading } from '@sprig/contracts';
import type { ReportRole } from '@sprig/core/learn';
import { currencies } from '@sprig/core/money';
import { X } from 'lucide-react';
import { useState } from 'react';
import { ChoiceChip, TextChip } from '../../kit/chips.tsx';
import { count, counted, money } from '../../kit/format.ts';
import { daysText, figureText, grainText } from './look-words.ts';
import { notMetWords, problemText, replacingWords, roleChoices } from './report-words.ts';

type Props = {
  reading: ReportReading;
  accounts: readonly ReportAccount[];
  busy: boolean;
  onAgain: (change: { account?: ReportAccount; choices?: ReportChoices }) => void;
  onTake: (isWhole: boolean) => void;
  onDrop: () => void;
};

/** A report before it goes in: what it is, what its columns are taken for, what it replaces, what was not read or met. */
export function ReadingPart({ reading, accounts, busy, onAgain, onTake, onDrop }: Props) {
  const [isWhole, setWhole] = useState(false);
  const { layout, account, currency } = reading;
  const isOpen = layout.open.length > 0;
  const does = isWhole ? reading.replacesWhole : reading.replaces;
  const otherCurrency = currency !== null && currency !== account.currency;
  return (
    <section
      aria-label={`Report ${reading.name}`}
      className="flex flex-col gap-2.5 border-hair border-b px-5 py-4"
    >
      <div className="flex items-start gap-3">
        <div className="leading-7">
          <b>{reading.name}</b>, {counted(reading.rows, 'row')} of{' '}
          <AccountChip
            account={account}
            accounts={accounts}
            onChoose={(next) => onAgain({ account: next })}
          />
          {reading.range && <> · {daysText(reading.range)}</>} · {grainText(reading.grain)}
          {!isOpen && reading.rows > 0 && <p>{totalsText(reading)}</p>}
        </div>
        <span className="ml-auto flex shrink-0 gap-1.5">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={busy || isOpen || reading.times === 0}
            onClick={() => onTake(isWhole)}
          >
            Take in {counted(reading.rows, 'row')}
          </button>
          <button type="button" className="btn btn-ghost btn-sm font-normal" disabled={busy} onClick={onDrop}>
            <X size={14} aria-hidden /> Leave it
          </button>
        </span>
      </div>
      <Open reading={reading} busy={busy} onChoices={(choices) => onAgain({ choices })} />
      {otherCurrency && (
        <p className="text-warning">
          Its amounts are in {currency}, the account in {account.currency}: choose the account that they are
          of.
        </p>
      )}
      {!isOpen && (
        <p>
          {replacingWords(does)}{' '}
          <label className="ml-2 inline-flex cursor-pointer items-center gap-1.5 text-[12.5px]">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={isWhole}
              onChange={({ target }) => setWhole(target.checked)}
            />
            It is the whole account: campaigns that it does not name had nothing in these days
          </label>
        </p>
      )}
      <Columns reading={reading} busy={busy} onRoles={(roles) => onAgain({ choices: { roles } })} />
      <Notes reading={reading} />
    </section>
  );
}

function totalsText({ totals, account }: ReportReading): string {
  const parts = [
    totals.impressions === null ? '' : counted(totals.impressions, 'impression'),
    totals.clicks === null ? '' : counted(totals.clicks, 'click'),
    totals.cost === null ? '' : `${figureText('cost', totals.cost, account.currency)} cost`,
    totals.conversions === null
      ? ''
      : `${figureText('conversions', totals.conversions, account.currency)} conversions`,
    totals.value === null ? '' : `${figureText('value', totals.value, account.currency)} value`,
  ];
  return parts.filter((part) => part !== '').join(', ');
}

/** Whose report it is: one of those that are known, or one of its own. */
function AccountChip({
  account,
  accounts,
  onChoose,
}: {
  account: ReportAccount;
  accounts: readonly ReportAccount[];
  onChoose: (account: ReportAccount) => void;
}) {
  const [own, setOwn] = useState(false);
  const all = accounts.some((one) => accountCode(one) === accountCode(account))
    ? accounts
    : [account, ...accounts];
  const words = ({ name, currency, timeZone }: ReportAccount) => `${name}, ${currency}, ${timeZone}`;
  return (
    <>
      <ChoiceChip
        label="Account"
        value={own ? 'own' : accountCode(account)}
        choices={[
          ...all.map((one) => ({ value: accountCode(one), words: words(one) })),
          { value: 'own', words: 'another account …' },
        ]}
        onChoose={(code) => {
          const chosen = all.find((one) => accountCode(one) === code);
          setOwn(!chosen);
          if (chosen) onChoose(chosen);
        }}
      />
      {own && (
        <span className="inline-flex items-center gap-1.5">
          {' '}
          called{' '}
          <TextChip
            label="Name of the account"
            value={account.name}
            read={(typed) =>
              typed.trim() === '' ? { words: 'An account needs a name.' } : { value: typed.trim() }
            }
            onKeep={async (name) => {
              onChoose({ ...account, outlet: null, name: String(name) });
              return null;
            }}
          />{' '}
          in{' '}
          <ChoiceChip
            label="Currency of the account"
            value={account.currency}
            choices={Object.keys(currencies).map((code) => ({ value: code, words: code }))}
            onChoose={(code) => onChoose({ ...account, outlet: null, currency: code })}
          />
        </span>
      )}
    </>
  );
}

/** What has to be said before it can go in. */
function Open({
  reading: { layout },
  busy,
  onChoices,
}: {
  reading: ReportReading;
  busy: boolean;
  onChoices: (choices: ReportChoices) => void;
}) {
  const [range, setRange] = useState({ from: '', to: '' });
  return (
    <>
      {layout.open.includes('day-order') && (
        <p className="text-warning">
          Its days can be read in two ways: {layout.samples[0]?.[layout.roles.indexOf('day')] ?? ''}.{' '}
          <button
            type="button"
            className="btn btn-xs"
            disabled={busy}
            onClick={() => onChoices({ dayOrder: 'day-first' })}
          >
            The day stands first
          </button>{' '}
          <button
            type="button"
            className="btn btn-xs"
            disabled={busy}
            onClick={() => onChoices({ dayOrder: 'month-first' })}
          >
            The month stands first
          </button>
        </p>
      )}
      {layout.open.includes('decimal') && (
        <p className="text-warning">
          Amounts such as 1.300 can be read in two ways.{' '}
          <button
            type="button"
            className="btn btn-xs"
            disabled={busy}
            onClick={() => onChoices({ decimal: '.' })}
          >
            The point stands before decimals
          </button>{' '}
          <button
            type="button"
            className="btn btn-xs"
            disabled={busy}
            onClick={() => onChoices({ decimal: ',' })}
          >
            The comma stands before decimals
          </button>
        </p>
      )}
      {layout.open.includes('range') && (
        <p className="flex items-center gap-1.5 text-warning">
          It does not say which days it is of:{' '}
          <input
            type="date"
            className="input input-sm"
            aria-label="Its first day"
            value={range.from}
            onChange={({ target }) => setRange({ ...range, from: target.value })}
          />
          to
          <input
            type="date"
            className="input input-sm"
            aria-label="Its last day"
            value={range.to}
            onChange={({ target }) => setRange({ ...range, to: target.value })}
          />
          <button
            type="button"
            className="btn btn-xs"
            disabled={busy || range.from === '' || range.to === '' || range.to < range.from}
            onClick={() => onChoices({ range })}
          >
            These days
          </button>
        </p>
      )}
    </>
  );
}

/** What each column was taken for, with sample rows; another choice reads it anew. */
function Columns({
  reading: { layout, remembered },
  busy,
  onRoles,
}: {
  reading: ReportReading;
  busy: boolean;
  onRoles: (roles: ReportRole[]) => void;
}) {
  return (
    <div
      className="overflow-x-auto rounded-md border border-hair"
      tabIndex={0}
      role="group"
      aria-label="Columns"
    >
      <table className="text-[12.5px]">
        <thead>
          <tr>
            {layout.headings.map((heading, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: headings may be the same
              <th key={at} className="whitespace-nowrap border-hair border-b px-2 py-1 text-left font-normal">
                <span className="block font-semibold">{heading || '(no heading)'}</span>
                <select
                  className={`plain-field chip max-w-44 cursor-pointer ${layout.roles[at] === 'skip' ? 'text-faint' : ''}`}
                  aria-label={`Column ${heading || at + 1}`}
                  disabled={busy}
                  value={layout.roles[at]}
                  onChange={({ target }) =>
                    onRoles(
                      layout.roles.map((role, n) => {
                        if (n === at) return target.value as ReportRole;
                        // One column each: the one that had it is left out.
                        return role === target.value && role !== 'skip' ? 'skip' : role;
                      }),
                    )
                  }
                >
                  {roleChoices.map(({ value, words }) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </select>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {layout.samples.slice(0, 3).map((cells, row) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows may be the same
            <tr key={row}>
              {layout.headings.map((_, at) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: cells may be the same
                <td key={at} className="max-w-56 truncate px-2 py-0.5 text-faint" title={cells[at]}>
                  {cells[at]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {remembered && (
        <p className="px-2 py-1 text-[12px] text-faint">Read as the last report with these headings was.</p>
      )}
    </div>
  );
}

/** What was not read, not met, or does not fit together. */
function Notes({ reading }: { reading: ReportReading }) {
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
