import {
  importResult,
  MOST_UPLOAD_BYTES,
  type PlanState,
  problemWords,
  startImport,
  stopJob,
} from '@sprig/contracts';
import { layoutName, type ReadOptions } from '@sprig/core/gather';
import { type MatchType, matchTypes } from '@sprig/core/match';
import type { Remote } from 'comlink';
import { ArrowLeft } from 'lucide-react';
import { useDeferredValue, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { readChanged } from '../../data/changed.ts';
import { finishJob, useJob } from '../../data/jobs.ts';
import { usePreferences } from '../../data/me.ts';
import { uploadTo } from '../../data/upload.ts';
import { Help } from '../../frame/Help.tsx';
import { ChoiceChip } from '../../kit/chips.tsx';
import { useCommands } from '../../kit/commands.ts';
import { bytes, count, counted } from '../../kit/format.ts';
import { Progress } from '../../kit/Progress.tsx';
import { Yield } from '../../kit/Yield.tsx';
import { isWorkbook } from '../../pool/is-workbook.ts';
import { useWorked } from '../../pool/use-pool.ts';
import type { PoolWorker, ReadSummary } from '../../pool/worker.ts';
import { takeInCommands } from './commands.ts';
import { isLong, LongList } from './LongList.tsx';
import { Questions, SetAsideLines } from './Questions.tsx';
import { Rate } from './Rate.tsx';
import { figuresWords, fileProblems, roleChoices, takeInWords } from './take-in-words.ts';
import { Understood } from './Understood.tsx';

export type Taking = { kind: 'paste'; text: string } | { kind: 'file'; file: File };

type Props = {
  plan: PlanState;
  taking: Taking;
  /** Files that come after this one. */
  waiting: number;
  worker: Remote<PoolWorker>;
  onClose: () => void;
  onNext: () => void;
};

/** A list before it goes in: what it says on the left, what was understood on the right. */
export function TakeIn({ plan, taking, waiting, worker, onClose, onNext }: Props) {
  const [text, setText] = useState(taking.kind === 'paste' ? taking.text : '');
  const [name, setName] = useState(taking.kind === 'file' ? taking.file.name : '');
  const [options, setOptions] = useState<ReadOptions>({});
  const [job, setJob] = useState<string | null>(null);
  const [figuresOn, setFiguresOn] = useState('');
  const [onlyFigures, setOnlyFigures] = useState(false);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [fileBytes, setFileBytes] = useState<Uint8Array | null>(null);
  const { data: running } = useJob(plan.id, job);
  const read = useDeferredValue(text);
  const weighs = taking.kind === 'file' ? taking.file.size : 0;
  const tooHeavy = weighs > MOST_UPLOAD_BYTES;

  const [sheets, setSheets] = useState<string[]>([]);
  const [sheet, setSheet] = useState(0);
  const [broken, setBroken] = useState<keyof typeof fileProblems | null>(null);
  /** A sheet of a workbook, read as text. */
  const [sheetText, setSheetText] = useState<string | null>(null);

  useEffect(() => {
    if (taking.kind !== 'file' || tooHeavy) return;
    let wanted = true;
    const open = async () => {
      const buffer = new Uint8Array(await taking.file.arrayBuffer());
      if (!wanted) return;
      if (!isWorkbook(buffer)) return setFileBytes(buffer);
      const book = await worker.openWorkbook(buffer);
      if (!wanted) return;
      if ('problem' in book) return setBroken(book.problem);
      if (book.sheets.length === 0) return setBroken('empty-file');
      setSheets(book.sheets);
      setSheetText(await worker.sheetText(0));
    };
    open().catch(() => setBroken('no-workbook'));
    return () => {
      wanted = false;
    };
  }, [taking, tooHeavy, worker]);
  const chooseSheet = async (place: number) => {
    setSheet(place);
    setOptions({});
    setSheetText(await worker.sheetText(place));
  };

  const { preferences, set } = usePreferences();
  const isSheet = sheets.length > 0;
  const asked: ReadOptions = isSheet ? { ...options, delimiter: '\t' } : options;
  const question = JSON.stringify(asked);
  const ask = (): Promise<ReadSummary | { problem: keyof typeof fileProblems } | null> => {
    if (isSheet) return sheetText === null ? Promise.resolve(null) : worker.readText(sheetText, asked);
    if (taking.kind === 'file')
      return fileBytes ? worker.readFile(fileBytes, options) : Promise.resolve(null);
    return read.trim() === '' ? Promise.resolve(null) : worker.readText(read, options);
  };
  const { data: answer, error } = useWorked(
    ask,
    taking.kind === 'file'
      ? `${fileBytes?.length}:${sheet}:${sheetText?.length}:${question}`
      : `${question}:${read}`,
  );
  const summary = answer && 'layout' in answer ? answer : null;
  const code = broken || (answer && 'problem' in answer ? answer.problem : null);
  const unread = code ? fileProblems[code] : error;
  const problem = tooHeavy
    ? `This file weighs ${bytes(weighs)}. A list may weigh ${bytes(MOST_UPLOAD_BYTES)}: split the file and bring in the parts.`
    : unread;

  // What was picked for a file of this layout the last time is picked again.
  const layoutOf = summary ? layoutName(summary.layout) : null;
  const remembered = layoutOf === null ? undefined : preferences.columnRoles[layoutOf];
  useEffect(() => {
    if (remembered) setOptions((old) => (old.roles === undefined ? { ...old, roles: remembered } : old));
  }, [remembered]);

  const takeIn = async () => {
    setRefusal(null);
    try {
      const given = taking.kind === 'file' ? taking.file : new Blob([text]);
      const body = isSheet ? new Blob([sheetText ?? '']) : given;
      if (layoutOf !== null && options.roles !== undefined && options.roles !== remembered)
        void set({ columnRoles: { ...preferences.columnRoles, [layoutOf]: options.roles } });
      const upload = await uploadTo(plan.id, body);
      const source = name.trim() || `Paste of ${counted(summary?.counts.lines ?? 0, 'line')}`;
      const started = await call(startImport, {
        params: { plan: plan.id },
        body: {
          upload,
          kind: onlyFigures ? 'figures' : taking.kind,
          name: source,
          options: asked,
          figuresOn: figuresOn === '' ? null : figuresOn,
        },
      });
      setJob(started.job);
      const done = await finishJob(plan.id, started.job);
      if (done.status === 'stopped') {
        setJob(null);
        return setRefusal('Stopped. Nothing went in; the list is still here.');
      }
      const result = importResult.parse(done.result);
      await readChanged(plan.id);
      if (result.figures) toast(figuresWords(result.figures));
      else
        toast(
          `${counted(result.added, 'keyword')} went in${result.alreadyThere ? `, ${count(result.alreadyThere)} were there` : ''}. Ctrl+Z takes it back.`,
        );
      if (waiting > 0) onNext();
      else onClose();
    } catch (failure) {
      setJob(null);
      setRefusal(wordsOf(failure));
    }
  };
  const figured = summary ? Math.max(summary.withSearches, summary.withCpc) : 0;
  const busy = job !== null;
  const isLongPaste = taking.kind === 'paste' && isLong(text);
  const what = onlyFigures
    ? `Fill figures from ${counted(figured, 'line')}`
    : `Take in ${takeInWords(summary)}`;
  const goods = summary ? summary.keywords + summary.negatives : 0;
  const canTake = !busy && goods > 0 && problem === null && (summary?.layout.open.length ?? 0) === 0;
  useCommands(takeInCommands, { take: canTake ? () => void takeIn() : undefined });
  return (
    <>
      <section className="flex h-12 shrink-0 items-center gap-3 border-hair border-b px-4">
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          <ArrowLeft size={15} aria-hidden /> Back to the pool
        </button>
        <label className="flex items-center gap-2">
          <span className="text-faint">Call this source</span>
          <input
            className="input input-sm w-64"
            value={name}
            placeholder={taking.kind === 'paste' ? 'Paste' : ''}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <div className="ml-auto flex items-center gap-3">
          {busy && running && (
            <Progress
              words={
                running.status === 'queued'
                  ? 'Waiting for its turn'
                  : `${running.phase} ${running.total > 0 ? `${count(running.done)} of ${count(running.total)}` : ''}`
              }
              done={running.done}
              total={running.total}
              onStop={() =>
                void call(stopJob, { params: { plan: plan.id, job } }).catch((failure) =>
                  toast.error(wordsOf(failure)),
                )
              }
            />
          )}
          <button
            type="button"
            className="btn btn-primary btn-sm"
            title="Ctrl+Enter"
            disabled={!canTake}
            onClick={() => void takeIn()}
          >
            {goods === 0 ? 'Take in' : what}
            {waiting > 0 && goods > 0 ? `, then ${counted(waiting, 'more file')}` : ''}
          </button>
          {waiting > 0 && (
            <button type="button" className="btn btn-ghost btn-sm" disabled={busy} onClick={onNext}>
              Leave this one out
            </button>
          )}
        </div>
      </section>
      {refusal && (
        <p role="alert" className="border-error border-b bg-base-200 px-4 py-2 text-error">
          {refusal}
        </p>
      )}
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(320px,5fr)_7fr]">
        <div className="flex min-h-0 flex-col border-hair border-r">
          {isLongPaste && <LongList text={text} onClear={() => setText('')} />}
          {taking.kind === 'paste' && !isLongPaste && (
            <textarea
              // biome-ignore lint/a11y/noAutofocus: the panel was opened to paste into it
              autoFocus
              aria-label="The list"
              className="plain-field min-h-0 flex-1 resize-none whitespace-pre p-4 leading-[22px] [tab-size:20]"
              spellCheck={false}
              placeholder={'red mug\n"large red mug"\n[glass teapot]\n+small +teapot\n-jobs'}
              value={text}
              onChange={(event) => setText(event.target.value)}
              onPaste={(event) => {
                const pasted = event.clipboardData.getData('text/plain');
                if (!isLong(pasted)) return;
                event.preventDefault();
                setText(text.trim() === '' ? pasted : `${text}\n${pasted}`);
              }}
            />
          )}
          {taking.kind === 'file' && (
            <div className="p-4">
              <p className="font-semibold">{taking.file.name}</p>
              <p className="text-faint">{bytes(weighs)}</p>
              {sheets.length > 1 && (
                <p className="mt-3">
                  Sheet{' '}
                  <ChoiceChip
                    label="Sheet of the workbook"
                    value={String(sheet)}
                    choices={sheets.map((words, at) => ({ value: String(at), words }))}
                    onChoose={(value) => void chooseSheet(Number(value))}
                  />
                </p>
              )}
            </div>
          )}
          <div className="border-hair border-t p-3">
            <Help>
              <b>mug</b> asks for no match type, <b>"mug"</b> for phrase, <b>[mug]</b> for exact,{' '}
              <b>+red +mug</b> for modified broad; <b>-mug</b> is a negative keyword. Columns of figures may
              stand beside.
            </Help>
          </div>
        </div>
        <div className="min-h-0 overflow-auto p-4">
          {problem && (
            <p role="alert" className="text-error">
              {problem}
            </p>
          )}
          {!summary && !problem && (
            <p className="text-faint">
              What was understood of the list will stand here, before anything goes in.
            </p>
          )}
          {summary && !problem && (
            <>
              <p className="mb-3 leading-8">
                Each line without notation asks for{' '}
                <ChoiceChip
                  label="Match type of lines without notation"
                  value={options.askedAs ?? 'any'}
                  choices={[
                    { value: 'any', words: 'no match type' },
                    ...matchTypes.map((type) => ({
                      value: type,
                      words: type === 'modified' ? 'modified broad' : type,
                    })),
                  ]}
                  onChoose={(value) =>
                    setOptions({ ...options, askedAs: value === 'any' ? null : (value as MatchType) })
                  }
                />
                ; characters that a keyword may not hold are{' '}
                <ChoiceChip
                  label="Characters not allowed"
                  value={options.takeOutNotAllowed ? 'out' : 'told'}
                  choices={[
                    { value: 'told', words: 'told as errors' },
                    { value: 'out', words: 'taken out' },
                  ]}
                  onChoose={(value) => setOptions({ ...options, takeOutNotAllowed: value === 'out' })}
                />
                .
                <Rate
                  currency={plan.brief.currency}
                  found={summary.layout.currency}
                  rate={options.rate ?? 1_000_000}
                  onRate={(rate) => setOptions({ ...options, rate })}
                />
              </p>
              {figured > 0 && (
                <p className="mb-3 leading-8">
                  Its figures are of{' '}
                  <input
                    type="date"
                    aria-label="Day that the figures are of"
                    title="Of several lists that tell a figure the newest counts; without a day, that on which it comes in"
                    className="input input-sm w-40"
                    value={figuresOn}
                    onChange={({ target }) => setFiguresOn(target.value)}
                  />
                  ;{' '}
                  <label className="inline-flex items-center gap-1.5">
                    <input
                      type="checkbox"
                      className="checkbox checkbox-xs"
                      checked={onlyFigures}
                      onChange={({ target }) => setOnlyFigures(target.checked)}
                    />
                    only fill the figures of keywords that are here, add none
                  </label>
                </p>
              )}
              <Questions summary={summary} options={options} onOptions={setOptions} />
              <Understood
                summary={summary}
                currency={plan.brief.currency}
                roleChoices={roleChoices}
                onRoles={(roles) => setOptions({ ...options, roles })}
                onDecimal={(decimal) => setOptions({ ...options, decimal })}
                wordsOf={problemWords}
              />
              <SetAsideLines summary={summary} options={options} onOptions={setOptions} />
            </>
          )}
        </div>
      </div>
      <Yield
        isPart
        terms={
          summary
            ? [
                {
                  id: 'lines',
                  figure: count(summary.counts.lines),
                  words: summary.counts.lines === 1 ? 'line' : 'lines',
                },
                { id: 'keywords', figure: count(summary.keywords), words: 'keywords' },
                { id: 'repeated', figure: count(summary.counts.repeated), words: 'said twice' },
                {
                  id: 'new',
                  figure: count(summary.keywords - summary.alreadyThere),
                  words: 'new to the pool',
                },
                { id: 'negatives', figure: count(summary.negatives), words: 'negative keywords' },
                {
                  id: 'problems',
                  figure: count(summary.problemCount),
                  words: 'lines with errors',
                  tone: summary.problemCount > 0 ? 'bad' : 'plain',
                },
              ]
            : [{ id: 'lines', figure: '0', words: 'lines' }]
        }
      />
    </>
  );
}
