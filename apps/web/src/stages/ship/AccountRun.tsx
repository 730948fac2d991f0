import {
  type AccountReport,
  accountRan,
  accountReports,
  downloadAccountReport,
  MOST_DAYS_RUN,
  runAccount,
  urlOf,
} from '@sprig/contracts';
import { Download, FastForward } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { call, wordsOf } from '../../data/call.ts';
import { fetchChanged } from '../../data/fetch-again.ts';
import { finishJob, useJob } from '../../data/jobs.ts';
import { queryClient } from '../../data/query-client.ts';
import { TextChip } from '../../kit/chips.tsx';
import { count, counted, date } from '../../kit/format.ts';
import { Progress } from '../../kit/Progress.tsx';
import { readWhole } from '../../kit/read-typed.ts';

type Props = { plan: number; outlet: string; ran: { from: string; to: string; days: number } | null };

const reportWords: Record<AccountReport, string> = {
  campaigns: 'campaigns',
  keywords: 'keywords',
  terms: 'search terms',
  ads: 'ads',
};
const USUAL_DAYS = 42;

const readDays = (typed: string): { value: number } | { words: string } => {
  const days = readWhole(typed);
  return days && days <= MOST_DAYS_RUN
    ? { value: days }
    : { words: `A number of days from 1 to ${MOST_DAYS_RUN}.` };
};

/** Days pass at once in a simulated account: made-up traffic over what was handed in, and its reports. */
export function AccountRun({ plan, outlet, ran }: Props) {
  const [days, setDays] = useState(USUAL_DAYS);
  const [job, setJob] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const [isRead, setRead] = useState(false);
  const { data: running } = useJob(plan, job);
  const run = async (body: { days: number; read: AccountReport[] }) => {
    setRefusal(null);
    setDone(null);
    setRead(false);
    try {
      const { job: started } = await call(runAccount, { params: { plan, outlet }, body });
      setJob(started);
      const result = accountRan.parse((await finishJob(plan, started)).result);
      if (result.reading) {
        setJob(result.reading);
        await finishJob(plan, result.reading);
      }
      await fetchChanged(queryClient, plan, new Set(['receipts', 'read-back']));
      setRead(result.reading !== null);
      setDone(
        body.days > 0
          ? `${counted(body.days, 'day')} passed: ${counted(result.impressions, 'impression')}, ${counted(result.clicks, 'click')}.`
          : 'Its reports are read.',
      );
    } catch (error) {
      setRefusal(wordsOf(error));
    } finally {
      setJob(null);
    }
  };
  const busy = job !== null;
  return (
    <section aria-label="Days of the account" className="my-2 flex flex-col gap-1.5 leading-7">
      <div className="flex flex-wrap items-center gap-2">
        <span>
          {ran ? (
            <>
              It has run from <b>{date(ran.from)}</b> to <b>{date(ran.to)}</b>, {counted(ran.days, 'day')}.
            </>
          ) : (
            'It has not run yet.'
          )}
        </span>
        <span className="inline-flex items-center gap-1">
          Let it run for{' '}
          <TextChip
            label="Days to run"
            value={String(days)}
            shown={count(days)}
            read={readDays}
            width={5}
            onKeep={async (kept) => {
              setDays(Number(kept));
              return null;
            }}
          />{' '}
          days
        </span>
        <button
          type="button"
          className="btn btn-sm"
          disabled={busy}
          onClick={() => void run({ days, read: [...accountReports] })}
        >
          <FastForward size={14} aria-hidden /> Run, and read its reports
        </button>
        {ran && (
          <button
            type="button"
            className="btn btn-ghost btn-sm font-normal"
            disabled={busy}
            onClick={() => void run({ days: 0, read: [...accountReports] })}
          >
            Read its reports again
          </button>
        )}
        {busy && (
          <Progress
            words={`${running?.phase || 'beginning'} …`}
            done={running?.done ?? 0}
            total={running?.total ?? 0}
          />
        )}
        {refusal && (
          <p role="alert" className="text-error">
            {refusal}
          </p>
        )}
        {done && (
          <p role="status">
            {done}{' '}
            {isRead && (
              <Link to="../learn?view=reports" className="text-primary underline underline-offset-2">
                Take its reports in
              </Link>
            )}
          </p>
        )}
      </div>
      {ran && (
        <p className="flex flex-wrap items-center gap-x-3 text-[12.5px]">
          <span className="text-faint">Its reports as it writes them:</span>
          {accountReports.map((report) => (
            <a
              key={report}
              className="inline-flex items-center gap-1 text-primary underline underline-offset-2"
              href={urlOf(downloadAccountReport, { params: { plan, outlet, report } })}
              download
            >
              <Download size={12} aria-hidden /> {reportWords[report]}
            </a>
          ))}
        </p>
      )}
    </section>
  );
}
