import { addRivalNote, listRivalNotes, type RivalNote, removeRivalNote } from '@sprig/contracts';
import { ListedWords } from '@sprig/core/text';
import { rivalLines } from '@sprig/core/write';
import { useQuery } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Help } from '../../frame/Help.tsx';

type Props = {
  plan: number;
  group: { key: string; name: string; theme: number } | null;
  /** The theme of the group in view and those above it. */
  themes: readonly { id: number; name: string }[];
  /** Names that are not to be used. */
  rivals: readonly string[];
  onLine: (text: string, line: string) => ReactNode;
};

/** Ads of rivals, noted beside the ad group in view, its themes or the plan; their lines to start from. */
export function RivalNotes({ plan, group, themes, rivals, onLine }: Props) {
  const [isAdding, setAdding] = useState(false);
  const { data } = useQuery(question(listRivalNotes, { params: { plan } }));
  const { write: remove } = useWrite(removeRivalNote);
  const of = new Set(themes.map(({ id }) => id));
  const notes = (data?.notes ?? []).filter(
    (note) =>
      (note.group === null && note.theme === null) ||
      note.group === group?.key ||
      (note.theme !== null && of.has(note.theme)),
  );
  const placeWords = ({ group: own, theme }: RivalNote) => {
    if (own !== null) return 'this ad group';
    return theme === null ? 'the plan' : (themes.find(({ id }) => id === theme)?.name ?? '');
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto px-4 py-3 text-[13px]" tabIndex={0}>
      {notes.map((note) => (
        <section key={note.id} aria-label={`Ad of ${note.rival}`}>
          <h3 className="flex items-center gap-1 font-semibold">
            <span className="min-w-0 flex-1 truncate">{note.rival}</span>
            <span className="font-normal text-[12px] text-faint">{placeWords(note)}</span>
            <button
              type="button"
              className="btn btn-ghost btn-square btn-xs"
              aria-label={`Remove the note of ${note.rival}`}
              onClick={() => void remove({ params: { plan, note: note.id } })}
            >
              <X size={13} aria-hidden />
            </button>
          </h3>
          <ul>
            {rivalLines(note.text, [...rivals, note.rival]).map(({ parts, line }) => {
              const text = parts.map((part) => part.text).join('');
              return (
                <li key={text} className="leading-6">
                  {parts.map((part, at) =>
                    part.isName ? (
                      <mark
                        // biome-ignore lint/suspicious/noArrayIndexKey: a part is its place
                        key={at}
                        className="rounded bg-error/15 px-0.5 text-error"
                        title="Not to be used: a gap is left for it"
                      >
                        {part.text}
                      </mark>
                    ) : (
                      part.text
                    ),
                  )}
                  {onLine(text, line)}
                </li>
              );
            })}
          </ul>
        </section>
      ))}
      {notes.length === 0 && !isAdding && (
        <Help>
          Paste an ad of somebody else here. Its lines can be taken over to start from; where it names itself
          a gap is left, so that no ad ships with it.
        </Help>
      )}
      {isAdding ? (
        <NewNote plan={plan} group={group} themes={themes} rivals={rivals} onClose={() => setAdding(false)} />
      ) : (
        <button type="button" className="btn btn-sm self-start font-normal" onClick={() => setAdding(true)}>
          <Plus size={14} aria-hidden /> Note an ad
        </button>
      )}
    </div>
  );
}

function NewNote({ plan, group, themes, rivals, onClose }: Omit<Props, 'onLine'> & { onClose: () => void }) {
  const [rival, setRival] = useState('');
  const [text, setText] = useState('');
  const [at, setAt] = useState(group ? 'group' : 'plan');
  const [ban, setBan] = useState(true);
  const { write, isBusy } = useWrite(addRivalNote);
  const isListed = rival.trim() !== '' && new ListedWords(rivals).in(rival) !== null;
  const add = async () => {
    const note = {
      theme: at.startsWith('theme') ? Number(at.slice(5)) : null,
      group: at === 'group' ? (group?.key ?? null) : null,
      rival,
      text,
    };
    if (await write({ params: { plan }, body: { note, ban: ban && !isListed } })) onClose();
  };
  return (
    <form
      aria-label="A rival’s ad"
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <input
        // biome-ignore lint/a11y/noAutofocus: it was just asked for
        autoFocus
        className="input input-sm w-full"
        aria-label="Whose ad it is"
        placeholder="Whose ad it is"
        maxLength={120}
        value={rival}
        onChange={({ target }) => setRival(target.value)}
      />
      <textarea
        className="textarea h-28 w-full text-[13px]"
        aria-label="Lines of the ad"
        placeholder="Paste the lines of the ad"
        maxLength={4_000}
        value={text}
        onChange={({ target }) => setText(target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void add();
          if (event.key === 'Escape' && text === '') onClose();
        }}
      />
      <label>
        beside{' '}
        <select
          className="plain-field chip cursor-pointer"
          aria-label="Beside what it stands"
          value={at}
          onChange={({ target }) => setAt(target.value)}
        >
          {group && <option value="group">this ad group</option>}
          {themes.map(({ id, name }) => (
            <option key={id} value={`theme${id}`}>
              {name}
            </option>
          ))}
          <option value="plan">the plan</option>
        </select>
      </label>
      {isListed ? (
        <p className="text-[12px] text-faint">Its name is among those not to be used already.</p>
      ) : (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={ban}
            onChange={({ target }) => setBan(target.checked)}
          />
          Its name is not to be used in any ad
        </label>
      )}
      <p className="flex gap-2">
        <button
          type="submit"
          className="btn btn-primary btn-sm"
          disabled={isBusy || rival.trim() === '' || text.trim() === ''}
        >
          Keep
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          Leave it
        </button>
      </p>
    </form>
  );
}
