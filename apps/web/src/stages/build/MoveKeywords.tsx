import { placeByHand, readSort, type ThemeRow } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Help } from '../../frame/Help.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';

type Props = {
  plan: number;
  /** The keys of keyword rows: their keywords move in all of their match types. */
  rows: readonly string[];
  onClose: () => void;
};

const SHOWN = 12;
type Path = { id: number; path: string };

/** Themes by their paths, those that have all words, the shortest first. */
export function themesFound(themes: readonly ThemeRow[], typed: string): Path[] {
  const byId = new Map(themes.map((theme) => [theme.id, theme]));
  const pathOf = ({ name, parent }: ThemeRow, depth = 0): string => {
    const above = parent === null || depth > 100 ? undefined : byId.get(parent);
    return above ? `${pathOf(above, depth + 1)} › ${name}` : name;
  };
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return themes
    .map((theme) => ({ id: theme.id, path: pathOf(theme) }))
    .filter(({ path }) => words.every((word) => path.toLowerCase().includes(word)))
    .sort((a, b) => a.path.length - b.path.length);
}

/** The keywords of keyword rows, each once. */
export const keywordsOf = (rows: readonly string[]): number[] => [
  ...new Set(rows.flatMap((key) => Number(/k(\d+):/.exec(key)?.[1] ?? 0) || [])),
];

/** Keywords moved to the ad group of another theme, or of a new one, where they are held from then on. */
export function MoveKeywords({ plan, rows, onClose }: Props) {
  const [typed, setTyped] = useState('');
  const { data } = useQuery(question(readSort, { params: { plan } }));
  const keywords = useMemo(() => keywordsOf(rows), [rows]);
  const found = useMemo(() => themesFound(data?.themes ?? [], typed), [data, typed]);
  const what = counted(keywords.length, 'keyword');
  const { write, isBusy } = useWrite(placeByHand);
  const move = async (to: { theme: number } | { made: { name: string; parent: null } }) => {
    if (await write({ params: { plan }, body: { keywords, ...to } })) onClose();
  };
  const name = typed.trim();
  const isNew = name !== '' && !found.some(({ path }) => path.toLowerCase() === name.toLowerCase());
  return (
    <Dialog title={`Move ${what}`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          const [first] = found;
          if (first) void move({ theme: first.id });
          else if (isNew) void move({ made: { name, parent: null } });
        }}
      >
        <input
          autoFocus
          aria-label="Theme to move them to"
          className="input input-sm w-full"
          placeholder="Words of a theme, or the name of a new one"
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
        <ul className="mt-2 max-h-72 overflow-auto text-[13px]">
          {found.slice(0, SHOWN).map(({ id, path }) => (
            <li key={id}>
              <button
                type="button"
                className="w-full truncate rounded px-2 py-1 text-left hover:bg-base-200"
                disabled={isBusy}
                onClick={() => void move({ theme: id })}
              >
                {path}
              </button>
            </li>
          ))}
          {found.length > SHOWN && (
            <li className="px-2 py-1 text-[12px] text-faint">
              and {count(found.length - SHOWN)} more: type on
            </li>
          )}
        </ul>
        {isNew && (
          <button
            type="button"
            className="btn btn-sm mt-1"
            disabled={isBusy}
            onClick={() => void move({ made: { name, parent: null } })}
          >
            To a new theme, “{name}”
          </button>
        )}
      </form>
      <Help>
        A theme’s keywords stand in its ad group, or in ad groups of their own below it, as the rules say.
        Moved ones are held there in all their match types, with their bids; in Sort they are let go again.
      </Help>
    </Dialog>
  );
}
