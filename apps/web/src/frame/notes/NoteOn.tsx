import type { NoteKind } from '@sprig/contracts';
import { MessageSquare } from 'lucide-react';
import { useMemo } from 'react';
import { counted } from '../../kit/format.ts';
import { aboutWords } from './note-words.ts';
import { openNotes, type Subject } from './open-notes.ts';
import { useNoteMarks } from './use-note-marks.ts';

/** Opens the notes on something; it says how many are open there. */
export function NoteOn({ plan, subject }: { plan: number; subject: Subject }) {
  const open = useOpenOn(plan, subject);
  const words = `${open > 0 ? `${counted(open, 'note')} on` : 'A note on'} ${aboutWords(subject)}`;
  return (
    <button
      type="button"
      className={`btn btn-ghost btn-xs shrink-0 gap-1 px-1 font-normal ${open > 0 ? 'text-primary' : 'text-faint'}`}
      aria-label={words}
      title={words}
      onClick={() => openNotes(subject)}
    >
      <MessageSquare size={13} aria-hidden />
      {open > 0 && open}
    </button>
  );
}

const nothing: ReadonlySet<string> = new Set();

/** The keys of all things of a kind on which notes are open. */
export function useNoted(plan: number, kind: NoteKind): ReadonlySet<string> {
  const noted = useNoteMarks(plan);
  return useMemo(
    () => (noted ? new Set(noted.marks.flatMap((mark) => (mark.kind === kind ? [mark.key] : []))) : nothing),
    [noted, kind],
  );
}

const useOpenOn = (plan: number, { kind, key }: Subject): number =>
  useNoteMarks(plan)?.marks.find((mark) => mark.kind === kind && mark.key === key)?.open ?? 0;
