import { CircleHelp } from 'lucide-react';
import type { ReactNode } from 'react';
import { usePreferences } from '../data/me.ts';

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
