import { addNote, listNotes, NOTE_PAGE, noteOnly } from '@sprig/contracts';
import { useInfiniteQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { questionsOf } from '../../data/query-key.ts';
import { useWrite } from '../../data/use-write.ts';
import { counted } from '../../kit/format.ts';
import { PickButtons } from '../../kit/PickButtons.tsx';
import { GivenFields } from './GivenFields.tsx';
import { NoteCard } from './NoteCard.tsx';
import { NoteText } from './NoteText.tsx';
import { aboutWords } from './note-words.ts';
import { closeNotes, openNotes, type Subject } from './open-notes.ts';
import { useNoteMarks } from './use-note-marks.ts';
import { type Reader, useReaders } from './use-readers.ts';

type Only = (typeof noteOnly)[number];
const ONLY: Record<Only, string> = { open: 'Open', mine: 'For you', done: 'Done', all: 'All' };
const PICKS = noteOnly.map((only) => [only, ONLY[only]] as const);
const THE_PLAN: Subject = { kind: 'plan', key: '', name: '' };

/** The notes of a plan, or those about one thing of it, beside what they speak of. */
export function NotesPanel({ plan, about }: { plan: number; about: Subject | null }) {
  const [only, setOnly] = useState<Only>('open');
  const readers = useReaders(plan);
  const marks = useNoteMarks(plan);
  const of = about ? { kind: about.kind, key: about.key } : {};
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey: [...questionsOf(listNotes, plan), only, about?.kind ?? '', about?.key ?? ''],
    queryFn: ({ pageParam }) =>
      call(listNotes, { params: { plan }, query: { only, from: pageParam, ...of } }),
    initialPageParam: 0,
    getNextPageParam: ({ total }, pages) =>
      pages.length * NOTE_PAGE < total ? pages.length * NOTE_PAGE : null,
    meta: { reads: listNotes.reads },
  });
  const notes = data?.pages.flatMap((page) => page.notes) ?? [];
  const today = data?.pages[0]?.today ?? '';
  const counts = marks && !about ? { open: marks.open, mine: marks.mine } : undefined;
  useEffect(() => {
    const heed = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && !event.defaultPrevented && !document.querySelector('dialog[open]'))
        closeNotes();
    };
    document.addEventListener('keydown', heed);
    return () => document.removeEventListener('keydown', heed);
  }, []);
  return (
    <aside
      aria-label="Notes"
      className="flex w-[340px] shrink-0 flex-col border-hair border-l bg-base-100 max-[999px]:fixed max-[999px]:inset-y-0 max-[999px]:right-0 max-[999px]:z-30 max-[999px]:shadow-lg"
    >
      <header className="flex shrink-0 items-center gap-1 border-hair border-b px-3 py-1.5">
        <h2 className="min-w-0 truncate font-semibold text-[14px]">
          {about && about.kind !== 'plan' ? `Notes on ${aboutWords(about)}` : 'Notes'}
        </h2>
        <span className="ml-auto" />
        {about && (
          <button
            type="button"
            className="btn btn-ghost btn-xs shrink-0 font-normal"
            onClick={() => openNotes()}
          >
            All of the plan
          </button>
        )}
        <button
          type="button"
          className="btn btn-ghost btn-square btn-xs shrink-0"
          aria-label="Close the notes"
          onClick={closeNotes}
        >
          <X size={15} aria-hidden />
        </button>
      </header>
      <PickButtons label="Which notes" picks={PICKS} current={only} counts={counts} onPick={setOnly} />
      <NewNote key={`${about?.kind}:${about?.key}`} plan={plan} about={about ?? THE_PLAN} readers={readers} />
      <div className="min-h-0 flex-1 overflow-auto px-3">
        {error && (
          <p role="alert" className="py-2 text-error">
            {wordsOf(error)}
          </p>
        )}
        {data && notes.length === 0 && (
          <p className="py-3 text-faint">
            {only === 'open' || only === 'all'
              ? 'None yet. A note says what somebody else has to know, or do: call them by @ and their name, or give it to them with a day.'
              : 'None.'}
          </p>
        )}
        <ul>
          {notes.map((note) => (
            <NoteCard
              key={note.id}
              plan={plan}
              note={note}
              today={today}
              readers={readers}
              isAboutKnown={about !== null}
            />
          ))}
        </ul>
        {hasNextPage && (
          <button
            type="button"
            className="btn btn-sm my-2"
            disabled={isFetchingNextPage}
            onClick={() => void fetchNextPage()}
          >
            {counted((data?.pages[0]?.total ?? 0) - notes.length, 'note')} more
          </button>
        )}
      </div>
    </aside>
  );
}

/** What is being written stays here while the panel is shut, by what it is about. */
const drafts = new Map<string, string>();

type NewProps = { plan: number; about: Subject; readers: readonly Reader[] };

function NewNote({ plan, about, readers }: NewProps) {
  const draft = `${plan}:${about.kind}:${about.key}`;
  const [text, setText] = useState(drafts.get(draft) ?? '');
  const [given, setGiven] = useState<number | null>(null);
  const [due, setDue] = useState<string | null>(null);
  const { write, isBusy, refusal } = useWrite(addNote, { refusals: 'here' });
  const type = (typed: string) => {
    drafts.set(draft, typed);
    setText(typed);
  };
  const add = async () => {
    if (text.trim() === '' || isBusy) return;
    const { kind, key, name } = about;
    const done = await write({
      params: { plan },
      body: { about: { kind, key }, said: name.slice(0, 300), text, for: given, due },
    });
    if (done === null) return;
    type('');
    setGiven(null);
    setDue(null);
  };
  return (
    <div className="shrink-0 border-hair border-b px-3 py-2">
      <NoteText
        label={`New note on ${aboutWords(about)}`}
        placeholder={`On ${aboutWords(about)}: @ calls somebody`}
        text={text}
        names={readers.map(({ name }) => name)}
        onText={type}
        onSend={() => void add()}
        onEscape={closeNotes}
      />
      {refusal && (
        <p role="alert" className="mt-1 text-[12.5px] text-error">
          {refusal}
        </p>
      )}
      <div className="mt-1.5 flex flex-wrap items-center gap-1">
        <GivenFields
          of="the new note"
          readers={readers}
          given={given}
          due={due}
          onGiven={setGiven}
          onDue={setDue}
        />
        <button
          type="button"
          className="btn btn-primary btn-xs ml-auto"
          disabled={isBusy || text.trim() === ''}
          title="Ctrl and Enter"
          onClick={() => void add()}
        >
          Note it
        </button>
      </div>
    </div>
  );
}
