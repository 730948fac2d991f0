import { dropReport, type PlanState, stopJob, takeReportBack, takeReports } from '@sprig/contracts';
import { FileInput } from 'lucide-react';
import { type ClipboardEvent, type DragEvent, useRef, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { useWrite } from '../../data/use-write.ts';
import { Empty } from '../../kit/Empty.tsx';
import { counted, money, time } from '../../kit/format.ts';
import { inTextField } from '../../kit/keys.ts';
import { Progress } from '../../kit/Progress.tsx';
import { daysText, grainText } from '../../plan/results/result-words.ts';
import { ReadingPart } from './ReadingPart.tsx';
import { useReportList, useReports } from './use-reports.ts';

/** Reports come home: what was read and waits, and what was taken in. */
export function ReportsView({ plan }: { plan: PlanState }) {
  const params = { plan: plan.id };
  const { data } = useReportList(plan.id);
  const work = useReports(plan.id);
  const picker = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const { write: take, isBusy } = useWrite(takeReports, { said: takenText });
  const { write: drop } = useWrite(dropReport);
  const busy = work.phase !== null || isBusy;
  const readings = data?.readings ?? [];
  const ready = readings.filter(
    ({ layout, times, currency, account }) =>
      layout.open.length === 0 && times > 0 && (currency === null || currency === account.currency),
  );
  const choose = (files: readonly File[]) => {
    if (files.length > 0) void work.choose(files);
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    choose([...event.dataTransfer.files]);
  };
  const onPaste = (event: ClipboardEvent) => {
    if (inTextField(event.target)) return;
    const files = [...event.clipboardData.files];
    const text = event.clipboardData.getData('text/plain');
    if (files.length > 0) choose(files);
    else if (text.trim() !== '') void work.paste(text);
  };
  return (
    <section
      aria-label="Reports"
      // So that what is pasted arrives here.
      tabIndex={-1}
      className={`flex min-h-0 flex-1 flex-col overflow-auto outline-none ${over ? 'bg-wash' : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
      onPaste={onPaste}
    >
      <input
        ref={picker}
        type="file"
        multiple
        className="hidden"
        aria-label="Reports to take in"
        accept=".csv,.tsv,.txt,.xlsx,.zip"
        onChange={({ target }) => {
          const files = [...(target.files ?? [])];
          target.value = '';
          choose(files);
        }}
      />
      <div className="flex min-h-12 shrink-0 flex-wrap items-center gap-3 border-hair border-b px-5 py-2">
        <button type="button" className="btn btn-sm" disabled={busy} onClick={() => picker.current?.click()}>
          <FileInput size={15} aria-hidden /> Choose reports …
        </button>
        <PasteField busy={busy} onText={(text) => void work.paste(text)} />
        <Link to="../ship?view=account" className="btn btn-ghost btn-sm font-normal">
          From a simulated account …
        </Link>
        {work.phase !== null && (
          <Progress
            words={work.running && work.running.phase !== '' ? `${work.running.phase} …` : `${work.phase} …`}
            done={work.running?.done ?? 0}
            total={work.running?.total ?? 0}
            {...(work.job === null
              ? {}
              : {
                  onStop: () =>
                    void call(stopJob, { params: { ...params, job: work.job ?? '' } }).catch((failure) =>
                      toast.error(wordsOf(failure)),
                    ),
                })}
          />
        )}
        {work.refusal && (
          <p role="alert" className="text-error">
            {work.refusal}
          </p>
        )}
        {ready.length > 1 && (
          <button
            type="button"
            className="btn btn-primary btn-sm ml-auto"
            disabled={busy}
            onClick={() => void take({ params, body: { readings: ready.map(({ id }) => id) } })}
          >
            Take in {counted(ready.length, 'report')}
          </button>
        )}
      </div>
      {readings.map((reading) => (
        <ReadingPart
          key={reading.id}
          reading={reading}
          accounts={data?.accounts ?? []}
          busy={busy}
          onAgain={(change) => void work.again(reading, change)}
          onTake={(isWhole) => void take({ params, body: { readings: [reading.id], isWhole } })}
          onDrop={() => void drop({ params: { ...params, reading: reading.id } })}
        />
      ))}
      {data && data.imports.length === 0 && readings.length === 0 && (
        <div className="grid flex-1 place-items-center p-6">
          <Empty title="Reports come home here">
            <p>
              What an outlet tells of your campaigns, as csv, tsv, xlsx or zip: several at once, by files,
              pasted, or dropped here. Of campaigns, ad groups, keywords, search terms or ads, by day, by week
              or over a range.
            </p>
          </Empty>
        </div>
      )}
      {data && data.imports.length > 0 && <Imports plan={plan.id} imports={data.imports} />}
    </section>
  );
}

const takenText = ({ taken, same }: { taken: number; same: number }): string => {
  if (taken === 0) return 'All of it was told so already: nothing changed';
  return `${counted(taken, 'report')} taken in${same > 0 ? `; ${counted(same, 'other')} said nothing new` : ''}`;
};

/** A report that is pasted, from a table or as text; what is typed is read when its user says so. */
function PasteField({ busy, onText }: { busy: boolean; onText: (text: string) => void }) {
  const [typed, setTyped] = useState('');
  const read = () => {
    onText(typed);
    setTyped('');
  };
  return (
    <>
      <textarea
        className="textarea textarea-sm h-8 min-h-8 w-64 resize-none leading-5"
        rows={1}
        aria-label="Paste a report"
        placeholder="or paste one here"
        value={typed}
        disabled={busy}
        onChange={({ target }) => setTyped(target.value)}
        onPaste={(event) => {
          const text = event.clipboardData.getData('text/plain');
          if (typed !== '' || text.trim() === '') return;
          event.preventDefault();
          onText(text);
        }}
      />
      {typed.trim() !== '' && (
        <button type="button" className="btn btn-sm" disabled={busy} onClick={read}>
          Read it
        </button>
      )}
    </>
  );
}

type Imports = NonNullable<ReturnType<typeof useReportList>['data']>['imports'];

/** What was taken in, the newest first; each can be taken back. */
function Imports({ plan, imports }: { plan: number; imports: Imports }) {
  const { write: takeBack, isBusy } = useWrite(takeReportBack);
  return (
    <div className="overflow-x-auto px-5 py-4">
      <h2 className="mb-1.5 font-semibold text-[15px]">Taken in</h2>
      <table className="w-full text-[13px]">
        <thead className="text-left text-faint">
          <tr className="[&>th]:pr-4 [&>th]:font-normal">
            <th>Report</th>
            <th>Account</th>
            <th>What it tells</th>
            <th>Days</th>
            <th className="text-right">Rows</th>
            <th className="text-right">Cost</th>
            <th>What of it stands</th>
            <th>Taken in</th>
            <th>
              <span className="sr-only">Take back</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {imports.map((one) => (
            <tr key={one.id} className="border-base-200 border-t [&>td]:py-1 [&>td]:pr-4">
              <td className="max-w-64 truncate" title={one.name}>
                {one.name}
              </td>
              <td>{one.account.name}</td>
              <td>{grainText(one.grain)}</td>
              <td className="whitespace-nowrap">{daysText(one.range)}</td>
              <td className="text-right">{one.rows.toLocaleString('en')}</td>
              <td className="text-right">{money(one.cost, one.account.currency)}</td>
              <td className={one.stands.some === 0 ? 'text-faint' : ''}>{standsText(one.stands)}</td>
              <td className="whitespace-nowrap text-faint">
                {time(one.madeAt)}, {one.actor}
              </td>
              <td className="text-right">
                <button
                  type="button"
                  className="btn btn-ghost btn-xs font-normal"
                  aria-label={`Take back ${one.name}`}
                  disabled={isBusy}
                  onClick={() => void takeBack({ params: { plan, import: one.id } })}
                >
                  Take back
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function standsText({ some, of }: { some: number; of: number }): string {
  if (some === of) return 'all';
  if (some === 0) return 'nothing: later reports replaced it';
  return `${Math.round((some / of) * 100)}%: later reports replaced the rest`;
}
