import { dropReadBack, type PlanState, type ReadBack, stopJob, type TakeOptions } from '@sprig/contracts';
import type { CellValue, Outlet } from '@sprig/core/outlets';
import { FileInput, X } from 'lucide-react';
import { type DragEvent, useRef, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { useWrite } from '../../data/use-write.ts';
import { Help } from '../../frame/Help.tsx';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted } from '../../kit/format.ts';
import { Progress } from '../../kit/Progress.tsx';
import { ReadBackCampaigns } from './ReadBackCampaigns.tsx';
import { ReadBackColumns, UnknownColumns } from './ReadBackColumns.tsx';
import { ReadBackRows } from './ReadBackRows.tsx';
import { ReadBackTake } from './ReadBackTake.tsx';
import { noteWords, sheetProblemWords, takenWords } from './read-back-words.ts';
import { useReadBack } from './use-read-back.ts';

type Props = { plan: PlanState; outlets: readonly { outlet: Outlet }[] };

/** Sheets of an outlet, or an account's export, against the plan: what differs, and what of it is taken in. */
export function ReadBackView({ plan, outlets }: Props) {
  const work = useReadBack(plan.id);
  const { readBack, running, job, phase, refusal, taken } = work;
  const picker = useRef<HTMLInputElement>(null);
  const { write: drop } = useWrite(dropReadBack);
  const [over, setOver] = useState(false);
  const busy = phase !== null;
  const pick = () => picker.current?.click();
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const files = [...event.dataTransfer.files];
    if (files.length > 0) void work.choose(files);
  };
  const forget = async (sheets: ReadBack) => {
    await drop({ params: { plan: plan.id, readBack: sheets.id } });
  };
  return (
    <section
      aria-label="Read back"
      className={`flex min-h-0 flex-1 flex-col ${over ? 'bg-wash' : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
    >
      <input
        ref={picker}
        type="file"
        multiple
        className="hidden"
        aria-label="Sheets to read back"
        accept=".csv,.tsv,.txt,.xlsx,.zip"
        onChange={({ target }) => {
          const files = [...(target.files ?? [])];
          target.value = '';
          if (files.length > 0) void work.choose(files);
        }}
      />
      {(busy || refusal || taken) && (
        <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-3 border-hair border-b px-5 py-2">
          {busy && (
            <Progress
              words={running && running.phase !== '' ? `${running.phase} …` : `${phase} …`}
              done={running?.done ?? 0}
              total={running?.total ?? 0}
              {...(job === null
                ? {}
                : {
                    onStop: () =>
                      void call(stopJob, { params: { plan: plan.id, job } }).catch((failure) =>
                        toast.error(wordsOf(failure)),
                      ),
                  })}
            />
          )}
          {refusal && (
            <p role="alert" className="text-error">
              {refusal}
            </p>
          )}
          {taken && !busy && (
            <div role="status" className="text-[13px]">
              <p>
                <b>{takenWords(taken)}</b>{' '}
                <Link to="../build" className="text-primary underline underline-offset-2">
                  Look at it in Build
                </Link>
              </p>
              {taken.notes.length > 0 && (
                <ul className="mt-1 list-disc pl-5 text-warning" aria-label="What was not taken as it stands">
                  {taken.notes.map(({ code, count: times, samples }) => (
                    <li key={code}>
                      {noteWords(code, times)}.{' '}
                      <span className="text-faint">{samples.slice(0, 3).join(' · ')}</span>
                    </li>
                  ))}
                </ul>
              )}
            </div>
          )}
        </div>
      )}
      {!readBack && !work.isPending && (
        <div className="grid flex-1 place-items-center p-6">
          <Empty title="Read sheets back into this plan">
            <p>
              Sheets of an outlet that somebody has edited, or the export of an account that is there already:
              each row is found in the plan by its name, and what differs is shown before anything changes.
            </p>
            <button type="button" className="btn btn-primary btn-sm mt-3" disabled={busy} onClick={pick}>
              <FileInput size={15} aria-hidden /> Choose sheets …
            </button>
            <p className="mt-2 text-[12.5px]">
              csv, tsv, xlsx or zip, several at once; or drop them here. A plan with nothing in it takes their
              campaigns and ad groups as they are.
            </p>
          </Empty>
        </div>
      )}
      {readBack && (
        <Sheets
          key={readBack.id}
          plan={plan}
          readBack={readBack}
          outlets={outlets}
          busy={busy}
          onPick={pick}
          onForget={() => void forget(readBack)}
          onBy={(by, columns) => void work.read({ files: namesOf(readBack), by, columns })}
          onTake={(options) => void work.take(readBack, options)}
        />
      )}
    </section>
  );
}

const namesOf = ({ files }: ReadBack) => files.map(({ upload, name }) => ({ upload, name }));

type SheetsProps = {
  plan: PlanState;
  readBack: ReadBack;
  outlets: readonly { outlet: Outlet }[];
  busy: boolean;
  onPick: () => void;
  onForget: () => void;
  onBy: (by: string, columns: Record<string, CellValue | null>) => void;
  onTake: (options: TakeOptions) => void;
};

function Sheets({ plan, readBack, outlets, busy, onPick, onForget, onBy, onTake }: SheetsProps) {
  const rows = readBack.files.reduce((sum, file) => sum + file.rows, 0);
  const isOld = plan.revision !== readBack.revision;
  const { problems } = readBack;
  const [missing, setMissing] = useState(false);
  return (
    <>
      <div className="flex shrink-0 flex-wrap items-center gap-x-2 gap-y-1 border-hair border-b px-5 py-2">
        <span title={readBack.files.map(({ name }) => name).join('\n')}>
          <b>{counted(rows, 'row')}</b> of{' '}
          {readBack.files.length === 1 ? readBack.files[0]?.name : counted(readBack.files.length, 'sheet')},
          read as{' '}
        </span>
        <ChoiceChip
          label="Read as sheets of"
          value={readBack.by}
          choices={[
            ...outlets.map(({ outlet }) => ({ value: outlet.key, words: outlet.name })),
            { value: 'columns', words: 'no outlet’s, by their columns' },
          ]}
          onChoose={(by) => onBy(by, {})}
        />
        {isOld && (
          <span className="text-warning">
            The plan has changed since.{' '}
            <button
              type="button"
              className="btn btn-xs"
              disabled={busy}
              onClick={() => onBy(readBack.by, {})}
            >
              Compare again
            </button>
          </span>
        )}
        <span className="ml-auto flex gap-1.5">
          <button type="button" className="btn btn-sm font-normal" disabled={busy} onClick={onPick}>
            <FileInput size={15} aria-hidden /> Choose others …
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-sm font-normal"
            disabled={busy}
            onClick={onForget}
          >
            <X size={15} aria-hidden /> Leave them
          </button>
        </span>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[400px_1fr]">
        <div className="min-h-0 overflow-auto border-hair border-r px-5 py-3" tabIndex={-1}>
          <ReadBackTake
            plan={plan}
            readBack={readBack}
            isOld={isOld}
            busy={busy}
            missing={missing}
            onMissing={setMissing}
            onTake={onTake}
          />
          <ReadBackCampaigns plan={plan.id} readBack={readBack} />
          {readBack.by !== 'columns' && <UnknownColumns readBack={readBack} />}
          {(problems.count > 0 || readBack.twice > 0 || readBack.goneThere > 0) && (
            <section aria-label="What was not read" className="mt-4 text-[12.5px]">
              {problems.count > 0 && (
                <h3 className="font-semibold text-warning">{counted(problems.count, 'row')} not read</h3>
              )}
              <ul className="mt-1 max-h-56 overflow-auto" tabIndex={0} aria-label="Rows that were not read">
                {problems.shown.map((problem) => (
                  <li
                    key={`${problem.file}${problem.line}${problem.code}${problem.column}`}
                    className="py-0.5"
                  >
                    <span className="text-faint">
                      {problem.file}, line {count(problem.line)}:
                    </span>{' '}
                    {sheetProblemWords(problem)}
                  </li>
                ))}
              </ul>
              {readBack.twice > 0 && (
                <p className="mt-1 text-faint">
                  {counted(readBack.twice, 'row')} stand there twice: the first one counts.
                </p>
              )}
              {readBack.goneThere > 0 && (
                <p className="mt-1 text-faint">
                  {counted(readBack.goneThere, 'row')} are gone there, and were never here.
                </p>
              )}
            </section>
          )}
          {readBack.by === 'columns' && (
            <ReadBackColumns
              readBack={readBack}
              busy={busy}
              onColumns={(columns) => onBy('columns', columns)}
            />
          )}
          {readBack.isEmpty && (
            <div className="mt-4">
              <Help>
                This plan has nothing in it, so each campaign becomes a theme, each ad group a theme within
                it; ads become patterns, and what is of one ad group alone is held there.
              </Help>
            </div>
          )}
        </div>
        <ReadBackRows plan={plan.id} readBack={readBack} missing={missing} />
      </div>
    </>
  );
}
