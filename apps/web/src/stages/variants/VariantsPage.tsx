import { problemWords } from '@sprig/contracts';
import { type MatchType, matchTypes } from '@sprig/core/match';
import type { Variant } from '@sprig/core/mix';
import { decimalFromMicros } from '@sprig/core/money';
import { type Remote, wrap } from 'comlink';
import { ArrowLeft, ClipboardCopy, Download } from 'lucide-react';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { useWidths } from '../../data/me.ts';
import { useTheme } from '../../frame/use-theme.ts';
import { YouMenu } from '../../frame/YouMenu.tsx';
import { useAddress } from '../../kit/address.ts';
import { Needs } from '../../kit/allowed.tsx';
import { copyCells } from '../../kit/clipboard.ts';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted } from '../../kit/format.ts';
import { takeHandedList } from '../../kit/handed-list.ts';
import type { LinesEditorHandle } from '../../kit/LinesEditor.tsx';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { saveText } from '../../kit/save-text.ts';
import type { TableColumn } from '../../kit/table/column.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { MatchTypeChoices } from './MatchTypeChoices.tsx';
import { VariantSentence } from './VariantSentence.tsx';
import type { Form, ListRead, Made } from './variant-list.ts';
import { optionsOf, readSettings } from './variant-settings.ts';
import type { VariantWorker } from './worker.ts';

const LinesEditor = lazy(() => import('../../kit/LinesEditor.tsx'));

/** More rows than this go to the clipboard as plain text alone: a table of them takes the browser too long. */
const MOST_AS_TABLE = 5_000;
const none = new Uint32Array();

/** Any list in any mix of match types, ready to copy: without a plan, and kept nowhere. */
export function VariantsPage() {
  useTheme();
  const navigate = useNavigate();
  const [params, set] = useAddress({ replace: true });
  const settings = readSettings(params);
  const { types, form } = settings;
  const worker = useWorker();
  const [typed, setTyped] = useState(takeOnce);
  const { read, made, busy } = useMade(worker, typed, settings);
  const field = useRef<LinesEditorHandle>(null);
  const selection = useSelection<number>();
  const widths = useWidths('variants');
  const rows = made?.rows ?? 0;
  const source = useMemo<RowSource<Variant & { at: number }, number>>(() => {
    const fetchPage = (places: number[]) => worker.page(places);
    return {
      ids: rows === 0 ? none : Uint32Array.from({ length: rows }, (_, at) => at),
      version: made?.version ?? '',
      loading: busy,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ at }) => at,
    };
  }, [rows, made?.version, busy, worker]);
  const hasBids = optionsOf(settings).bids !== null;
  const columns = useMemo(() => columnsOf(form, hasBids), [form, hasBids]);

  const copy = async () => {
    // Notation goes out as it is: what quotes it for a spreadsheet would be wrong everywhere else.
    const text = await worker.text(form);
    if (rows <= MOST_AS_TABLE) await copyCells(await worker.cells(form), text);
    else await navigator.clipboard.writeText(text);
    toast(
      `Copied ${counted(rows, 'row')}${form === 'columns' ? ' with headings' : ''}.${
        rows > MOST_AS_TABLE && types.includes('modified')
          ? ' In a spreadsheet, make the cells text before you paste: a + would begin a formula.'
          : ''
      }`,
    );
  };
  const download = async () => {
    const isSheet = form === 'columns';
    saveText(isSheet ? 'variants.tsv' : 'variants.txt', await worker.text(form));
  };
  const toggle = (type: MatchType) =>
    set({
      types: matchTypes.filter((one) => types.includes(one) !== (one === type)).join(',') || 'none',
    });
  const list = read?.list;
  return (
    <Needs access="self">
      <div className="flex h-full min-w-[900px] flex-col [@media(max-height:560px)]:min-h-[560px]">
        <header className="flex h-[62px] shrink-0 items-center gap-3 border-hair border-b px-6">
          <Link to="/" title="All plans" className="shrink-0">
            <img src="/sprig.svg" alt="Green Sprig: all plans" width="28" height="28" />
          </Link>
          <h1 className="font-semibold text-[15px]">Match variants</h1>
          <span className="text-faint">any list, any mix of match types; nothing of it is kept</span>
          <span className="ml-auto flex items-center gap-2">
            <button type="button" className="btn btn-ghost btn-sm" onClick={() => navigate(-1)}>
              <ArrowLeft size={15} aria-hidden /> Back
            </button>
            <YouMenu />
          </span>
        </header>
        <main className="grid min-h-0 flex-1 grid-cols-[340px_1fr]">
          <section aria-label="The list" className="flex min-h-0 flex-col gap-2 border-hair border-r p-4">
            <Suspense fallback={<div className="lines-editor lines-editor-tall" />}>
              <LinesEditor
                label="Keywords, one to a line"
                text={typed}
                hint={'red mug\n"glass teapot"\n[small jug]\n-jobs'}
                wrong={list?.problems.map(({ line }) => line) ?? []}
                isTall
                onType={setTyped}
                handle={field}
              />
            </Suspense>
            {list && typed.trim() !== '' && (
              <p className="text-[12.5px] text-faint" role="status">
                <b className="text-base-content">{counted(list.keywords, 'keyword')}</b>
                {list.negatives > 0 && `, ${counted(list.negatives, 'negative')}`}
                {list.repeated > 0 && `, ${counted(list.repeated, 'line')} said before`}
                {list.withCpc > 0 && `, ${count(list.withCpc)} with a CPC of their own`}
              </p>
            )}
            {list && list.problemCount > 0 && (
              <Problems list={list} onGo={(line) => field.current?.goTo(line)} />
            )}
          </section>
          <div className="flex min-h-0 flex-col">
            <MatchTypeChoices types={types} onToggle={toggle} />
            <VariantSentence settings={settings} onSet={set} />
            <div className="flex h-11 shrink-0 items-center gap-2 px-4">
              <b>{counted(rows, 'row')}</b>
              {made && made.unmarked > 0 && (
                <span className="text-warning">
                  {counted(made.unmarked, 'keyword')} without a chosen word: content words are marked
                </span>
              )}
              <button
                type="button"
                className="btn btn-primary btn-sm ml-auto"
                disabled={rows === 0}
                onClick={() => void copy()}
              >
                <ClipboardCopy size={14} aria-hidden /> Copy {counted(rows, 'row')}
              </button>
              <button
                type="button"
                className="btn btn-sm"
                disabled={rows === 0}
                onClick={() => void download()}
              >
                <Download size={14} aria-hidden /> Download
              </button>
            </div>
            <Table
              label="Variants"
              columns={columns}
              source={source}
              selection={selection}
              widths={widths}
              empty={
                <Empty title={typed.trim() === '' ? 'Paste a list' : 'Nothing to write'}>
                  {noneWords(typed.trim() === '', types.length === 0)}
                </Empty>
              }
            />
          </div>
        </main>
      </div>
    </Needs>
  );
}

/** What is wrong with lines, each with a way to it. */
const Problems = ({ list, onGo }: { list: ListRead; onGo: (line: number) => void }) => (
  <div className="max-h-36 shrink-0 overflow-auto text-[12.5px] text-error">
    <b>{counted(list.problemCount, 'line')} with errors; the others are used all the same</b>
    <ul>
      {list.problems.map((problem) => (
        <li key={`${problem.line}:${problem.at}`}>
          <button type="button" className="text-left hover:underline" onClick={() => onGo(problem.line)}>
            Line {count(problem.line)}, “{problem.raw.slice(0, 40)}”: {problemWords(problem)}
          </button>
        </li>
      ))}
    </ul>
  </div>
);

/** The list as it was read, and the variants made of it, worked out anew as it is typed or asked for otherwise. */
function useMade(worker: Remote<VariantWorker>, typed: string, settings: ReturnType<typeof readSettings>) {
  const { form } = settings;
  const [read, setRead] = useState<{ text: string; list: ListRead } | null>(null);
  const [made, setMade] = useState<(Made & { version: string }) | null>(null);
  const [busy, setBusy] = useState(false);
  const options = optionsOf(settings);
  const key = JSON.stringify([options, form]);
  const times = useRef(0);
  const question = useRef(options);
  question.current = options;

  useEffect(() => {
    let wanted = true;
    setBusy(true);
    const run = async () => {
      const list = await worker.read(typed);
      const now = await worker.make(question.current);
      if (!wanted) return;
      setRead({ text: typed, list });
      setMade({ ...now, version: `${++times.current}` });
      setBusy(false);
    };
    const wait = setTimeout(() => void run(), typed.length > 200_000 ? 150 : 0);
    return () => {
      wanted = false;
      clearTimeout(wait);
    };
  }, [typed, worker]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the options
  useEffect(() => {
    let wanted = true;
    void worker
      .make(question.current)
      .then((now) => wanted && setMade({ ...now, version: `${++times.current}` }));
    return () => {
      wanted = false;
    };
  }, [key, worker]);

  useEffect(() => {
    if (made) void worker.prepare(form);
  }, [made, form, worker]);

  return { read, made, busy };
}

/** What another screen handed over, once, though React mounts twice while one develops. */
let handedOnce: string | null = null;
function takeOnce(): string {
  handedOnce = takeHandedList() ?? handedOnce;
  const list = handedOnce ?? '';
  queueMicrotask(() => {
    handedOnce = null;
  });
  return list;
}

function useWorker(): Remote<VariantWorker> {
  const [open] = useState(() => {
    const thread = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    return { thread, worker: wrap<VariantWorker>(thread) };
  });
  useEffect(() => () => open.thread.terminate(), [open]);
  return open.worker;
}

function columnsOf(form: Form, hasBids: boolean): TableColumn<Variant & { at: number }>[] {
  const type: TableColumn<Variant & { at: number }> = {
    id: 'type',
    heading: 'Match type',
    width: 180,
    text: (row) => `${row.negative ? 'negative ' : ''}${matchWords[row.type]}`,
    cell: (row) => (
      <span className="inline-flex items-center gap-2">
        <ReachBars type={row.type} /> {row.negative && 'negative '}
        {matchWords[row.type]}
      </span>
    ),
  };
  const keyword: TableColumn<Variant & { at: number }> = {
    id: 'keyword',
    heading: form === 'notation' ? 'In notation' : 'Keyword',
    text: (row) => (form === 'notation' ? row.notation : row.text),
    cell: (row) => <span className="px-1">{form === 'notation' ? row.notation : row.text}</span>,
  };
  const bid: TableColumn<Variant & { at: number }> = {
    id: 'bid',
    heading: 'Max CPC',
    width: 110,
    right: true,
    text: (row) => (row.bid === null ? '' : decimalFromMicros(row.bid, 2)),
    cell: (row) => (row.bid === null ? '–' : decimalFromMicros(row.bid, 2)),
  };
  return hasBids ? [keyword, type, bid] : [keyword, type];
}

function noneWords(isEmpty: boolean, isWithoutType: boolean): string {
  if (isEmpty) return 'Any list will do: plain, in notation, or copied from a sheet with its headings.';
  return isWithoutType ? 'Choose at least one match type.' : 'No line of the list is a keyword.';
}
