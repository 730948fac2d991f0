import type { PlanState, ReportImport, WorthItem } from '@sprig/contracts';
import { daysOn } from '@sprig/core/learn';
import type { WorthMark } from '@sprig/core/next';
import { useState } from 'react';
import { Link } from 'react-router';
import { NoteOn } from '../../frame/notes/NoteOn.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count } from '../../kit/format.ts';
import { Yield } from '../../kit/Yield.tsx';
import { dayText } from '../../plan/results/result-words.ts';
import { stakeText, worthWords } from '../../plan/worth-words.ts';
import { NotYet } from './NotYet.tsx';
import { useMarking, useWorth } from './use-worth.ts';

/** How far a thing is put off by one press. */
const WEEK = 7;

type Props = { plan: PlanState; imports: readonly ReportImport[] | undefined };

/** All that is worth doing in the plan now, what has the most at stake first. */
export function WorthView({ plan, imports }: Props) {
  const { data, error } = useWorth(plan.id);
  const { write } = useMarking();
  if (error || !data) return <NotYet error={error} words="Looking through the plan …" />;
  const { open, away, today } = data;
  const mark = ({ code, account, count: of }: WorthItem, until: string | null) =>
    void write({ params: { plan: plan.id }, body: { code, account, mark: { until, count: of } } });
  return (
    <>
      <p className="flex min-h-11 shrink-0 items-center border-hair border-b px-4 text-faint">
        What keeps from shipping, then what has the most at stake over the days that were looked at, then all
        else.
      </p>
      <div className="min-h-0 flex-1 overflow-y-auto">
        {open.length === 0 ? (
          <div className="grid h-full place-items-center p-6">
            <Empty title="Nothing is worth doing just now">
              {imports?.length
                ? 'What comes of the plan is looked through whenever reports come in.'
                : 'Take reports in under Reports: most of what is worth doing is told by them.'}
            </Empty>
          </div>
        ) : (
          <ol aria-label="Worth doing" className="divide-y divide-base-300">
            {open.map((worth) => (
              <Line
                plan={plan.id}
                key={`${worth.code} ${worth.account}`}
                worth={worth}
                today={today}
                onMark={mark}
              />
            ))}
          </ol>
        )}
        {away.length > 0 && (
          <details className="border-hair border-t px-4 py-2">
            <summary className="cursor-pointer text-faint">{count(away.length)} put off or done</summary>
            <ul aria-label="Put off or done" className="mt-1">
              {away.map(({ worth, mark: made }) => (
                <li
                  key={`${worth.code} ${worth.account}`}
                  className="flex items-center gap-3 py-1 text-[13px]"
                >
                  <span>{worthWords[worth.code].said(worth.count)}</span>
                  <span className="text-faint">{awayText(made)}</span>
                  <button
                    type="button"
                    className="btn btn-ghost btn-xs"
                    onClick={() =>
                      void write({
                        params: { plan: plan.id },
                        body: { code: worth.code, account: worth.account, mark: null },
                      })
                    }
                  >
                    Put back
                  </button>
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
      <Yield
        terms={[
          { id: 'reports', figure: count(imports?.length ?? 0), words: 'reports' },
          { id: 'open', figure: count(open.length), words: 'worth doing' },
          { id: 'away', figure: count(away.length), words: 'put off or done' },
        ]}
      />
    </>
  );
}

const awayText = ({ until, count: of }: WorthMark): string =>
  until === null ? `done, unless there are more than ${count(of)}` : `put off until ${dayText(until)}`;

type LineProps = {
  plan: number;
  worth: WorthItem;
  today: string;
  onMark: (worth: WorthItem, until: string | null) => void;
};

function Line({ plan, worth, today, onMark }: LineProps) {
  const [isOff, setOff] = useState(false);
  const [until, setUntil] = useState(daysOn(today, WEEK));
  const { said, why, to } = worthWords[worth.code];
  const words = said(worth.count);
  return (
    <li className="grid grid-cols-[1fr_7rem_auto] items-center gap-4 px-4 py-2.5">
      <span className="min-w-0">
        <Link to={`../${to}`} className="font-semibold hover:text-primary">
          {words}
        </Link>
        <span className="block text-[12.5px] text-faint">
          {why} {worth.account && `· ${worth.account}`}
        </span>
      </span>
      <b
        className="text-right"
        title={worth.stake === null ? undefined : 'At stake over the days that were looked at'}
      >
        {stakeText(worth)}
      </b>
      <span className="flex items-center justify-end gap-1">
        {isOff ? (
          <form
            className="flex items-center gap-1"
            onSubmit={(event) => {
              event.preventDefault();
              onMark(worth, until);
            }}
          >
            <input
              type="date"
              className="input input-xs w-34"
              aria-label={`Put off until: ${words}`}
              min={daysOn(today, 1)}
              value={until}
              required
              onChange={({ target }) => setUntil(target.value)}
            />
            <button type="submit" className="btn btn-xs">
              Put off
            </button>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => setOff(false)}>
              Not now
            </button>
          </form>
        ) : (
          <>
            <NoteOn plan={plan} subject={{ kind: 'worth', key: worth.code, name: words }} />
            <button
              type="button"
              className="btn btn-ghost btn-xs font-normal"
              aria-label={`Put off: ${words}`}
              onClick={() => setOff(true)}
            >
              Put off …
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-xs font-normal"
              aria-label={`Done: ${words}`}
              title="Comes back if there is more of it"
              onClick={() => onMark(worth, null)}
            >
              Done
            </button>
          </>
        )}
      </span>
    </li>
  );
}
