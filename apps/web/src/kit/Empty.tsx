import type { ReactNode } from 'react';

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
