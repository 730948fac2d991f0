import { useState } from 'react';
import { toast } from 'sonner';
import { Help } from '../../../frame/Help.tsx';
import { ChoiceChip } from '../../../kit/chips.tsx';
import { Dialog } from '../../../kit/Dialog.tsx';
import { DialogFoot } from '../../../kit/DialogFoot.tsx';
import { count, counted, money } from '../../../kit/format.ts';
import { bidKinds } from '../bid-change.ts';
import { type BudgetKind, budgetsAfter, type ShareBy } from './budget-change.ts';
import type { ShownCampaign } from './shown-campaigns.ts';
import type { CampaignChange } from './use-campaign-change.ts';

const kinds: { value: BudgetKind; words: string }[] = [
  ...bidKinds,
  { value: 'share', words: 'share among them' },
];
const bys: { value: ShareBy; words: string }[] = [
  { value: 'searches', words: 'by their searches' },
  { value: 'cost', words: 'by what they may cost' },
  { value: 'budget', words: 'as they are shared now' },
  { value: 'alike', words: 'evenly' },
];

const SHOWN = 14;

type Props = {
  campaigns: readonly ShownCampaign[];
  currency: string;
  onChange: (asked: CampaignChange) => Promise<string | null>;
  onClose: () => void;
};

/** The budgets of many campaigns changed at once, each before and after, with what they come to together. */
export function BulkBudgets({ campaigns, currency, onChange, onClose }: Props) {
  const [kind, setKind] = useState<BudgetKind>('set');
  const [first, setFirst] = useState('');
  const [second, setSecond] = useState('');
  const [by, setBy] = useState<ShareBy>('searches');
  const [isBusy, setBusy] = useState(false);
  const what = counted(campaigns.length, 'campaign');
  const read = budgetsAfter(campaigns, { kind, first, second, by }, currency);
  const after = 'after' in read ? read.after : null;
  const changed = campaigns.flatMap((row, at) => {
    const budget = after?.[at];
    return budget === undefined || budget === row.dailyBudget ? [] : [{ row, budget }];
  });
  const sum = (amounts: readonly number[]) => amounts.reduce((all, one) => all + one, 0);
  const before = sum(campaigns.map(({ dailyBudget }) => dailyBudget));
  const apply = async () => {
    if (changed.length === 0 || isBusy) return;
    setBusy(true);
    const words = await onChange({
      values: changed.map(({ row, budget }) => [row.key, 'budget', budget]),
      settings: [],
    });
    setBusy(false);
    if (words) return void toast.error(words);
    toast(`Changed ${counted(changed.length, 'budget')}. They are held from now on.`);
    onClose();
  };
  const isPercent = kind === 'raise' || kind === 'lower';
  const amountWord = isPercent ? 'Percent' : 'Amount';
  const field = (label: string, value: string, set: (typed: string) => void) => (
    <input
      // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
      autoFocus={label !== 'Greatest budget'}
      aria-label={label}
      className={`plain-field chip w-24 text-right ${'words' in read && value !== '' ? 'chip-bad' : ''}`}
      value={value}
      onChange={({ target }) => set(target.value)}
      onKeyDown={(event) => event.key === 'Enter' && void apply()}
    />
  );
  return (
    <Dialog title={`Budgets of ${what}`} onClose={onClose} wide>
      <p className="text-[14px] leading-9">
        Take the daily budgets of {what} and{' '}
        <ChoiceChip label="What to do with the budgets" value={kind} choices={kinds} onChoose={setKind} />{' '}
        {field(kind === 'between' ? 'Least budget' : amountWord, first, setFirst)}
        {isPercent && ' %'}
        {kind === 'between' && <> and {field('Greatest budget', second, setSecond)}</>}
        {kind === 'share' && (
          <>
            {' '}
            a day, <ChoiceChip label="How it is shared" value={by} choices={bys} onChoose={setBy} />
          </>
        )}
        .
      </p>
      {'words' in read && first !== '' && (
        <p role="alert" className="text-[12.5px] text-error">
          {read.words}
        </p>
      )}
      {after && (
        <>
          <p role="status" className="mt-1 text-[13px]">
            {counted(changed.length, 'budget')} of {count(campaigns.length)} would change, together from{' '}
            {money(before, currency)} to <b>{money(sum(after), currency)}</b> a day.
          </p>
          <table className="mt-2 w-full text-[13px]">
            <thead className="text-[12px] text-faint">
              <tr>
                <th className="text-left font-normal">Campaign</th>
                <th className="w-24 text-right font-normal">Before</th>
                <th className="w-24 text-right font-normal">After</th>
              </tr>
            </thead>
            <tbody>
              {changed.slice(0, SHOWN).map(({ row, budget }) => (
                <tr key={row.key} className="h-6">
                  <td className="max-w-0 truncate">{row.name}</td>
                  <td className="text-right text-faint">{money(row.dailyBudget, currency)}</td>
                  <td className="text-right font-semibold">{money(budget, currency)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {changed.length > SHOWN && (
            <p className="text-[12px] text-faint">and {count(changed.length - SHOWN)} more</p>
          )}
        </>
      )}
      <DialogFoot
        words={`Change ${counted(changed.length, 'budget')}`}
        isOff={changed.length === 0 || isBusy}
        onDo={() => void apply()}
        onLeave={onClose}
      />
      <Help>
        Changed budgets are held: they stay when the layout’s budget moves, until they are let go. One step of
        undo takes all of it back.
      </Help>
    </Dialog>
  );
}
