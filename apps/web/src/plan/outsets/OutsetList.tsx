import { editOutset, listOutsets, type OutsetView, outsetParts } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { fetchAgain } from '../../data/fetch-again.ts';
import { queryClient } from '../../data/query-client.ts';
import { questionsOf } from '../../data/query-key.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { date } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { partWords } from './outset-words.ts';

/** The workspace's outsets: named, one of them the default, removed and put back. */
export function OutsetList() {
  const { data } = useQuery({ ...question(listOutsets), staleTime: 0 });
  if (!data || data.outsets.length === 0) return null;
  return (
    <section aria-label="Outsets" className="mt-5">
      <h2 className="font-semibold text-[15px]">Outsets</h2>
      <p className="text-[12.5px] text-faint">What plans begin with: rules that were kept of a plan.</p>
      <ul className="mt-2 divide-y divide-base-300 border-hair border-y">
        {data.outsets.map((outset) => (
          <OutsetLine key={outset.id} outset={outset} />
        ))}
      </ul>
    </section>
  );
}

function OutsetLine({ outset }: { outset: OutsetView }) {
  const { id, name, of, currency, isDefault, parts, keptAt } = outset;
  const { write } = useWrite(editOutset);
  const params = { outset: id };
  const rename = async (typed: string): Promise<string | null> => {
    try {
      await call(editOutset, { params, body: { name: typed } });
      await fetchAgain(queryClient, { queryKey: questionsOf(listOutsets, null) });
      return null;
    } catch (error) {
      return wordsOf(error);
    }
  };
  const remove = async () => {
    if (!(await write({ params, body: { isRemoved: true } }))) return;
    toast(`Removed the outset ${name}.`, {
      action: {
        label: 'Put it back',
        onClick: () => void write({ params, body: { isRemoved: false, ...(isDefault && { isDefault }) } }),
      },
      duration: 12_000,
    });
  };
  const words = parts.map((part) => partWords[part].words);
  return (
    <li className="grid grid-cols-[1fr_150px_110px_110px] items-center gap-4 px-2 py-1.5">
      <div className="min-w-0">
        <span className="block truncate font-semibold">{name}</span>
        <span className="block truncate text-[12.5px] text-faint" title={words.join(', ')}>
          {name === of ? '' : `of ${of} · `}
          {currency} · {parts.length === outsetParts.length ? 'all parts' : words.join(', ')}
        </span>
      </div>
      <label className="flex items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          aria-label={`New plans begin with ${name}`}
          checked={isDefault}
          onChange={({ target }) => void write({ params, body: { isDefault: target.checked } })}
        />
        new plans begin so
      </label>
      <span className="text-right text-faint">{date(keptAt)}</span>
      <div className="flex justify-end gap-1">
        <div className="w-20">
          <InlineEdit
            tabStop
            label={`Name of the outset ${name}`}
            shown={<span className="text-faint">Rename</span>}
            text={name}
            onKeep={rename}
            wide
            right
          />
        </div>
        <button
          type="button"
          className="btn btn-ghost btn-square btn-xs"
          title="Remove"
          aria-label={`Remove the outset ${name}`}
          onClick={() => void remove()}
        >
          <Trash2 size={14} />
        </button>
      </div>
    </li>
  );
}
