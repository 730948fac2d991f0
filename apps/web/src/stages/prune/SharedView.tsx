import type { SharedList } from '@sprig/contracts';
import { negativeTypeOf, readNotation } from '@sprig/core/match';
import { X } from 'lucide-react';
import { useState } from 'react';
import { Help } from '../../frame/Help.tsx';
import { counted, short } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { Refused } from '../../kit/Refused.tsx';
import { useEntry } from '../../kit/use-entry.ts';
import { type usePool, useWorked } from '../../pool/use-pool.ts';
import type { PruneActions } from './use-prune.ts';

type Props = { pool: ReturnType<typeof usePool>; lists: SharedList[]; actions: PruneActions };

/** Lists of negatives that every plan of the workspace can attach; edited once, they change everywhere. */
export function SharedView({ pool, lists, actions }: Props) {
  const [open, setOpen] = useState<number | null>(null);
  const entry = useEntry(async (name) => Boolean(await actions.makeList(name)));
  const chosen = lists.find(({ id }) => id === open) ?? lists[0];
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[430px_1fr]">
      <div className="min-h-0 overflow-auto border-hair border-r">
        <ul className="divide-y divide-base-200">
          {lists.map((list) => (
            <ListLine
              key={list.id}
              list={list}
              pool={pool}
              isOpen={list.id === chosen?.id}
              onOpen={() => setOpen(list.id)}
              actions={actions}
            />
          ))}
        </ul>
        <form
          className="flex flex-wrap gap-2 px-4 py-3"
          onSubmit={(event) => {
            event.preventDefault();
            void entry.send(entry.typed);
          }}
        >
          <input
            className="input input-sm flex-1"
            aria-label="Name of a new list"
            placeholder="Name of a new list"
            value={entry.typed}
            onChange={(event) => entry.type(event.target.value)}
          />
          <button type="submit" className="btn btn-sm" disabled={entry.typed.trim() === ''}>
            Make a list
          </button>
          <Refused entry={entry} />
        </form>
      </div>
      {chosen && <OpenList key={chosen.id} list={chosen} actions={actions} />}
    </div>
  );
}

function ListLine({
  list,
  pool,
  isOpen,
  onOpen,
  actions,
}: {
  list: SharedList;
  pool: Props['pool'];
  isOpen: boolean;
  onOpen: () => void;
  actions: PruneActions;
}) {
  const { id, name, about, attached, plans, negatives } = list;
  const { data: effect } = useWorked(
    () => pool.worker.listEffect({ negatives }),
    `list:${pool.revision}:${id}:${negatives.length}`,
  );
  return (
    <li className={`flex items-center gap-3 px-4 py-2 ${isOpen ? 'bg-base-200' : ''}`}>
      <button type="button" className="min-w-0 flex-1 text-left" aria-pressed={isOpen} onClick={onOpen}>
        <span className="block font-semibold">{name}</span>
        <span className="block text-[12px] text-faint">
          {about ? `${about}. ` : ''}
          {counted(negatives.length, 'negative')}, in {plans === 0 ? 'no plan yet' : counted(plans, 'plan')}.
          {!attached &&
            effect &&
            ` Would take out ${counted(effect.keywords, 'keyword')}, ${short(effect.searches)} searches.`}
        </span>
      </button>
      <button
        type="button"
        className={`btn btn-sm ${attached ? 'btn-ghost' : ''}`}
        onClick={() =>
          void actions.attach(id, !attached, attached ? `Took ${name} off this plan.` : `Attached ${name}.`)
        }
      >
        {attached ? 'Take off' : 'Attach'}
      </button>
    </li>
  );
}

function OpenList({ list, actions }: { list: SharedList; actions: PruneActions }) {
  const entry = useEntry(async (text) => {
    const read = readNotation(text);
    if (read.status !== 'read') return false;
    return Boolean(
      await actions.add([{ text: read.text, type: negativeTypeOf(read.type) }], 'block', {
        list: list.id,
      }),
    );
  });
  const read = readNotation(entry.typed);
  const add = async () => {
    if (read.status === 'read') await entry.send(entry.typed);
  };
  return (
    <section aria-label={list.name} className="flex min-h-0 flex-col px-4 py-3">
      <h2 className="mb-2 w-96 font-display text-lg">
        <InlineEdit
          tabStop
          label="name of the list"
          shown={list.name}
          text={list.name}
          onKeep={(typed) => actions.renameList(list.id, list.name, typed)}
        />
      </h2>
      <div className="mb-2 flex items-center gap-2">
        <input
          className="input input-sm w-72"
          aria-label={`Add to ${list.name}`}
          placeholder='Add a negative: free, "free plans"'
          value={entry.typed}
          onChange={(event) => entry.type(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && void add()}
        />
        <button
          type="button"
          className="btn btn-sm"
          disabled={read.status !== 'read'}
          onClick={() => void add()}
        >
          Add
        </button>
        <Refused entry={entry} />
        <Help>Adding attaches the list here; every plan that attaches it changes with it.</Help>
      </div>
      <ul className="min-h-0 flex-1 columns-3 gap-6 overflow-auto">
        {list.negatives.map(({ id, text, type }) => (
          <li key={id} className="flex items-center gap-2 border-base-200 border-b py-0.5">
            <ReachBars type={type} />
            <span className="flex-1 truncate">{text}</span>
            <button
              type="button"
              className="btn btn-ghost btn-square btn-xs"
              aria-label={`Remove ${text} from ${list.name}`}
              onClick={() => void actions.removeShared(list.id, [id], `Removed ${text} from ${list.name}.`)}
            >
              <X size={13} />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
