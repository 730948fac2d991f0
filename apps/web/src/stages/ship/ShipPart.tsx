import {
  findPartGroups,
  type OutletCheck,
  readPartChoices,
  type ShipPart as ShipPartBody,
  startPartLook,
  stopJob,
} from '@sprig/contracts';
import { kindsIn, type Outlet, type RowKind, rowKinds, type SheetProfile } from '@sprig/core/outlets';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { finishJob, useJob } from '../../data/jobs.ts';
import { question } from '../../data/question.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';
import { Progress } from '../../kit/Progress.tsx';
import { useSettled } from '../../kit/use-settled.ts';
import { ChangedRows } from './ChangedRows.tsx';
import { DifferenceBar } from './DifferenceBar.tsx';
import { kindWords } from './ship-words.ts';

type Props = {
  plan: number;
  outlet: Pick<Outlet, 'key' | 'name'>;
  /** Those that are written. */
  sheets: readonly SheetProfile[];
  /** Nothing was shipped there yet. */
  isFirst: boolean;
  onWrite: (what: 'all' | 'difference', part: ShipPartBody) => void;
  onClose: () => void;
};
type Looked = Pick<OutletCheck, 'rows' | 'difference'>;

/** A part of the plan for one outlet: chosen, looked at, and shipped. */
export function ShipPart({ plan, outlet, sheets, isFirst, onWrite, onClose }: Props) {
  const { data: choices, error } = useQuery(question(readPartChoices, { params: { plan } }));
  const can = rowKinds.filter((kind) => kindsIn(sheets).has(kind));
  const [part, setPart] = useState<ShipPartBody>({ campaigns: [], groups: [], labels: [], kinds: can });
  const { looked, isLooking, refusal, look, job } = useLook(plan, outlet.key, part);
  const { data: running } = useJob(plan, job);
  const change = (more: Partial<ShipPartBody>) => setPart({ ...part, ...more });
  const cantLook =
    isLooking || part.kinds.length === 0 || (isOfAll(part) && part.kinds.length === can.length);
  const told = looked ? Object.values(looked.difference.told).reduce((sum, rows) => sum + rows, 0) : 0;
  const rows = looked ? Object.values(looked.rows).reduce((sum, of) => sum + of, 0) : 0;
  return (
    <Dialog title={`Ship a part to ${outlet.name}`} onClose={onClose} wide>
      <div className="flex flex-col gap-3 text-[13px]">
        {error && (
          <p role="alert" className="text-error">
            {wordsOf(error)}
          </p>
        )}
        <div className="grid grid-cols-2 gap-4">
          <div className="flex min-w-0 flex-col gap-3">
            <Choices
              title="Campaigns"
              words="all that is in them"
              items={(choices?.campaigns ?? []).map(({ key, name, groups }) => ({
                value: key,
                words: name,
                beside: counted(groups, 'ad group'),
              }))}
              chosen={part.campaigns}
              onChoose={(campaigns) => change({ campaigns })}
            />
            {(choices?.labels.length ?? 0) > 0 && (
              <Choices
                title="Labels"
                words="of campaigns and ad groups"
                items={(choices?.labels ?? []).map(({ label, groups }) => ({
                  value: label,
                  words: label,
                  beside: counted(groups, 'ad group'),
                }))}
                chosen={part.labels}
                onChoose={(labels) => change({ labels })}
              />
            )}
          </div>
          <Groups plan={plan} chosen={part.groups} onChoose={(groups) => change({ groups })} />
        </div>
        <Choices
          title="Kinds of rows"
          words=""
          isInRow
          items={can.map((kind) => ({ value: kind, words: `${kindWords[kind]}s`, beside: '' }))}
          chosen={part.kinds}
          onChoose={(kinds) => change({ kinds: can.filter((kind) => kinds.includes(kind)) as RowKind[] })}
        />
        <div className="flex items-center gap-3">
          <button type="button" className="btn btn-sm" disabled={cantLook} onClick={() => void look()}>
            See what it tells
          </button>
          <span className="text-[12.5px] text-faint">{wordsOfChoice(part, can.length)}</span>
        </div>
        {isLooking && running && (
          <Progress
            words={
              running.total > 0
                ? `${count(running.done)} of ${counted(running.total, 'ad group')}`
                : 'Starting'
            }
            done={running.done}
            total={running.total}
            onStop={() => void call(stopJob, { params: { plan, job: job ?? '' } }).catch(() => {})}
          />
        )}
        {refusal && (
          <p role="alert" className="text-[12.5px] text-error">
            {refusal}
          </p>
        )}
        {looked && (
          <>
            <DifferenceBar difference={looked.difference} />
            <ChangedRows rows={looked.difference.rows} total={told} />
            <div className="flex flex-wrap gap-2">
              {!isFirst && (
                <button
                  type="button"
                  className="btn btn-primary btn-sm"
                  disabled={told === 0}
                  onClick={() => onWrite('difference', part)}
                >
                  Ship {counted(told, 'change')}
                </button>
              )}
              <button
                type="button"
                className={`btn btn-sm ${isFirst ? 'btn-primary' : ''}`}
                disabled={rows === 0}
                onClick={() => onWrite('all', part)}
              >
                {isFirst ? `Ship ${counted(rows, 'row')}` : `All ${counted(rows, 'row')}`}
              </button>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}

/** No place is chosen: the part is of the whole plan. */
const isOfAll = ({ campaigns, groups, labels }: ShipPartBody): boolean =>
  campaigns.length + groups.length + labels.length === 0;

/** What the choice comes to, or what is missing. `kinds`: how many kinds of rows there are. */
function wordsOfChoice(part: ShipPartBody, kinds: number): string {
  if (part.kinds.length === 0) return 'Choose a kind of rows at least.';
  if (!isOfAll(part)) return 'What is left out stays there as it is, and is told the next time.';
  return part.kinds.length === kinds
    ? 'Choose campaigns, ad groups, labels, or fewer kinds of rows.'
    : 'Of the whole plan these kinds of rows.';
}

/** What a part would tell, as long as it is the part that was looked at. */
function useLook(plan: number, outlet: string, part: ShipPartBody) {
  const [found, setFound] = useState<{ of: ShipPartBody; looked: Looked } | null>(null);
  const [job, setJob] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const open = useRef<string | null>(null);
  // Who closes the dialog does not want to know any more.
  useEffect(
    () => () => {
      if (open.current) void call(stopJob, { params: { plan, job: open.current } }).catch(() => {});
    },
    [plan],
  );
  const look = async () => {
    setRefusal(null);
    setFound(null);
    try {
      const started = await call(startPartLook, { params: { plan, outlet }, body: { part } });
      open.current = started.job;
      setJob(started.job);
      const done = await finishJob(plan, started.job);
      if (done.status === 'done') setFound({ of: part, looked: done.result as Looked });
      else setRefusal('Stopped. Nothing was looked at.');
    } catch (error) {
      setRefusal(wordsOf(error));
    }
    open.current = null;
    setJob(null);
  };
  return { looked: found?.of === part ? found.looked : null, isLooking: job !== null, refusal, look, job };
}

type Item = { value: string; words: string; beside: string };

function Choices<T extends string>({
  title,
  words,
  items,
  chosen,
  onChoose,
  children,
  isInRow = false,
}: {
  title: string;
  words: string;
  items: readonly (Item & { value: T })[];
  chosen: readonly T[];
  onChoose: (chosen: T[]) => void;
  children?: ReactNode;
  /** A few short ones, side by side. */
  isInRow?: boolean;
}) {
  const isChosen = new Set(chosen);
  const allShown = items.length > 0 && items.every(({ value }) => isChosen.has(value));
  const toggleAll = () => {
    const shown = new Set(items.map(({ value }) => value));
    onChoose(allShown ? chosen.filter((one) => !shown.has(one)) : [...new Set([...chosen, ...shown])]);
  };
  return (
    <fieldset className="min-w-0">
      <legend className="flex w-full items-baseline gap-2">
        <b className="font-semibold">{title}</b>
        <span className="min-w-0 flex-1 truncate text-[12px] text-faint">
          {chosen.length > 0 ? `${count(chosen.length)} chosen` : words}
        </span>
        {items.length > 0 && (
          <button type="button" className="text-[12px] text-primary hover:underline" onClick={toggleAll}>
            {allShown ? 'none of these' : 'all of these'}
          </button>
        )}
      </legend>
      {children}
      <ul
        className={`mt-1 border-hair border-y py-0.5 ${isInRow ? 'flex flex-wrap gap-x-5' : 'max-h-44 overflow-auto'}`}
      >
        {items.map(({ value, words: said, beside }) => (
          <li key={value}>
            <label className="flex min-h-6 cursor-pointer items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={isChosen.has(value)}
                onChange={({ target }) =>
                  onChoose(target.checked ? [...chosen, value] : chosen.filter((one) => one !== value))
                }
              />
              <span className="min-w-0 flex-1 truncate" title={said}>
                {said}
              </span>
              <span className="max-w-[45%] truncate text-[12px] text-faint">{beside}</span>
            </label>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}

/** Ad groups found by words of their names; those that were chosen stay chosen. */
function Groups({
  plan,
  chosen,
  onChoose,
}: {
  plan: number;
  chosen: readonly string[];
  onChoose: (chosen: string[]) => void;
}) {
  const [words, setWords] = useState('');
  const asked = useSettled(words);
  const { data } = useQuery({
    ...question(findPartGroups, { params: { plan }, body: { words: asked } }),
    placeholderData: keepPreviousData,
  });
  const more = (data?.total ?? 0) - (data?.groups.length ?? 0);
  return (
    <Choices
      title="Ad groups"
      words={`${count(data?.total)} found`}
      items={(data?.groups ?? []).map(({ key, name, campaign }) => ({
        value: key,
        words: name,
        beside: campaign,
      }))}
      chosen={chosen}
      onChoose={onChoose}
    >
      <input
        type="search"
        aria-label="Words of ad groups’ names"
        className="input input-xs mt-1 w-full"
        placeholder="words of their names"
        value={words}
        onChange={({ target }) => setWords(target.value)}
      />
      {more > 0 && (
        <p className="text-[12px] text-faint">
          The first {count(data?.groups.length)} of {count(data?.total)}: type more words, or choose by label.
        </p>
      )}
    </Choices>
  );
}
