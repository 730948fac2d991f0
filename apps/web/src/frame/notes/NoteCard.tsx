import { changeNote, type NoteView, removeNote } from '@sprig/contracts';
import { Check, RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMe } from '../../data/me.ts';
import { useWrite } from '../../data/use-write.ts';
import { time } from '../../kit/format.ts';
import { GivenFields } from './GivenFields.tsx';
import { NoteText } from './NoteText.tsx';
import { aboutPlace, aboutWords, dueWords, piecesOf } from './note-words.ts';
import type { Reader } from './use-readers.ts';

type Props = {
  plan: number;
  note: NoteView;
  today: string;
  readers: readonly Reader[];
  /** Whether what it is about goes without saying. */
  isAboutKnown: boolean;
};

/** One note: what it says and about what, by whom, for whom until when, and whether it is done. */
export function NoteCard({ plan, note, today, readers, isAboutKnown }: Props) {
  const me = useMe();
  const [typed, setTyped] = useState<string | null>(null);
  const { write, isBusy } = useWrite(changeNote);
  const { write: remove } = useWrite(removeNote);
  const params = { plan, note: note.id };
  const change = (body: Parameters<typeof write>[0]['body']) => write({ params, body });
  const keep = async () => {
    if (typed !== null && typed.trim() !== '' && (await change({ text: typed })) !== null) setTyped(null);
  };
  const isDone = note.done !== null;
  const place = note.about.isThere ? aboutPlace(note.about, note.about.name) : null;
  const isOver = note.due !== null && note.due < today && !isDone;
  return (
    <li className="border-base-200 border-b py-2.5">
      {!isAboutKnown && (
        <p className="truncate text-[12px] text-faint">
          {place ? (
            <Link to={`/plans/${plan}/${place}`} className="hover:text-primary hover:underline">
              {aboutWords(note.about)}
            </Link>
          ) : (
            aboutWords(note.about)
          )}
          {!note.about.isThere && ', which is there no more'}
        </p>
      )}
      {typed === null ? (
        <p className={`whitespace-pre-wrap break-words ${isDone ? 'text-faint' : ''}`}>
          {piecesOf(
            note.text,
            readers.map(({ name }) => name),
          ).map(({ text, isName }, at) =>
            isName ? (
              // biome-ignore lint/suspicious/noArrayIndexKey: a piece is its place
              <b key={at} className="font-semibold text-primary">
                {text}
              </b>
            ) : (
              text
            ),
          )}
        </p>
      ) : (
        <div className="my-1">
          <NoteText
            label="The note"
            text={typed}
            names={readers.map(({ name }) => name)}
            onText={setTyped}
            onSend={() => void keep()}
            onEscape={() => setTyped(null)}
          />
          <span className="mt-1 flex gap-1">
            <button
              type="button"
              className="btn btn-primary btn-xs"
              disabled={isBusy || typed.trim() === ''}
              onClick={() => void keep()}
            >
              Keep
            </button>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => setTyped(null)}>
              Leave it
            </button>
          </span>
        </div>
      )}
      <p className="mt-0.5 text-[12px] text-faint">
        {note.by.name}, {time(note.at)}
        {note.editedAt && ', changed since'}
        {note.due && <span className={isOver ? 'text-error' : ''}> · {dueWords(note.due, today)}</span>}
        {note.done && ` · done by ${note.done.by}, ${time(note.done.at)}`}
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-1">
        {!isDone && (
          <GivenFields
            of={note.text.slice(0, 40)}
            readers={readers}
            given={note.for?.actor ?? null}
            due={note.due}
            onGiven={(actor) => void change({ for: actor })}
            onDue={(due) => void change({ due })}
          />
        )}
        <span className="ml-auto" />
        {note.isYours && typed === null && !isDone && (
          <button
            type="button"
            className="btn btn-ghost btn-xs font-normal"
            onClick={() => setTyped(note.text)}
          >
            Change
          </button>
        )}
        {(note.isYours || me?.role === 'owner') && (
          <button
            type="button"
            className="btn btn-ghost btn-xs font-normal"
            aria-label={`Take away: ${note.text.slice(0, 40)}`}
            onClick={() => void remove({ params })}
          >
            Take away
          </button>
        )}
        <button
          type="button"
          className="btn btn-xs font-normal"
          disabled={isBusy}
          aria-label={`${isDone ? 'Open again' : 'Done'}: ${note.text.slice(0, 40)}`}
          onClick={() => void change({ done: !isDone })}
        >
          {isDone ? <RotateCcw size={12} aria-hidden /> : <Check size={12} aria-hidden />}
          {isDone ? 'Open again' : 'Done'}
        </button>
      </div>
    </li>
  );
}
