import { type NoteKind, readNoteMarks } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { MessageSquare } from 'lucide-react';
import { useMemo } from 'react';
import { question } from '../../data/question.ts';
import { counted } from '../../kit/format.ts';
import { aboutWords } from './note-words.ts';
import { openNotes, type Subject } from './open-notes.ts';

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
  const { data } = useQuery(question(readNoteMarks, { params: { plan } }));
  return useMemo(
    () => (data ? new Set(data.marks.flatMap((mark) => (mark.kind === kind ? [mark.key] : []))) : nothing),
    [data, kind],
  );
}

function useOpenOn(plan: number, { kind, key }: Subject): number {
  const { data } = useQuery(question(readNoteMarks, { params: { plan } }));
  return data?.marks.find((mark) => mark.kind === kind && mark.key === key)?.open ?? 0;
}
