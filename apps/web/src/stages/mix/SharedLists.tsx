import { makeWordList, removeWordList, type WordList } from '@sprig/contracts';
import { readWords } from '@sprig/core/mix';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { call } from '../../data/call.ts';
import { Help } from '../../frame/Help.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { count } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { LinesChip } from '../../kit/LinesChip.tsx';
import { usedIn } from './ListStrip.tsx';
import { freeName } from './recipe-edits.ts';
import type { useMixActions } from './use-mix.ts';

type Props = {
  plan: number;
  shared: readonly WordList[];
  actions: ReturnType<typeof useMixActions>;
  onClose: () => void;
};

/** The lists that all recipes and plans of the workspace share: edited once, with where each is used. */
export function SharedLists({ plan, shared, actions, onClose }: Props) {
  const [busy, setBusy] = useState(false);
  const make = async () => {
    setBusy(true);
    const name = freeName(
      'Shared list',
      shared.map((list) => list.name),
    );
    await actions.done(() =>
      call(makeWordList, { params: { plan }, body: { name, text: '', takes: [], from: null } }),
    );
    setBusy(false);
  };
  return (
    <Dialog title="Shared lists" onClose={onClose} wide>
      <div className="flex min-h-72 flex-col gap-3">
        <Help>
          A shared list is edited once. Every recipe that uses it, here and in other plans, follows, and so do
          their pools.
        </Help>
        <ul className="divide-y divide-base-300">
          {shared.map((list) => {
            const used = list.recipes.length + list.lists.length + list.otherPlans > 0;
            const size = readWords(list.text).forms.length;
            return (
              <li
                key={list.id}
                aria-label={list.name}
                className="grid grid-cols-[160px_1fr_30px] items-start gap-3 py-2"
              >
                <span className="font-semibold">
                  <InlineEdit
                    tabStop
                    label={`Name of ${list.name}`}
                    shown={list.name}
                    text={list.name}
                    onKeep={(typed) => actions.edit('shared', list.id, 'name', typed.trim())}
                  />
                </span>
                <span>
                  <LinesChip<string>
                    label={`Words of ${list.name}`}
                    shown={size === 0 ? 'no words yet' : `${count(size)} ${size === 1 ? 'word' : 'words'}`}
                    text={list.text}
                    placeholder={'red\nblue'}
                    help="An entry to a line; put its other forms behind |."
                    read={(typed) => ({ value: typed })}
                    onKeep={(value) => actions.edit('shared', list.id, 'text', value)}
                  />
                  {shared.length > 1 && (
                    <span className="ml-2 text-[12.5px] text-faint">
                      and all of{' '}
                      {shared
                        .filter(({ id }) => id !== list.id)
                        .map(({ id, name }) => (
                          <Take key={id} list={list} id={id} name={name} onTakes={actions.edit} />
                        ))}
                    </span>
                  )}
                  <span className="block text-[12.5px] text-faint">{usedIn(list)}</span>
                </span>
                <button
                  type="button"
                  className="btn btn-ghost btn-square btn-xs"
                  disabled={used}
                  title={used ? 'It is used: take it out there first' : `Remove ${list.name}`}
                  aria-label={`Remove ${list.name}`}
                  onClick={() =>
                    void actions.done(
                      () => call(removeWordList, { params: { plan, list: list.id } }),
                      () => `${list.name} is removed. Ctrl+Z brings it back.`,
                    )
                  }
                >
                  <Trash2 size={14} />
                </button>
              </li>
            );
          })}
        </ul>
        <button type="button" className="btn btn-sm self-start" disabled={busy} onClick={() => void make()}>
          <Plus size={14} aria-hidden /> Make a shared list
        </button>
      </div>
    </Dialog>
  );
}

type TakeProps = {
  list: WordList;
  id: number;
  name: string;
  onTakes: ReturnType<typeof useMixActions>['edit'];
};

/** Whether a shared list takes another one in; a circle is refused with its names. */
function Take({ list, id, name, onTakes }: TakeProps) {
  const [refusal, setRefusal] = useState<string | null>(null);
  const isTaken = list.takes.includes(id);
  const next = isTaken ? list.takes.filter((one) => one !== id) : [...list.takes, id];
  return (
    <>
      <button
        type="button"
        aria-pressed={isTaken}
        className={`chip mr-1 ${isTaken ? '' : 'chip-off'}`}
        onClick={async () => setRefusal(await onTakes('shared', list.id, 'takes', next))}
      >
        {name}
      </button>
      {refusal && (
        <span role="alert" className="block text-error">
          {refusal}
        </span>
      )}
    </>
  );
}
