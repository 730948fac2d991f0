import {
  type ChangeDetails,
  HISTORY_PAGE,
  type HistoryEntry,
  planHistory,
  readChange,
  undoOne,
} from '@sprig/contracts';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../data/call.ts';
import { questionsOf } from '../data/query-key.ts';
import { question } from '../data/question.ts';
import { refusalOf } from '../data/run-change.ts';
import { useMay } from '../kit/allowed.tsx';
import { Dialog } from '../kit/Dialog.tsx';
import { count, time } from '../kit/format.ts';
import { tableWord } from './table-words.ts';

const KIND = { edit: '', undo: 'Undone: ', redo: 'Done again: ' } as const;

/** What was done to this plan, by whom, newest first; each opened to see what it did, and taken back where it can be. */
export function HistoryPanel({ plan, onClose }: { plan: number; onClose: () => void }) {
  const [by, setBy] = useState<number | null>(null);
  const [open, setOpen] = useState<number | null>(null);
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey: [...questionsOf(planHistory, plan), by],
    queryFn: ({ pageParam }) =>
      call(planHistory, {
        params: { plan },
        query: { ...(pageParam === null ? {} : { before: pageParam }), ...(by === null ? {} : { by }) },
      }),
    initialPageParam: null as number | null,
    getNextPageParam: ({ changes }) =>
      changes.length < HISTORY_PAGE ? null : (changes.at(-1)?.revision ?? null),
    meta: { reads: planHistory.reads },
  });
  const people = data?.pages[0]?.people ?? [];
  return (
    <Dialog title="History of this plan" onClose={onClose} wide>
      {error && (
        <p role="alert" className="text-error">
          {wordsOf(error)}
        </p>
      )}
      {people.length > 1 && (
        <p className="mb-2">
          <select
            className="chip cursor-pointer"
            aria-label="By whom"
            value={by ?? ''}
            onChange={({ target }) => setBy(target.value === '' ? null : Number(target.value))}
          >
            <option value="">by anybody</option>
            {people.map((one) => (
              <option key={one.by} value={one.by}>
                by {one.actor}
              </option>
            ))}
          </select>
        </p>
      )}
      <ol className="divide-y divide-base-200">
        {data?.pages.flatMap(({ changes }) =>
          changes.map((entry) => (
            <Entry
              key={entry.revision}
              plan={plan}
              entry={entry}
              isOpen={open === entry.revision}
              onOpen={() => setOpen(open === entry.revision ? null : entry.revision)}
            />
          )),
        )}
      </ol>
      {hasNextPage && (
        <button
          type="button"
          className="btn btn-sm mt-2"
          disabled={isFetchingNextPage}
          onClick={() => void fetchNextPage()}
        >
          Older ones
        </button>
      )}
    </Dialog>
  );
}

type EntryProps = { plan: number; entry: HistoryEntry; isOpen: boolean; onOpen: () => void };

function Entry({ plan, entry, isOpen, onOpen }: EntryProps) {
  const { revision, label, kind, actor, at, undone } = entry;
  return (
    <li className="py-0.5">
      <button
        type="button"
        aria-expanded={isOpen}
        className="grid w-full grid-cols-[44px_1fr_auto] gap-2 rounded py-1 text-left hover:bg-base-200"
        onClick={onOpen}
      >
        <span className="text-right text-faint">{revision}</span>
        <span className={undone ? 'text-faint line-through' : ''}>
          {KIND[kind]}
          {label}
        </span>
        <span className="text-[12px] text-faint">
          {actor}, {time(at)}
        </span>
      </button>
      {isOpen && <Details plan={plan} entry={entry} />}
    </li>
  );
}

function Details({ plan, entry }: { plan: number; entry: HistoryEntry }) {
  const { revision, undoable } = entry;
  const may = useMay();
  const { data, error } = useQuery(question(readChange, { params: { plan, revision } }));
  const [refusal, setRefusal] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const undo = async (force: boolean) => {
    setBusy(true);
    const words = await refusalOf(plan, () => call(undoOne, { params: { plan, revision }, body: { force } }));
    setBusy(false);
    setRefusal(words);
    if (words === null) toast(`Undone: ${entry.label}.`);
  };
  if (error)
    return (
      <p role="alert" className="pl-[52px] text-error">
        {wordsOf(error)}
      </p>
    );
  if (!data) return null;
  return (
    <div className="mb-2 pl-[52px] text-[13px]">
      <p className="text-faint">{partsText(data)}</p>
      <ul aria-label="What it changed" className="mt-1 max-h-64 overflow-auto">
        {data.samples.map(({ table, row, fields, how }, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a log does not change
          <li key={at} className="py-0.5">
            <span className="text-faint">{HOW[how]}</span> {row}{' '}
            <span className="text-[12px] text-faint">{tableWord(table)}</span>
            {fields?.map(({ field, before, after }) => (
              <span key={field} className="block break-words pl-3">
                <span className="text-faint">{field}:</span> <s className="text-faint">{before}</s> → {after}
              </span>
            ))}
          </li>
        ))}
      </ul>
      {undoable && may('build') && (
        <p className="mt-1 flex items-center gap-2">
          <button type="button" className="btn btn-xs" disabled={isBusy} onClick={() => void undo(false)}>
            Undo this
          </button>
          {refusal && (
            <span role="alert" className="text-error">
              {refusal}
            </span>
          )}
          {refusal?.endsWith('all the same?') && (
            <button
              type="button"
              className="btn btn-error btn-xs"
              disabled={isBusy}
              onClick={() => void undo(true)}
            >
              All the same
            </button>
          )}
        </p>
      )}
    </div>
  );
}

const HOW = { inserted: '+', removed: '−', changed: '·' } as const;

/** `12 × keyword changed; 3 × theme added; the source Search notes came in.` */
function partsText({ parts, came, went }: ChangeDetails): string {
  const said = parts.flatMap(({ table, inserted, removed, changed }) =>
    [
      [inserted, 'added'],
      [removed, 'taken out'],
      [changed, 'changed'],
    ].flatMap(([rows, how]) =>
      Number(rows) > 0 ? [`${count(Number(rows))} × ${tableWord(table)} ${how}`] : [],
    ),
  );
  const sources = [
    ...came.map((name) => `the source ${name} came in`),
    ...went.map((name) => `the source ${name} went`),
  ];
  const all = [...said, ...sources];
  return all.length > 0 ? `${all.join('; ')}.` : 'Of what it did no row is kept.';
}
