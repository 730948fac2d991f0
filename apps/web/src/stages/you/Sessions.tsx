import { endSessions, listSessions, type SessionView } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { counted, time } from '../../kit/format.ts';

/** Where one is signed in. */
export function Sessions() {
  const { data, error } = useQuery({ ...question(listSessions), staleTime: 0 });
  const { write, isBusy } = useWrite(endSessions, {
    said: ({ ended }) => `${counted(ended, 'session')} ended.`,
  });
  const sessions = data?.sessions ?? [];
  return (
    <section aria-label="Sessions" className="mt-6">
      <h2 className="mb-1 font-semibold">Where you are signed in</h2>
      {error && (
        <p role="alert" className="text-error">
          {wordsOf(error)}
        </p>
      )}
      <ul className="divide-y divide-base-300 border-hair border-y">
        {sessions.map((session) => (
          <Line
            key={session.id}
            session={session}
            isBusy={isBusy}
            onEnd={() => void write({ body: { session: session.id } })}
          />
        ))}
      </ul>
      {sessions.length > 1 && (
        <button
          type="button"
          className="btn btn-sm mt-2"
          disabled={isBusy}
          onClick={() => void write({ body: { session: null } })}
        >
          End all but this one
        </button>
      )}
    </section>
  );
}

/** On what, as far as a browser tells; its own words are in the tooltip. */
function deviceOf(agent: string): string {
  if (/\bMobi|Tablet/i.test(agent)) return 'a phone or tablet';
  return /^Mozilla\//.test(agent) ? 'a computer' : 'a program';
}

function Line({ session, isBusy, onEnd }: { session: SessionView; isBusy: boolean; onEnd: () => void }) {
  const { isThis, agent, address, beganAt, seenAt, endsAt } = session;
  return (
    <li className="grid min-h-12 grid-cols-[1fr_auto_2rem] items-center gap-4 px-2 py-1">
      <div className="min-w-0">
        <span className="block truncate" title={agent}>
          {isThis && <b className="font-semibold">This one: </b>}
          {deviceOf(agent)}
        </span>
        <span className="block truncate text-[12.5px] text-faint">
          from {address} since {time(beganAt)}, until {time(endsAt)} at the longest
        </span>
      </div>
      <span className="text-faint">{isThis ? 'now' : `last used ${time(seenAt)}`}</span>
      {!isThis && (
        <button
          type="button"
          className="btn btn-ghost btn-square btn-xs"
          title="End it"
          aria-label={`End the session from ${address}`}
          disabled={isBusy}
          onClick={onEnd}
        >
          <X size={15} />
        </button>
      )}
    </li>
  );
}
