import { MessageSquare } from 'lucide-react';
import { count, tally } from '../../kit/format.ts';
import { turnNotes } from './open-notes.ts';
import { useNoteMarks } from './use-note-marks.ts';

/** Shows the notes; its number says how many are for who looks. */
export function NotesButton({ plan, isOpen }: { plan: number; isOpen: boolean }) {
  const { open = 0, mine = 0 } = useNoteMarks(plan) ?? {};
  const words = wordsOf(open, mine);
  return (
    <button
      type="button"
      className={`btn btn-ghost btn-sm gap-1 px-2 font-normal ${isOpen ? 'bg-wash' : ''}`}
      aria-label={words}
      aria-expanded={isOpen}
      title={words}
      onClick={turnNotes}
    >
      <MessageSquare size={16} aria-hidden />
      {mine > 0 ? (
        <b className="text-primary">{tally(mine)}</b>
      ) : (
        open > 0 && <span className="text-faint">{tally(open)}</span>
      )}
    </button>
  );
}

function wordsOf(open: number, mine: number): string {
  if (mine > 0) return `Notes: ${count(mine)} for you`;
  return open > 0 ? `Notes: ${count(open)} open` : 'Notes';
}
