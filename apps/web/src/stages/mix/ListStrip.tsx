import { useDraggable } from '@dnd-kit/core';
import type { Facts, ThemeRow, WordList } from '@sprig/contracts';
import { nextId, type Recipe, type RecipeList, withNumberForms } from '@sprig/core/mix';
import { languagePack } from '@sprig/core/text';
import { BookOpen, Ellipsis, GripVertical, Pencil, Plus, Users, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { useOpenPlan } from '../../data/plan.ts';
import { count, counted } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { Menu } from '../../kit/Menu.tsx';
import type { MixFigures, MixSummary } from '../../pool/mixing.ts';
import { AddWord } from './AddWord.tsx';
import { ListText } from './ListText.tsx';
import { freeName } from './recipe-edits.ts';
import { wordsOfTheme } from './theme-words.ts';
import type { MixCounts } from './use-counts.ts';
import type { PoolLists } from './use-pool-lists.ts';

const SHOWN_CHIPS = 80;

type Props = {
  recipe: Recipe;
  shared: readonly WordList[];
  facts: Facts;
  /** The plan's themes, for lists of their words. */
  themes: readonly ThemeRow[];
  counts: MixCounts;
  summary: MixSummary | undefined;
  idle: MixFigures['idle'];
  /** What the pool's own words give for lists. */
  pool: PoolLists;
  onDraft: (list: RecipeList, text: string | null) => void;
  onLists: (lists: RecipeList[]) => Promise<string | null>;
  /** Keeps the text or what is taken in of a list, the recipe's own or a shared one. */
  onList: (list: RecipeList, at: 'text' | 'takes', value: unknown) => Promise<string | null>;
  /** Changes the text of a list into what it makes of the newest. */
  onText: (list: RecipeList, change: (now: string) => string) => Promise<string | null>;
  onRename: (list: RecipeList, name: string) => Promise<string | null>;
  onShare: (list: RecipeList & { kind: 'own' }) => void;
  onRemove: (list: number) => void;
  onPasteColumns: () => void;
};

/** More themes than this make a menu too long to read. */
const MOST_THEMES = 30;

/** The recipe's lists side by side, each as chips and as text; they are dragged into patterns by their grip. */
export function ListStrip(props: Props) {
  const { recipe, shared, facts, themes, counts, pool, onLists, onPasteColumns } = props;
  const [editing, setEditing] = useState<number | null>(null);
  const used = new Set(recipe.lists.flatMap((list) => (list.kind === 'shared' ? [list.list] : [])));
  const facets = new Set(recipe.lists.flatMap((list) => (list.kind === 'brief' ? [list.fact] : [])));
  const id = nextId(recipe.lists);
  const add = (list: RecipeList, edit = false) => {
    void onLists([...recipe.lists, list]);
    if (edit) setEditing(list.id);
  };
  const names = counts.lists.map(({ name }) => name);
  const fromPool = (words: readonly string[]) =>
    add({ id, kind: 'own', name: freeName(nameOfWords(words), names), text: words.join('\n'), takes: [] });
  return (
    <section aria-label="Lists" className="flex shrink-0 items-stretch gap-2 border-hair border-b px-4 py-2">
      <div className="flex min-w-0 gap-2 overflow-x-auto">
        {recipe.lists.map((list) => (
          <OneList
            key={list.id}
            {...props}
            list={list}
            isEditing={editing === list.id}
            onEdit={(open) => setEditing(open ? list.id : null)}
          />
        ))}
        {recipe.lists.length === 0 && pool.lists.length > 0 && (
          <div className="flex max-w-3xl flex-wrap content-start items-center gap-1.5 text-[12.5px]">
            <span className="text-faint">Lists that the pool’s own words make:</span>
            {pool.lists.slice(0, 8).map((words) => (
              <button
                key={words.join()}
                type="button"
                className="btn btn-xs font-normal"
                title={words.join(', ')}
                onClick={() => fromPool(words)}
              >
                {words.slice(0, 3).join(', ')} … <b>{count(words.length)}</b>
              </button>
            ))}
          </div>
        )}
      </div>
      <Menu
        label="Add a list"
        className="btn btn-sm h-8"
        items={[
          {
            words: 'An empty list',
            run: () => add({ id, kind: 'own', name: freeName('List', names), text: '', takes: [] }, true),
          },
          { words: 'Paste columns of a spreadsheet', run: onPasteColumns },
          ...(['places', 'brands', 'offers'] as const).map((fact) => ({
            words: `The brief’s ${fact}`,
            hint: facets.has(fact) ? 'is here' : counted(facts[fact].length, 'entry'),
            disabled: facets.has(fact),
            run: () => add({ id, kind: 'brief', fact }),
          })),
          ...pool.lists.map((words) => ({
            words: `Of the pool: ${words.slice(0, 3).join(', ')} …`,
            hint: counted(words.length, 'entry'),
            run: () => fromPool(words),
          })),
          ...themes
            .filter(({ parent }) => parent === null)
            .slice(0, MOST_THEMES)
            .flatMap((theme) => {
              const lines = wordsOfTheme(theme, themes);
              const name = freeName(theme.name, names);
              return lines.length === 0
                ? []
                : [
                    {
                      words: `Words of the theme ${theme.name}`,
                      hint: counted(lines.length, 'entry'),
                      run: () => add({ id, kind: 'own', name, text: lines.join('\n'), takes: [] }),
                    },
                  ];
            }),
          ...shared.map((list) => ({
            words: list.name,
            hint: used.has(list.id) ? 'is here' : 'shared',
            disabled: used.has(list.id),
            run: () => add({ id, kind: 'shared', list: list.id }),
          })),
        ]}
      >
        <Plus size={14} aria-hidden /> List
      </Menu>
    </section>
  );
}

type OneProps = Props & { list: RecipeList; isEditing: boolean; onEdit: (open: boolean) => void };

function OneList(props: OneProps) {
  const { list, recipe, shared, counts, summary, idle, isEditing, onEdit, onDraft, onLists, onList, onText } =
    props;
  const { onRename, onShare, onRemove } = props;
  const head = useRef<HTMLElement>(null);
  const { setNodeRef, listeners } = useDraggable({
    id: `list ${list.id}`,
    data: { kind: 'list', list: list.id },
  });
  const resolved = counts.lists.find(({ id }) => id === list.id);
  const name = resolved?.name ?? '';
  const told = summary?.lists.find(({ id }) => id === list.id);
  const source = list.kind === 'shared' ? shared.find(({ id }) => id === list.list) : undefined;
  const own = list.kind === 'own' ? list : source;
  const text = own?.text ?? '';
  const ownProblems = (told?.problems ?? []).filter(({ line }) => line <= (resolved?.ownLines ?? 0));
  const lines = (resolved?.text ?? '').split('\n').filter((line) => line.trim() !== '');
  const ownLines = text.split('\n');
  const idleOne = idle.find((one) => one.list === list.id);
  // Of what the list holds by then: the next word may come before this one is drawn.
  const withWords = (words: readonly string[]) =>
    onText(list, (now) => [now, ...words].filter((part) => part !== '').join('\n'));
  const without = (line: string) =>
    onText(list, (now) => {
      const lines = now.split('\n');
      return lines.includes(line) ? lines.toSpliced(lines.indexOf(line), 1).join('\n') : now;
    });
  const { language } = useOpenPlan().brief;
  const addNumbers = async () => {
    const pack = languagePack(language);
    if (pack.code !== language)
      return void toast.error(`Plurals are known in ${pack.name} only, and the brief says another language.`);
    const { added, without: none } = withNumberForms(text, pack);
    const refusal = added > 0 ? await onText(list, (now) => withNumberForms(now, pack).text) : null;
    if (refusal) return void toast.error(refusal);
    toast(
      `${counted(added, 'word')} of ${name} got ${added === 1 ? 'its' : 'their'} plural or singular${none > 0 ? `; ${counted(none, 'word')} ${none === 1 ? 'has' : 'have'} none that is known` : ''}.`,
    );
  };
  return (
    <article
      aria-label={`List ${name}`}
      className="relative flex h-[152px] w-[208px] shrink-0 flex-col rounded-md bg-base-200"
    >
      <header ref={head} className="flex h-8 shrink-0 items-center gap-1 pr-1 pl-0.5">
        <span
          ref={setNodeRef}
          {...listeners}
          className="grid h-7 w-5 cursor-grab touch-none place-items-center text-faint"
          title={`Drag ${name} into a pattern`}
          data-grip={name}
        >
          <GripVertical size={14} aria-hidden />
        </span>
        {list.kind === 'shared' && <Users size={13} className="shrink-0 text-info" aria-label="shared" />}
        {list.kind === 'brief' && (
          <BookOpen size={13} className="shrink-0 text-info" aria-label="from the brief" />
        )}
        <span className="min-w-0 flex-1 font-semibold">
          {list.kind === 'brief' ? (
            <span className="px-1">{name}</span>
          ) : (
            <InlineEdit
              tabStop
              label={`Name of ${name}`}
              shown={name}
              text={name}
              onKeep={(typed) => onRename(list, typed.trim())}
            />
          )}
        </span>
        <b className="text-[12.5px] text-faint" title={`${count(counts.sizeOf(list.id))} words take part`}>
          {count(counts.sizeOf(list.id))}
        </b>
        {list.kind !== 'brief' && (
          <button
            type="button"
            className="btn btn-ghost btn-square btn-xs"
            aria-label={`Edit ${name} as text`}
            title="Edit as text"
            onClick={() => onEdit(!isEditing)}
          >
            <Pencil size={13} />
          </button>
        )}
        <MoreMenu
          name={name}
          isOwn={list.kind === 'own'}
          onNumbers={own ? () => void addNumbers() : null}
          onShare={() => list.kind === 'own' && onShare(list)}
          onOwn={() =>
            void onLists(
              recipe.lists.map((one) =>
                one.id === list.id
                  ? { id: list.id, kind: 'own', name, text: resolved?.text ?? '', takes: [] }
                  : one,
              ),
            )
          }
          onRemove={() => onRemove(list.id)}
        />
      </header>
      <div className="flex min-h-0 flex-1 flex-wrap content-start gap-1 overflow-y-auto px-1.5 pb-1.5 text-[12.5px]">
        {lines.slice(0, SHOWN_CHIPS).map((line, at) => (
          <Line
            // biome-ignore lint/suspicious/noArrayIndexKey: the same line may come twice while one types
            key={`${line} ${at}`}
            line={line}
            list={name}
            onRemove={own !== undefined && ownLines.includes(line) ? () => void without(line) : null}
          />
        ))}
        {lines.length > SHOWN_CHIPS && (
          <button type="button" className="text-faint hover:underline" onClick={() => onEdit(true)}>
            and {count(lines.length - SHOWN_CHIPS)} more
          </button>
        )}
        {own && (
          <AddWord
            name={name}
            onAdd={withWords}
            fitting={() => props.pool.fitting(lines.map((line) => (line.split('|')[0] ?? '').trim()))}
          />
        )}
        {list.kind === 'brief' && lines.length === 0 && (
          <span className="px-1 text-faint">
            The brief has none yet. Write them there, and they come here.
          </span>
        )}
      </div>
      <ListFoot
        isCircle={Boolean(resolved?.circle)}
        problems={ownProblems.length}
        idle={idleOne ?? null}
        onEdit={() => onEdit(true)}
      />
      {isEditing && own && (
        <ListText
          name={name}
          text={text}
          takes={own.takes}
          takable={shared.filter(({ id }) => id !== source?.id)}
          problems={ownProblems}
          repeated={told?.repeated ?? 0}
          marked={told?.marked ?? 0}
          note={source ? usedIn(source) : null}
          onDraft={(typed) => onDraft(list, typed)}
          onKeep={async (typed) => {
            const refusal = await onList(list, 'text', typed);
            if (!refusal) onDraft(list, null);
            return refusal;
          }}
          onTakes={(takes) => onList(list, 'takes', takes)}
          under={head}
          onClose={() => {
            onDraft(list, null);
            onEdit(false);
          }}
        />
      )}
    </article>
  );
}

/** Where a shared list is used, as one reads it before changing it. */
export function usedIn({ recipes, lists, otherPlans }: WordList): string {
  const parts = [
    ...(recipes.length > 0 ? [recipes.join(', ')] : []),
    ...(lists.length > 0 ? [`the list${lists.length > 1 ? 's' : ''} ${lists.join(', ')}`] : []),
    ...(otherPlans > 0 ? [counted(otherPlans, 'other plan')] : []),
  ];
  return parts.length === 0
    ? 'Shared; used nowhere yet.'
    : `Shared; what changes here changes in ${parts.join(', ')}.`;
}

/** A list is called by its first word until it gets a name. */
const nameOfWords = (words: readonly string[]): string => {
  const [first = 'List'] = words;
  return first.slice(0, 1).toUpperCase() + first.slice(1, 24);
};

type LineProps = {
  line: string;
  list: string /** Null: it is not of the list itself. */;
  onRemove: (() => void) | null;
};

/** An entry of a list with its forms. */
const Line = ({ line, list, onRemove }: LineProps) => (
  <span
    className={`group inline-flex max-w-full items-center rounded bg-base-100 pl-1.5 leading-[20px] ${onRemove ? '' : 'pr-1.5 text-faint'}`}
  >
    <span className="truncate">
      {line
        .split('|')
        .map((form) => form.trim())
        .join(' | ')}
    </span>
    {onRemove && (
      <button
        type="button"
        tabIndex={-1}
        className="px-0.5 text-faint hover:text-error"
        aria-label={`Take ${line} out of ${list}`}
        onClick={onRemove}
      >
        <X size={11} />
      </button>
    )}
  </span>
);

type MenuProps = {
  name: string;
  isOwn: boolean;
  /** Gives each word its plural or singular; null: its words are not here to be changed. */
  onNumbers: (() => void) | null;
  onShare: () => void;
  onOwn: () => void;
  onRemove: () => void;
};

const MoreMenu = ({ name, isOwn, onNumbers, onShare, onOwn, onRemove }: MenuProps) => (
  <Menu
    label={`More for ${name}`}
    className="btn btn-ghost btn-square btn-xs"
    items={[
      ...(onNumbers ? [{ words: 'Give each word its plural or singular', run: onNumbers }] : []),
      isOwn
        ? { words: 'Share with all recipes and plans', run: onShare }
        : { words: 'Make it this recipe’s own', run: onOwn },
      { words: 'Take it out of the recipe', run: onRemove },
    ]}
  >
    <Ellipsis size={14} />
  </Menu>
);

type FootProps = {
  isCircle: boolean;
  /** Lines that can't be used as they are. */
  problems: number;
  /** What of the list hardly anybody searches for. */
  idle: { idle: number; entries: number; sample: readonly string[] } | null;
  onEdit: () => void;
};

/** What is to be mended in a list, or hardly searched for. */
function ListFoot({ isCircle, problems, idle, onEdit }: FootProps) {
  if (!isCircle && problems === 0 && !idle) return null;
  const unsearched = idle && `${count(idle.idle)} of ${counted(idle.entries, 'word')} hardly searched`;
  const toMend = problems > 0 ? `${counted(problems, 'line')} to mend` : unsearched;
  return (
    <button
      type="button"
      className={`truncate border-hair border-t px-2 py-0.5 text-left text-[12px] ${isCircle || problems > 0 ? 'text-error' : 'text-warning'}`}
      title={
        idle && problems === 0
          ? `Under 10 searches a month in all their combinations: ${idle.sample.join(', ')}`
          : undefined
      }
      onClick={onEdit}
    >
      {isCircle ? 'takes itself in: makes nothing' : toMend}
    </button>
  );
}
