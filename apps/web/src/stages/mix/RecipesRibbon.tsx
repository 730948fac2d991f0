import { DndContext, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import type { RecipeRow } from '@sprig/contracts';
import { type ShapeKey, shapes } from '@sprig/core/mix';
import { Ellipsis, Plus, Power, Users } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';
import { Menu } from '../../kit/Menu.tsx';
import { moved } from './recipe-edits.ts';

type Props = {
  recipes: readonly RecipeRow[];
  chosen: number | null;
  /** How many the chosen one makes, as it is being edited. */
  madeNow: number | null;
  onChoose: (recipe: number) => void;
  onMake: (shape: ShapeKey | 'usual' | null) => void;
  /** What new recipes begin like; null: none is kept. */
  usual: string | null;
  onBegin: (row: RecipeRow | null) => void;
  onCopy: (row: RecipeRow) => void;
  onSwitch: (row: RecipeRow) => void;
  onRename: (row: RecipeRow, name: string) => Promise<string | null>;
  onRemove: (row: RecipeRow) => void;
  onOrder: (ids: number[]) => void;
  onShared: () => void;
  children: ReactNode;
};

/** The recipes side by side: which are in the pool, and with how many keywords. */
export function RecipesRibbon(props: Props) {
  const { recipes, chosen, usual, onMake, onOrder, onShared, onRename, onRemove, children } = props;
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const [naming, setNaming] = useState<RecipeRow | null>(null);
  const [leaving, setLeaving] = useState<RecipeRow | null>(null);
  const ids = recipes.map(({ id }) => id);
  const once = usual === null ? {} : { hint: 'this once' };
  return (
    <section aria-label="Recipes" className="flex h-12 shrink-0 items-center gap-2 border-hair border-b px-4">
      <div className="flex min-w-0 flex-1 items-center gap-1.5 overflow-x-auto">
        <DndContext
          sensors={sensors}
          onDragEnd={({ active, over }) => {
            if (over && over.id !== active.id)
              onOrder(moved(ids, ids.indexOf(Number(active.id)), ids.indexOf(Number(over.id))));
          }}
        >
          <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
            {recipes.map((row, at) => (
              <RecipeChip
                key={row.id}
                {...props}
                row={row}
                isChosen={row.id === chosen}
                onMove={(by) => onOrder(moved(ids, at, at + by))}
                onName={() => setNaming(row)}
                onLeave={() => setLeaving(row)}
              />
            ))}
          </SortableContext>
        </DndContext>
        <Menu
          label="New recipe"
          className="btn btn-sm"
          items={[
            ...(usual === null ? [] : [{ words: `As usual: ${usual}`, run: () => onMake('usual') }]),
            ...shapes.map(({ key, name }) => ({ words: name, ...once, run: () => onMake(key) })),
            { words: 'empty', ...once, run: () => onMake(null) },
          ]}
        >
          <Plus size={14} aria-hidden /> Recipe
        </Menu>
      </div>
      <button type="button" className="btn btn-ghost btn-sm" onClick={onShared}>
        <Users size={14} aria-hidden /> Shared lists
      </button>
      {children}
      {naming && <NameSheet row={naming} onRename={onRename} onClose={() => setNaming(null)} />}
      {leaving && (
        <Dialog title={`Remove ${leaving.recipe.name}?`} onClose={() => setLeaving(null)}>
          <p className="mb-4">
            {leaving.source === null
              ? 'It is not in the pool, so no keyword leaves. '
              : 'What only this recipe brought leaves the pool with it. '}
            {leaving.cuts > 0 && `Its ${counted(leaving.cuts, 'cut')} go too. `}
            Ctrl+Z brings everything back.
          </p>
          <button
            type="button"
            className="btn btn-error btn-sm"
            onClick={() => {
              onRemove(leaving);
              setLeaving(null);
            }}
          >
            Remove the recipe
          </button>
        </Dialog>
      )}
    </section>
  );
}

type ChipProps = Props & {
  row: RecipeRow;
  isChosen: boolean;
  onMove: (by: number) => void;
  onName: () => void;
  onLeave: () => void;
};

function RecipeChip(props: ChipProps) {
  const { row, isChosen, madeNow, usual, onChoose, onCopy, onBegin, onSwitch, onMove, onName, onLeave } =
    props;
  const { setNodeRef, listeners, transform, transition } = useSortable({ id: row.id });
  const { recipe, source, keywords, held } = row;
  // What one that is not in the pool makes is known only while it is worked on.
  const unkept = isChosen ? madeNow : null;
  const made = source !== null ? keywords : unkept;
  const inPool = source === null ? 'not in the pool' : 'in the pool';
  const where = recipe.on ? inPool : 'off';
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      style={{ transform: transform ? `translate(${transform.x}px, 0)` : undefined, transition }}
      className={`relative flex h-8 shrink-0 items-center rounded-md ${isChosen ? 'bg-wash ring-1 ring-primary' : 'bg-base-200'}`}
    >
      <button
        type="button"
        aria-pressed={isChosen}
        className={`flex h-full items-center gap-1.5 px-2 ${recipe.on ? '' : 'text-faint line-through decoration-1'}`}
        title={`${recipe.name}, ${where}.${held > 0 ? ` ${counted(held, 'keyword')} it makes no more stay, since something of them is held.` : ''} Alt with ← → moves it.`}
        onClick={() => onChoose(row.id)}
        onKeyDown={(event) => {
          if (!event.altKey || (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight')) return;
          event.preventDefault();
          onMove(event.key === 'ArrowLeft' ? -1 : 1);
        }}
      >
        {!recipe.on && <Power size={13} aria-label="switched off" />}
        <span className="max-w-48 truncate">{recipe.name}</span>
        {made !== null && <span className="font-semibold">{count(made)}</span>}
        <span className="text-[12px] text-faint">{where}</span>
        {held > 0 && <span className="text-[12px] text-warning">{count(held)} held</span>}
      </button>
      {isChosen && (
        <Menu
          label={`More for ${recipe.name}`}
          className="btn btn-ghost btn-square btn-xs mr-1"
          width={270}
          items={[
            { words: 'Rename', run: onName },
            { words: 'Copy', run: () => onCopy(row) },
            { words: 'Begin new recipes like this one', run: () => onBegin(row) },
            ...(usual === null ? [] : [{ words: `Begin no more like ${usual}`, run: () => onBegin(null) }]),
            { words: recipe.on ? 'Switch off' : 'Switch on', run: () => onSwitch(row) },
            { words: 'Remove', run: onLeave },
          ]}
        >
          <Ellipsis size={14} />
        </Menu>
      )}
    </div>
  );
}

function NameSheet({
  row,
  onRename,
  onClose,
}: {
  row: RecipeRow;
  onRename: Props['onRename'];
  onClose: () => void;
}) {
  const [typed, setTyped] = useState(row.recipe.name);
  const [refusal, setRefusal] = useState<string | null>(null);
  return (
    <Dialog title="Rename the recipe" onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={async (event) => {
          event.preventDefault();
          const words = await onRename(row, typed.trim());
          if (words) setRefusal(words);
          else onClose();
        }}
      >
        <input
          autoFocus
          aria-label="Name of the recipe"
          className="input input-sm w-full"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        {refusal && (
          <p role="alert" className="text-error">
            {refusal}
          </p>
        )}
        <button type="submit" className="btn btn-primary btn-sm self-start">
          Rename
        </button>
      </form>
    </Dialog>
  );
}
