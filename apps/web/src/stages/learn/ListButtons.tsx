import { count } from '../../kit/format.ts';

type Props<Id extends string> = {
  label: string;
  lists: readonly { list: Id; rows: number; more?: string; moreHint?: string }[];
  words: Readonly<Record<Id, readonly [name: string, about: string]>>;
  current: Id;
  onList: (list: Id) => void;
};

/** The lists that rows are in, each with how many it has; one is open. */
export function ListButtons<Id extends string>({ label, lists, words, current, onList }: Props<Id>) {
  return (
    <fieldset
      aria-label={label}
      className="flex shrink-0 flex-wrap items-stretch gap-1.5 border-hair border-b px-4 py-2"
    >
      {lists.map(({ list, rows, more, moreHint }) => (
        <button
          key={list}
          type="button"
          aria-pressed={list === current}
          title={words[list][1]}
          className={`flex min-w-24 shrink-0 flex-col rounded-md px-2.5 py-1 text-left ${list === current ? 'bg-wash ring-1 ring-primary' : 'hover:bg-base-200'} ${rows === 0 ? 'text-faint' : ''}`}
          onClick={() => onList(list)}
        >
          <span className="text-[13px]">{words[list][0]}</span>
          <span>
            <b>{count(rows)}</b>{' '}
            {more && (
              <span className="text-[12px] text-faint" title={moreHint}>
                {more}
              </span>
            )}
          </span>
        </button>
      ))}
    </fieldset>
  );
}
