import { findPartGroups } from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { count } from '../../kit/format.ts';
import { useSettled } from '../../kit/use-settled.ts';

type Place = { key: string; name: string };
type Props = {
  plan: number;
  /** What is found at once; ad groups beside these are asked for. */
  places: readonly Place[];
  without: readonly string[];
  onChoose: (key: string) => void;
};

const SHOWN = 8;

/** Campaigns and ad groups by words of their names, however many there are; Enter takes the first. */
export function PlaceSearch({ plan, places, without, onChoose }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const asked = useSettled(typed ?? '');
  const { data } = useQuery({
    ...question(findPartGroups, { params: { plan }, body: { words: asked } }),
    enabled: asked.trim() !== '',
    placeholderData: keepPreviousData,
  });
  if (typed === null)
    return (
      <button
        type="button"
        className="text-primary hover:underline"
        aria-label="Show it for another place"
        onClick={() => setTyped('')}
      >
        + place
      </button>
    );
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const has = ({ name }: Place) => words.every((word) => name.toLowerCase().includes(word));
  const there = places.filter(has);
  const taken = new Set(without);
  const known = new Set([...without, ...places.map(({ key }) => key)]);
  const others = asked.trim() === '' ? [] : (data?.groups ?? []);
  const found = [
    ...there.filter(({ key }) => !taken.has(key)),
    ...others
      .filter(({ key, name }) => !known.has(key) && has({ key, name }))
      .map(({ key, name, campaign }) => ({ key, name: `${campaign} › ${name}` })),
  ];
  const choose = (key: string) => {
    setTyped(null);
    onChoose(key);
  };
  return (
    <span className="inline-flex flex-wrap items-center gap-1">
      <input
        // biome-ignore lint/a11y/noAutofocus: it was just asked for
        autoFocus
        type="search"
        className="input input-xs w-40"
        aria-label="Show it for"
        placeholder="campaign or ad group"
        value={typed}
        onChange={({ target }) => setTyped(target.value)}
        onKeyDown={({ key }) => {
          if (key === 'Escape') setTyped(null);
          const [first] = found;
          if (key === 'Enter' && first) choose(first.key);
        }}
      />
      {found.slice(0, SHOWN).map(({ key, name }) => (
        <button key={key} type="button" className="chip" onClick={() => choose(key)}>
          {name}
        </button>
      ))}
      <span className="text-faint">
        {found.length === 0 && 'no such place'}
        {found.length > SHOWN && `and ${count(found.length - SHOWN)} more`}
      </span>
    </span>
  );
}
