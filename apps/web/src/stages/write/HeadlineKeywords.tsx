import { type PlanState, readMix, takeIdeas } from '@sprig/contracts';
import { linesOf } from '@sprig/core/text';
import { headlineKeywords } from '@sprig/core/write';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';

type Props = { plan: PlanState; headline: string; onClose: () => void };

const SHOWN = 40;
const sides = [
  { value: 'behind', words: 'behind it' },
  { value: 'before', words: 'before it' },
] as const;

/** A headline and lists of Mix become keywords of the pool; the themes' rules place them. */
export function HeadlineKeywords({ plan, headline, onClose }: Props) {
  const [typed, setTyped] = useState(headline);
  const [own, setOwn] = useState('');
  const [chosen, setChosen] = useState<string[]>([]);
  const [side, setSide] = useState<'behind' | 'before'>('behind');
  const { write: takeKeywords, isBusy } = useWrite(takeIdeas, {
    said: ({ added }) => `${counted(added, 'new keyword')} in the pool. Ctrl+Z takes them out.`,
  });
  const { data } = useQuery(question(readMix, { params: { plan: plan.id } }));
  const lists = useMemo(() => {
    const shared = (data?.shared ?? []).map(({ id, name, text }) => ({ key: `s${id}`, name, text }));
    const ofRecipes = (data?.recipes ?? []).flatMap(({ id, recipe }) =>
      recipe.lists.flatMap((list) =>
        'text' in list && typeof list.text === 'string'
          ? [{ key: `r${id}:${list.id}`, name: `${list.name} (${recipe.name})`, text: list.text }]
          : [],
      ),
    );
    return [...shared, ...ofRecipes];
  }, [data]);
  const made = useMemo(() => {
    const entries = (text: string) => linesOf(text).map((line) => line.replace(/\t.*$/, ''));
    const picked = lists.filter(({ key }) => chosen.includes(key)).map(({ text }) => entries(text));
    const typedOwn = own.trim() === '' ? [] : [entries(own)];
    return headlineKeywords(typed, [...picked, ...typedOwn], side);
  }, [lists, chosen, own, typed, side]);
  const take = async () => {
    const taken = await takeKeywords({
      params: { plan: plan.id },
      body: { name: `From the headline ${typed}`.slice(0, 200), texts: made },
    });
    if (taken) onClose();
  };
  return (
    <Dialog title="Keywords from a headline" onClose={onClose} wide>
      <p className="flex flex-wrap items-center gap-2">
        The words of
        <input
          aria-label="Headline"
          className="input input-sm w-64"
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
        with entries
        <ChoiceChip label="Side" value={side} choices={sides} onChoose={setSide} />
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-1.5" role="group" aria-label="Lists">
        {lists.map(({ key, name }) => (
          <button
            key={key}
            type="button"
            aria-pressed={chosen.includes(key)}
            className={`chip ${chosen.includes(key) ? '' : 'chip-off'}`}
            onClick={() =>
              setChosen(chosen.includes(key) ? chosen.filter((one) => one !== key) : [...chosen, key])
            }
          >
            {name}
          </button>
        ))}
      </div>
      <textarea
        aria-label="Entries of your own"
        className="textarea mt-2 h-16 w-full text-[13px]"
        placeholder={'Entries of your own, one to a line'}
        value={own}
        onChange={({ target }) => setOwn(target.value)}
      />
      <ul className="mt-2 max-h-48 columns-2 overflow-auto text-[13px]" aria-label="Made">
        {made.slice(0, SHOWN).map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
      {made.length > SHOWN && <p className="text-faint">and {count(made.length - SHOWN)} more</p>}
      <button
        type="button"
        className="btn btn-primary btn-sm mt-3"
        disabled={isBusy || made.length === 0}
        onClick={() => void take()}
      >
        Take {counted(made.length, 'keyword')} in
      </button>
    </Dialog>
  );
}
