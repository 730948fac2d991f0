import { accountCode, type ReportAccount, type ReportChoices, type ReportReading } from '@sprig/contracts';
import { currencies } from '@sprig/core/money';
import { X } from 'lucide-react';
import { useState } from 'react';
import { ChoiceChip, TextChip } from '../../kit/chips.tsx';
import { counted } from '../../kit/format.ts';
import { daysText, figureText, grainText } from '../../plan/results/result-words.ts';
import { ReadingColumns } from './ReadingColumns.tsx';
import { ReadingNotes } from './ReadingNotes.tsx';
import { replacingWords } from './report-words.ts';

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
  const { layout, account, currency, choices } = reading;
  const isOpen = layout.open.length > 0;
  const does = isWhole ? reading.replacesWhole : reading.replaces;
  const otherCurrency = currency !== null && currency !== account.currency;
  return (
    <section
      aria-label={`Report ${reading.name}${choices.ofAccount === undefined ? '' : `, rows of ${choices.ofAccount}`}`}
      className="flex flex-col gap-2.5 border-hair border-b px-5 py-4"
    >
      <div className="flex items-start gap-3">
        <div className="leading-7">
          <b>{reading.name}</b>
          {choices.ofAccount !== undefined && <> (rows of {choices.ofAccount} alone)</>},{' '}
          {counted(reading.rows, 'row')} of{' '}
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
            disabled={busy || isOpen || otherCurrency || reading.times === 0}
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
      <ReadingColumns reading={reading} busy={busy} onRoles={(roles) => onAgain({ choices: { roles } })} />
      <ReadingNotes reading={reading} />
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
