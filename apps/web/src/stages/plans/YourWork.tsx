import { changeNote, listMyWork } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { aboutPlace, aboutWords, dueWords } from '../../frame/notes/note-words.ts';
import { openNotes } from '../../frame/notes/open-notes.ts';
import { count } from '../../kit/format.ts';

const SHOWN = 6;

/** What is open for who looks, in all plans: the nearest day first. */
export function YourWork() {
  const { data } = useQuery({ ...question(listMyWork), staleTime: 0 });
  const { write, isBusy } = useWrite(changeNote);
  if (!data || data.notes.length === 0) return null;
  const { notes, total, today } = data;
  return (
    <section aria-label="For you" className="mb-5 shrink-0">
      <h2 className="mb-1 font-semibold">For you</h2>
      <ul className="divide-y divide-base-300 border-hair border-y">
        {notes.slice(0, SHOWN).map(({ plan, planName, note }) => (
          <li key={note.id} className="grid grid-cols-[1fr_auto_auto] items-center gap-3 px-2 py-1.5">
            <Link
              to={`/plans/${plan}/${(note.about.isThere && aboutPlace(note.about, note.about.name)) || 'gather'}`}
              className="min-w-0 hover:text-primary"
              onClick={() => openNotes(note.about)}
            >
              <span className="block truncate">{note.text}</span>
              <span className="block truncate text-[12.5px] text-faint">
                {planName} · {aboutWords(note.about)} · from {note.by.name}
              </span>
            </Link>
            <span className={`text-[12.5px] ${note.due && note.due < today ? 'text-error' : 'text-faint'}`}>
              {note.due && dueWords(note.due, today)}
            </span>
            <button
              type="button"
              className="btn btn-ghost btn-xs font-normal"
              aria-label={`Done: ${note.text.slice(0, 40)}`}
              disabled={isBusy}
              onClick={() => void write({ params: { plan, note: note.id }, body: { done: true } })}
            >
              Done
            </button>
          </li>
        ))}
      </ul>
      {total > SHOWN && (
        <p className="mt-1 text-[12.5px] text-faint">
          {count(total - SHOWN)} more: each plan shows its own under Notes.
        </p>
      )}
    </section>
  );
}
