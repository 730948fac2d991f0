import type { ReactNode } from 'react';

/** A page at the door: the sprig on its stem, and what is asked. */
export function DoorShell({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="grid min-h-full place-items-center px-6 py-10">
      <div className="flex w-full max-w-[25rem] flex-col">
        <div className="ml-[13px] h-16 w-px bg-hair" aria-hidden />
        <header className="mb-5 flex items-center gap-3">
          <img src="/sprig.svg" alt="" width="28" height="28" />
          <h1 className="font-semibold text-xl">{title}</h1>
        </header>
        <div className="ml-[13px] border-hair border-l pl-6">{children}</div>
        <div className="ml-[13px] h-16 w-px bg-hair" aria-hidden />
      </div>
    </main>
  );
}
