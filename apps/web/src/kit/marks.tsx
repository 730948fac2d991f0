import { CircleHelp } from 'lucide-react';
import type { ReactNode } from 'react';
import { usePreferences } from '../api/me.ts';

/** The tie: this value is held by hand. It tells the rule's value and gives it back. */
export function Tie({ rule, onLetGo }: { rule: string; onLetGo: () => void }) {
  return (
    <button
      type="button"
      tabIndex={-1}
      className="inline-grid size-5 shrink-0 place-items-center rounded text-primary hover:bg-base-300"
      title={`Held by hand. The rule says ${rule}. Click to let go.`}
      aria-label={`Held by hand; the rule says ${rule}. Let go`}
      onClick={(event) => {
        event.stopPropagation();
        onLetGo();
      }}
    >
      <svg width="13" height="13" viewBox="0 0 13 13" aria-hidden="true">
        <path
          d="M2 2.5 6.5 6 11 2.5v5L6.5 6 2 7.5Z M6.5 6 4.5 12 M6.5 6l2 6"
          className="fill-none stroke-current"
          strokeWidth="1.4"
          strokeLinejoin="round"
          strokeLinecap="round"
        />
      </svg>
    </button>
  );
}

/** One line of help with an example; can be hidden for good. */
export function Help({ children }: { children: ReactNode }) {
  const { preferences } = usePreferences();
  if (!preferences.helps) return null;
  return (
    <p className="flex items-start gap-1.5 text-[12.5px] text-faint">
      <CircleHelp size={14} className="mt-0.5 shrink-0" aria-hidden />
      <span>{children}</span>
    </p>
  );
}

/** How far a long job is, with a way to stop it. */
export function Progress({
  words,
  done,
  total,
  onStop,
}: {
  words: string;
  done: number;
  total: number;
  onStop?: () => void;
}) {
  return (
    <div className="flex items-center gap-3" role="status">
      <progress
        className="progress progress-primary w-48"
        value={total > 0 ? done : undefined}
        max={total > 0 ? total : undefined}
      />
      <span className="text-[12.5px]">{words}</span>
      {onStop && (
        <button type="button" className="btn btn-ghost btn-xs" onClick={onStop}>
          Stop
        </button>
      )}
    </div>
  );
}

/** What belongs on an empty screen, and the first step. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="flex max-w-md flex-col items-center gap-3 text-center">
      <svg width="44" height="44" viewBox="0 0 32 32" aria-hidden="true" className="text-primary">
        <path
          d="M16 30V12M16 14C16 7 20 3 27 3c0 7-4 11-11 11ZM16 22C16 16 12 12 5 12c0 6 4 10 11 10Z"
          className="fill-none stroke-current"
          strokeWidth="1.2"
          strokeLinecap="round"
        />
      </svg>
      <h2 className="font-semibold text-base">{title}</h2>
      <div className="text-faint">{children}</div>
    </div>
  );
}
