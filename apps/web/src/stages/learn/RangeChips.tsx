import type { Days, Look, LookAnswer } from '@sprig/contracts';
import { daysOn } from '@sprig/core/learn';
import { useState } from 'react';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Menu } from '../../kit/Menu.tsx';
import { daysText } from '../../plan/results/result-words.ts';
import { dayCount } from './look-words.ts';

type Ranges = Pick<Look, 'range' | 'against'>;
type Props = {
  look: Ranges;
  found: Pick<LookAnswer, 'told' | 'range' | 'against'> | undefined;
  onChange: (part: Partial<Ranges>) => void;
};

/** The days that are looked at, and what they are held against. */
export function RangeChips({ look, found, onChange }: Props) {
  const range = found?.range ?? look.range;
  const told = found?.told;
  const own = typeof look.against === 'string' ? null : look.against;
  if (!range) return null;
  const lengths = [7, 14, 28, 90].filter((days) => told && days < dayCount(told));
  return (
    <>
      <span>·</span>
      <DaysChip label="Days" value={range} onKeep={(days) => onChange({ range: days })} />
      {told && (
        <Menu
          label="Other days"
          className="btn btn-ghost btn-xs font-normal"
          items={[
            ...lengths.map((days) => ({
              words: `the last ${days} days`,
              run: () => onChange({ range: lastOf(told, days) }),
            })),
            { words: 'all that is told', run: () => onChange({ range: told }) },
          ]}
        >
          ▾
        </Menu>
      )}
      <ChoiceChip
        label="Held against"
        value={own ? 'own' : String(look.against)}
        choices={[
          { value: 'before', words: `against the ${dayCount(range)} days before` },
          { value: 'none', words: 'by themselves' },
          { value: 'own', words: 'against other days' },
        ]}
        onChoose={(choice) =>
          onChange({ against: choice === 'own' ? (found?.against ?? range) : (choice as 'before' | 'none') })
        }
      />
      {own && (
        <DaysChip label="Held against the days" value={own} onKeep={(against) => onChange({ against })} />
      )}
    </>
  );
}

const lastOf = ({ to }: Days, days: number): Days => ({ from: daysOn(to, 1 - days), to });

/** Two days, by the browser's own calendar. */
function DaysChip({ label, value, onKeep }: { label: string; value: Days; onKeep: (days: Days) => void }) {
  const [open, setOpen] = useState(false);
  const set = (part: Partial<Days>) => {
    const next = { ...value, ...part };
    if (next.from && next.to) onKeep(next.from <= next.to ? next : { from: next.to, to: next.from });
  };
  if (!open)
    return (
      <button
        type="button"
        className="chip cursor-text"
        aria-label={`${label}: ${daysText(value)}`}
        onClick={() => setOpen(true)}
      >
        {daysText(value)}
      </button>
    );
  return (
    <span
      className="inline-flex items-center gap-1"
      onKeyDown={({ key }) => key === 'Escape' && setOpen(false)}
      role="none"
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
        autoFocus
        type="date"
        className="plain-field chip"
        aria-label={`${label}: the first`}
        value={value.from}
        onChange={({ target }) => target.value && set({ from: target.value })}
      />
      –
      <input
        type="date"
        className="plain-field chip"
        aria-label={`${label}: the last`}
        value={value.to}
        onChange={({ target }) => target.value && set({ to: target.value })}
      />
      <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={() => setOpen(false)}>
        Done
      </button>
    </span>
  );
}
