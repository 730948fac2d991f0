import { type LookAlikeClass, lookAlikeClasses } from '@sprig/core/prune';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { Help } from '../../frame/Help.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { count, counted } from '../../kit/format.ts';
import { inTextField } from '../../kit/keys.ts';
import { type RowSource, useRows } from '../../kit/table/row-source.ts';
import type { AlikeGroup, AlikeSummary } from '../../pool/pruning.ts';
import type { usePool } from '../../pool/use-pool.ts';
import { classNames } from './filter-names.ts';
import type { PruneActions } from './use-prune.ts';

type Props = {
  pool: ReturnType<typeof usePool>;
  /** Changes whenever the groups do. */
  question: string;
  summary: AlikeSummary | null;
  classes: readonly LookAlikeClass[];
  onClasses: (classes: readonly LookAlikeClass[]) => void;
  actions: PruneActions;
};

type Placed = { place: number; group: AlikeGroup };
/** A keeper or members chosen by hand, before the group is folded. */
type Judged = { keeper?: number; without: ReadonlySet<number> };

/** Look-alikes in groups, to be folded by class at once or one by one. */
export function AlikeView({ pool, question, summary, classes, onClasses, actions }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const [cursor, setCursor] = useState(0);
  const [judged, setJudged] = useState<ReadonlyMap<number, Judged>>(new Map());
  const total = summary?.groups ?? 0;
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => list.current,
    estimateSize: () => 66,
    overscan: 6,
  });
  const items = virtual.getVirtualItems();
  const from = items[0]?.index ?? 0;
  const to = (items.at(-1)?.index ?? -1) + 1;
  const ids = useMemo(() => Uint32Array.from({ length: total }, (_, at) => at), [total]);
  const version = `${question}:${total}:${summary?.keywords}`;
  const source = useMemo<RowSource<Placed, number>>(() => {
    const fetchPage = async (places: number[]) => {
      const first = places[0] ?? 0;
      const groups = await pool.worker.alikeGroups(first, (places.at(-1) ?? 0) + 1);
      return groups.map((group, at) => ({ place: first + at, group }));
    };
    return { ids, version, loading: false, fetchPage, fetchAll: fetchPage, keyOf: ({ place }) => place };
  }, [ids, version, pool.worker]);
  const rows = useRows(source, from, to);
  useEffect(() => {
    if (cursor >= total) setCursor(Math.max(0, total - 1));
  }, [cursor, total]);

  const asJudged = ({ keeper, others }: AlikeGroup) => {
    const own = judged.get(keeper.id);
    const members = [keeper, ...others];
    const kept = members.find(({ id }) => id === own?.keeper) ?? keeper;
    const folded = members.filter(({ id }) => id !== kept.id && !own?.without.has(id));
    return { kept, folded, members };
  };
  const judge = (group: AlikeGroup, change: Partial<Judged>) =>
    setJudged((old) => {
      const before = old.get(group.keeper.id) ?? { without: new Set<number>() };
      return new Map(old).set(group.keeper.id, { ...before, ...change });
    });
  const fold = (group: AlikeGroup) => {
    const { kept, folded } = asJudged(group);
    if (folded.length > 0)
      void actions.fold(
        [{ keeper: kept.id, others: folded.map(({ id }) => id) }],
        `Folded ${counted(folded.length, 'keyword')} into ${kept.text}.`,
      );
  };
  const apart = (group: AlikeGroup) =>
    void actions.apart(
      group.others.map(({ id }) => id),
      true,
      `${counted(group.others.length, 'keyword')} will stand apart from ${group.keeper.text}.`,
    );
  const foldAll = async () => {
    const folds = (await pool.worker.allFolds()).flatMap(({ keeper, others }) => {
      const own = judged.get(keeper);
      const kept = own?.keeper ?? keeper;
      const members = [keeper, ...others].filter((id) => id !== kept && !own?.without.has(id));
      return members.length > 0 ? [{ keeper: kept, others: members }] : [];
    });
    const keywords = folds.reduce((sum, { others }) => sum + others.length, 0);
    if (folds.length > 0)
      void actions.fold(folds, `Folded ${counted(keywords, 'keyword')} into ${count(folds.length)}.`);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (inTextField(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
    const move = (next: number) => {
      const place = Math.max(0, Math.min(total - 1, next));
      setCursor(place);
      virtual.scrollToIndex(place);
    };
    const group = rows[cursor - from]?.group;
    if (event.key === 'j' || event.key === 'ArrowDown') move(cursor + 1);
    else if (event.key === 'k' || event.key === 'ArrowUp') move(cursor - 1);
    else if (event.key === 'f' && group) fold(group);
    else if (event.key === 'a' && group) apart(group);
    else return;
    event.preventDefault();
  };
  if (!summary)
    return <div className="grid flex-1 place-items-center text-faint">Looking for look-alikes …</div>;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <AlikeBar summary={summary} classes={classes} onClasses={onClasses} onFoldAll={() => void foldAll()} />
      <div className="px-4 pb-2">
        <Help>
          The kept keyword speaks for the others: they leave what is built, and keep their figures and
          sources. Click another to keep it instead; take the tick away to leave one out.{' '}
          <span className="key">f</span> folds the group under the cursor, <span className="key">a</span>{' '}
          keeps it apart for good.
        </Help>
      </div>
      {total === 0 ? (
        <div className="grid flex-1 place-items-center">
          <Empty title="No look-alikes are left">
            {summary.folded > 0
              ? `${counted(summary.folded, 'keyword')} are folded already.`
              : 'In these classes every keyword is a search of its own.'}
            {summary.apart > 0 && ` ${counted(summary.apart, 'keyword')} stand apart, as you said.`}
          </Empty>
        </div>
      ) : (
        // biome-ignore lint/a11y/noStaticElementInteractions: keys of the list inside, which takes the focus
        <div className="flex min-h-0 flex-1 flex-col border-hair border-t" onKeyDown={onKeyDown}>
          <div
            ref={list}
            role="list"
            aria-label="Groups of look-alikes"
            className="min-h-0 flex-1 overflow-auto"
            tabIndex={0}
            data-table-body
          >
            <div className="relative" role="presentation" style={{ height: virtual.getTotalSize() }}>
              {items.map(({ index, start }) => {
                const group = rows[index - from]?.group;
                return (
                  // biome-ignore lint/a11y/useKeyWithClickEvents: the list as a whole answers the keyboard
                  <div
                    key={index}
                    role="listitem"
                    ref={virtual.measureElement}
                    data-index={index}
                    className={`absolute inset-x-0 border-base-200 border-b px-4 py-1.5 ${index === cursor ? 'cursor-row' : ''}`}
                    style={{ transform: `translateY(${start}px)` }}
                    onClick={() => setCursor(index)}
                  >
                    {group ? (
                      <Group
                        group={group}
                        judged={judged.get(group.keeper.id)}
                        onJudge={(change) => judge(group, change)}
                        onFold={() => fold(group)}
                        onApart={() => apart(group)}
                      />
                    ) : (
                      <span className="text-hair">…</span>
                    )}
                  </div>
                );
              })}
            </div>
          </div>
        </div>
      )}
    </div>
  );
}

function Group({
  group,
  judged,
  onJudge,
  onFold,
  onApart,
}: {
  group: AlikeGroup;
  judged: Judged | undefined;
  onJudge: (change: Partial<Judged>) => void;
  onFold: () => void;
  onApart: () => void;
}) {
  const { keeper, others, searches } = group;
  const members = [{ ...keeper, by: null }, ...others];
  const kept = judged?.keeper ?? keeper.id;
  const without = judged?.without ?? new Set<number>();
  const toggle = (id: number) => {
    const next = new Set(without);
    if (!next.delete(id)) next.add(id);
    onJudge({ without: next });
  };
  const shown = members.find(({ id }) => id === kept) ?? keeper;
  return (
    <div className="grid grid-cols-[260px_1fr_auto] items-center gap-4">
      <div className="min-w-0">
        <p className="truncate font-semibold">{shown.text}</p>
        <p className="text-[12px] text-faint">
          {count(shown.searches)} searches; together at most {count(searches)}
        </p>
      </div>
      <ul className="flex min-w-0 flex-wrap gap-1.5">
        {members
          .filter(({ id }) => id !== kept)
          .map(({ id, text, searches: own, by }) => (
            <li
              key={id}
              className={`flex h-7 items-center gap-1.5 rounded-md border px-1.5 ${without.has(id) ? 'border-hair border-dashed text-faint' : 'border-hair bg-base-100'}`}
            >
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                aria-label={`Fold ${text}`}
                checked={!without.has(id)}
                onChange={() => toggle(id)}
              />
              <button type="button" title="Keep this one instead" onClick={() => onJudge({ keeper: id })}>
                {text}
              </button>
              <span className="text-[12px] text-faint">
                {count(own)}
                {by ? ` · ${classNames[by].name}` : ''}
              </span>
            </li>
          ))}
      </ul>
      <span className="flex shrink-0 gap-1">
        <button type="button" className="btn btn-sm" onClick={onFold}>
          Fold
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onApart}>
          Keep apart
        </button>
      </span>
    </div>
  );
}

type BarProps = {
  summary: NonNullable<Props['summary']>;
  classes: Props['classes'];
  onClasses: Props['onClasses'];
  onFoldAll: () => void;
};

/** What counts as alike, and all of it folded at once. */
const AlikeBar = ({ summary, classes, onClasses, onFoldAll }: BarProps) => (
  <div className="flex shrink-0 flex-wrap items-center gap-2 px-4 py-2">
    <span>Alike but for</span>
    {lookAlikeClasses.slice(1).map((name) => {
      const isOn = classes.includes(name);
      return (
        <button
          key={name}
          type="button"
          aria-pressed={isOn}
          title={`For example ${classNames[name].example}`}
          className={`chip ${isOn ? '' : 'chip-off'}`}
          onClick={() => onClasses(isOn ? classes.filter((one) => one !== name) : [...classes, name])}
        >
          {classNames[name].name}
          {isOn && <span className="font-normal">{count(summary.byClass[name])}</span>}
        </button>
      );
    })}
    <button
      type="button"
      data-step="fold"
      className="btn btn-primary btn-sm ml-auto"
      disabled={summary.keywords === 0}
      onClick={onFoldAll}
    >
      Fold {counted(summary.keywords, 'keyword')} into {count(summary.groups)}
    </button>
  </div>
);
