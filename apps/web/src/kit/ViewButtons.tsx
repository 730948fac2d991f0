/** A view of a stage: its id, its name, the key that opens it. */
export type StageView<Id extends string> = readonly [id: Id, words: string, key: string];

type Props<Id extends string> = {
  views: readonly StageView<Id>[];
  current: Id;
  /** How much there is in a view. */
  figures?: Partial<Record<Id, string>>;
  onView: (id: Id) => void;
};

/** The views of a stage side by side, the one that is open marked. */
export function ViewButtons<Id extends string>({ views, current, figures, onView }: Props<Id>) {
  return views.map(([id, words, key]) => (
    <button
      key={id}
      type="button"
      aria-pressed={current === id}
      title={`${words} (${key})`}
      className={`flex h-8 shrink-0 items-center gap-1.5 whitespace-nowrap rounded-md px-2.5 ${current === id ? 'bg-wash ring-1 ring-primary' : 'hover:bg-base-200'}`}
      onClick={() => onView(id)}
    >
      {words}
      {figures?.[id] !== undefined && <span className="font-semibold">{figures[id]}</span>}
    </button>
  ));
}
