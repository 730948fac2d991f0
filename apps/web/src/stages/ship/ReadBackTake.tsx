import {
  type amountModes,
  type PlanState,
  type ReadBack,
  readFacts,
  type TakeOptions,
} from '@sprig/contracts';
import { type RowKind, rowKinds } from '@sprig/core/outlets';
import { mergeKinds } from '@sprig/core/sheets';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { ChoiceChip, PercentChip } from '../../kit/chips.tsx';
import { count, counted } from '../../kit/format.ts';
import { timeZones } from '../../kit/time-zones.ts';
import { useOutlets } from '../../plan/use-outlets.ts';
import { mergeWords } from './read-back-words.ts';
import { kindWords } from './ship-words.ts';

type Mode = (typeof amountModes)[number];
type Props = {
  plan: PlanState;
  readBack: ReadBack;
  isOld: boolean;
  busy: boolean;
  /** Whether what only the plan has is paused. */
  missing: boolean;
  onMissing: (missing: boolean) => void;
  onTake: (options: TakeOptions) => void;
};

const usual = { mode: 'take' as Mode, scale: 10_000 };
const plural = (kind: RowKind): string => `${kindWords[kind]}s`;

/** What differs by kind, what of it is wanted, and how amounts are taken. */
export function ReadBackTake({ plan, readBack, isOld, busy, missing, onMissing, onTake }: Props) {
  const listed = rowKinds.filter((kind) => Object.values(readBack.kinds[kind]).some((rows) => rows > 0));
  const [kinds, setKinds] = useState<readonly RowKind[]>(listed);
  const [settings, setSettings] = useState(true);
  const [bids, setBids] = useState(usual);
  const [budgets, setBudgets] = useState(usual);
  const own =
    useOutlets(plan.id).data?.find(({ outlet }) => outlet.key === readBack.by)?.outlet.timeZone ?? null;
  const [said, setSaid] = useState<string | null | undefined>(undefined);
  const timeZone = said === undefined ? own : said;
  const hasMissing = listed.some((kind) => readBack.kinds[kind].missing > 0);
  const rows = kinds.reduce((sum, kind) => {
    const { added, changed, removed, missing: gone } = readBack.kinds[kind];
    return sum + added + changed + removed + (missing ? gone : 0);
  }, 0);
  const columns = mergeKinds.filter((change) => listed.some((kind) => readBack.kinds[kind][change] > 0));
  return (
    <section aria-label="What to take in">
      <table className="w-full text-[13px]" aria-label="Differences by kind">
        <thead className="text-faint">
          <tr>
            <th className="text-left font-normal">Take</th>
            {columns.map((change) => (
              <th key={change} className="whitespace-nowrap pl-3 text-right font-normal">
                {mergeWords[change]}
              </th>
            ))}
            <th className="pl-3 text-right font-normal">same</th>
          </tr>
        </thead>
        <tbody>
          {listed.map((kind) => (
            <tr key={kind} className="border-base-200 border-t">
              <td className="whitespace-nowrap py-1">
                <Tick
                  words={plural(kind)}
                  value={kinds.includes(kind)}
                  onChange={(on) => setKinds(on ? [...kinds, kind] : kinds.filter((one) => one !== kind))}
                />
              </td>
              {columns.map((change) => (
                <td key={change} className="pl-3 text-right">
                  {count(readBack.kinds[kind][change])}
                </td>
              ))}
              <td className="pl-3 text-right text-faint">{count(readBack.kinds[kind].same)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-3 flex flex-col gap-0.5 leading-7">
        <Amounts label="Bids" value={bids} onChange={setBids} />
        <Amounts label="Budgets" value={budgets} onChange={setBudgets} />
        {kinds.includes('campaign') && (
          <Tick words="Campaign settings too" value={settings} onChange={setSettings} />
        )}
        {hasMissing && <Tick words="Pause what only the plan has" value={missing} onChange={onMissing} />}
        {readBack.hasSchedule && settings && <Clock plan={plan.id} value={timeZone} onChange={setSaid} />}
      </div>
      <button
        type="button"
        className="btn btn-primary btn-sm mt-3"
        disabled={busy || isOld || rows === 0}
        onClick={() => onTake({ kinds: [...kinds], settings, bids, budgets, missing, timeZone })}
      >
        {rows === 0 ? 'Nothing differs' : `Take in ${counted(rows, 'difference')}`}
      </button>
    </section>
  );
}

type TickProps = { words: string; value: boolean; onChange: (on: boolean) => void };

function Tick({ words, value, onChange }: TickProps) {
  return (
    <label className="flex cursor-pointer items-center gap-2">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={value}
        onChange={({ target }) => onChange(target.checked)}
      />
      {words}
    </label>
  );
}

type AmountsProps = {
  label: string;
  value: { mode: Mode; scale: number };
  onChange: (value: { mode: Mode; scale: number }) => void;
};

/** `Bids are taken`, `Bids stay`, `Bids are taken at 80%`. */
function Amounts({ label, value, onChange }: AmountsProps) {
  return (
    <p>
      {label}{' '}
      <ChoiceChip
        label={label}
        value={value.mode}
        choices={[
          { value: 'take', words: 'are taken as they are' },
          { value: 'keep', words: 'stay as the plan has them' },
          { value: 'scale', words: 'are taken at' },
        ]}
        onChoose={(mode) => onChange({ ...value, mode: mode as Mode })}
      />
      {value.mode === 'scale' && (
        <>
          {' '}
          <PercentChip
            label={`${label} at`}
            value={value.scale}
            onKeep={async (scale) => {
              onChange({ ...value, scale: Number(scale) });
              return null;
            }}
          />
        </>
      )}
    </p>
  );
}

/** By whose clock the schedules are: that of the account, if it is not the plan's. */
function Clock({
  plan,
  value,
  onChange,
}: {
  plan: number;
  value: string | null;
  onChange: (zone: string | null) => void;
}) {
  const { data } = useQuery(question(readFacts, { params: { plan } }));
  const own = data?.facts.timeZone ?? 'UTC';
  const zones = timeZones.filter((zone) => zone !== own);
  return (
    <p>
      Schedules are by the clock of{' '}
      <select
        className="plain-field chip cursor-pointer"
        aria-label="Clock of the schedules"
        value={value === own ? '' : (value ?? '')}
        onChange={({ target }) => onChange(target.value === '' ? null : target.value)}
      >
        <option value="">the plan ({own})</option>
        {zones.map((zone) => (
          <option key={zone} value={zone}>
            {zone}
          </option>
        ))}
      </select>
    </p>
  );
}
