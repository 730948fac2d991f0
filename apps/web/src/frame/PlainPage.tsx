import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useTheme } from './use-theme.ts';
import { YouMenu } from './YouMenu.tsx';

/** A page that is of no plan: its name, and the way back to all plans. */
export function PlainPage({
  title,
  about,
  children,
}: {
  title: string;
  about?: ReactNode;
  children: ReactNode;
}) {
  useTheme();
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-[62px] shrink-0 items-center justify-between border-hair border-b px-6">
        <Link to="/" className="flex items-center gap-2.5" title="All plans">
          <img src="/sprig.svg" alt="" width="28" height="28" />
          <span className="font-semibold text-[15px]">All plans</span>
        </Link>
        <YouMenu />
      </header>
      <main className="min-h-0 flex-1 overflow-auto">
        <div className="mx-auto flex w-full max-w-4xl flex-col px-6 py-6">
          <h1 className="font-semibold text-xl">{title}</h1>
          {about && <p className="text-faint">{about}</p>}
          {children}
        </div>
      </main>
    </div>
  );
}
