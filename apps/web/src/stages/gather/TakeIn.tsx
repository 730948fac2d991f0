import { type PlanState, problemWords, stopJob } from '@sprig/contracts';
import type { Remote } from 'comlink';
import { ArrowLeft } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { useJob } from '../../data/jobs.ts';
import { useCommands } from '../../kit/commands.ts';
import { count, counted } from '../../kit/format.ts';
import { Progress } from '../../kit/Progress.tsx';
import { Yield, type YieldTerm } from '../../kit/Yield.tsx';
import type { PoolWorker, ReadSummary } from '../../pool/worker.ts';
import { takeInCommands } from './commands.ts';
import { GivenList } from './GivenList.tsx';
import { Questions, SetAsideLines } from './Questions.tsx';
import { ReadingSentences } from './ReadingSentences.tsx';
import { roleChoices, takeInWords } from './take-in-words.ts';
import { Understood } from './Understood.tsx';
import { type Taking, useGivenList } from './use-given-list.ts';
import { useTakeIn } from './use-take-in.ts';

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
  const [name, setName] = useState(taking.kind === 'file' ? taking.file.name : '');
  const [figuresOn, setFiguresOn] = useState('');
  const [onlyFigures, setOnlyFigures] = useState(false);
  const list = useGivenList(taking, worker);
  const { summary, problem, options, setOptions } = list;
  const { job, refusal, takeIn } = useTakeIn(plan.id, taking, list, waiting > 0 ? onNext : onClose);
  const goods = summary ? summary.keywords + summary.negatives : 0;
  const canTake = job === null && goods > 0 && problem === null && (summary?.layout.open.length ?? 0) === 0;
  const take = () => void takeIn({ name, onlyFigures, figuresOn });
  useCommands(takeInCommands, { take: canTake ? take : undefined });
  const figured = summary ? Math.max(summary.withSearches, summary.withCpc) : 0;
  const what = onlyFigures
    ? `Fill figures from ${counted(figured, 'line')}`
    : `Take in ${takeInWords(summary)}`;
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
          {job !== null && <Running plan={plan.id} job={job} />}
          <button
            type="button"
            className="btn btn-primary btn-sm"
            title="Ctrl+Enter"
            disabled={!canTake}
            onClick={take}
          >
            {goods === 0 ? 'Take in' : what}
            {waiting > 0 && goods > 0 ? `, then ${counted(waiting, 'more file')}` : ''}
          </button>
          {waiting > 0 && (
            <button type="button" className="btn btn-ghost btn-sm" disabled={job !== null} onClick={onNext}>
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
        <GivenList taking={taking} list={list} />
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
              <ReadingSentences
                list={list}
                summary={summary}
                currency={plan.brief.currency}
                figuresOn={figuresOn}
                onFiguresOn={setFiguresOn}
                onlyFigures={onlyFigures}
                onOnlyFigures={setOnlyFigures}
              />
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
      <Yield isPart terms={termsOf(summary)} />
    </>
  );
}

/** How far it has come, with a way to stop it. */
function Running({ plan, job }: { plan: number; job: string }) {
  const { data: running } = useJob(plan, job);
  if (!running) return null;
  const { status, phase, done, total } = running;
  const far = total > 0 ? `${count(done)} of ${count(total)}` : '';
  const stop = () =>
    call(stopJob, { params: { plan, job } }).catch((failure) => toast.error(wordsOf(failure)));
  return (
    <Progress
      words={status === 'queued' ? 'Waiting for its turn' : `${phase} ${far}`}
      done={done}
      total={total}
      onStop={() => void stop()}
    />
  );
}

function termsOf(summary: ReadSummary | null): YieldTerm[] {
  if (!summary) return [{ id: 'lines', figure: '0', words: 'lines' }];
  const { counts, keywords, alreadyThere, negatives, problemCount } = summary;
  return [
    { id: 'lines', figure: count(counts.lines), words: counts.lines === 1 ? 'line' : 'lines' },
    { id: 'keywords', figure: count(keywords), words: 'keywords' },
    { id: 'repeated', figure: count(counts.repeated), words: 'said twice' },
    { id: 'new', figure: count(keywords - alreadyThere), words: 'new to the pool' },
    { id: 'negatives', figure: count(negatives), words: 'negative keywords' },
    {
      id: 'problems',
      figure: count(problemCount),
      words: 'lines with errors',
      tone: problemCount > 0 ? 'bad' : 'plain',
    },
  ];
}
