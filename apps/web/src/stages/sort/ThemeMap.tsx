import type { SortSettings } from '@sprig/contracts';
import type { Suggestion } from '@sprig/core/sort';
import { type DragEvent, type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { count, counted, short } from '../../kit/format.ts';
import type { Share } from '../../pool/sorting.ts';
import { mapPatches, type Patch } from './map-layout.ts';
import { flagsOf, flagWords, type ThemeNode, type ThemeTree } from './theme-tree.ts';

/** What is dragged over the map: a theme, or keywords by id. */
export type Dropped = { theme: number } | { keyword: number };
export const DRAGGED = 'application/x-sprig';

function droppedIn(event: DragEvent): Dropped | null {
  const [kind, id] = event.dataTransfer.getData(DRAGGED).split(':');
  const number = Number(id);
  if (!Number.isInteger(number) || number <= 0) return null;
  if (kind === 'theme') return { theme: number };
  if (kind === 'keyword') return { keyword: number };
  return null;
}

type Props = {
  tree: ThemeTree;
  open: ThemeNode | null;
  unplaced: Share;
  suggestions: readonly Suggestion[];
  settings: SortSettings;
  /** Of the keywords that the sift picks, how many each theme has of its own; null while there is no sift. */
  matches: ReadonlyMap<number, number> | null;
  onOpen: (theme: number | null) => void;
  onTake: (suggestion: Suggestion) => void;
  /** Something was let go of over a theme, or over the bare ground (null). */
  onDrop: (dropped: Dropped, theme: ThemeNode | null) => void;
  onKey: (event: KeyboardEvent, theme: ThemeNode) => void;
};

/** The themes as patches of ground, as large as what is searched: zooming in is the way about. */
export function ThemeMap(props: Props) {
  const { tree, open, unplaced, suggestions, settings, matches, onOpen, onTake, onDrop, onKey } = props;
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const watch = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  // How many of the largest themes are left out, to look at the smaller ones; of what is open alone.
  const [left, setLeft] = useState<{ of: ThemeNode | null; from: number }>({ of: null, from: 0 });
  const nodes = open?.children ?? tree.roots;
  const from = left.of?.id === open?.id && left.from < nodes.length ? left.from : 0;
  const patches = useMemo(
    () => mapPatches({ nodes, open, unplaced, suggestions, ...size, from }),
    [nodes, open, unplaced, suggestions, size, from],
  );
  const shown = patches.filter(({ kind, depth }) => kind === 'theme' && depth === 0).length;
  const move = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (step === undefined) return;
    const all = [...(box.current?.querySelectorAll<HTMLElement>('button') ?? [])];
    all[all.indexOf(document.activeElement as HTMLElement) + step]?.focus();
    event.preventDefault();
  };
  return (
    <div
      ref={box}
      className="relative min-h-0 flex-1 overflow-hidden"
      role="group"
      aria-label={open ? `Themes in ${open.name}` : 'Theme map'}
      onKeyDown={move}
    >
      {from > 0 && (
        <button
          type="button"
          className="btn btn-sm absolute top-1.5 left-1.5 z-10"
          onClick={() => setLeft({ of: open, from: 0 })}
        >
          Back to the largest of {counted(nodes.length, 'theme')}
        </button>
      )}
      {patches.map((patch) => (
        <PatchButton
          key={patch.key}
          patch={patch}
          settings={settings}
          matched={matches && patch.theme ? matchedIn(patch, matches) : null}
          onMore={() => setLeft({ of: open, from: from + shown })}
          onOpen={onOpen}
          onTake={onTake}
          onDrop={onDrop}
          onKey={onKey}
        />
      ))}
    </div>
  );
}

/** The share of a patch's keywords that the sift picks. */
function matchedIn({ kind, theme, share }: Patch, matches: ReadonlyMap<number, number>): number {
  if (!theme || share.keywords === 0) return 0;
  const count = (node: ThemeNode): number =>
    (matches.get(node.id) ?? 0) + node.children.reduce((sum, child) => sum + count(child), 0);
  return (kind === 'own' ? (matches.get(theme.id) ?? 0) : count(theme)) / share.keywords;
}

/** A narrower patch has no room for a word, nor for a margin. */
const ROOM = 34;

type PatchProps = {
  patch: Patch;
  settings: SortSettings;
  matched: number | null;
  /** Shows the smaller themes behind `more`. */
  onMore: () => void;
} & Pick<Props, 'onOpen' | 'onTake' | 'onDrop' | 'onKey'>;

function PatchButton({ patch, settings, matched, onMore, onOpen, onTake, onDrop, onKey }: PatchProps) {
  const [isOver, setOver] = useState(false);
  const { kind, x, y, width, height, depth, name, share, theme, suggestion } = patch;
  const place = { left: x, top: y, width, height };
  const catching = (onto: ThemeNode | null) => ({
    onDragOver: (event: DragEvent) => {
      if (!event.dataTransfer.types.includes(DRAGGED)) return;
      event.preventDefault();
      setOver(true);
    },
    onDragLeave: () => setOver(false),
    onDrop: (event: DragEvent) => {
      const dropped = droppedIn(event);
      setOver(false);
      if (dropped) onDrop(dropped, onto);
      event.preventDefault();
      event.stopPropagation();
    },
  });
  const over = isOver ? 'ring-2 ring-primary' : '';
  if (kind === 'unplaced')
    return (
      <div className={`ground-bare absolute rounded-md ${over}`} style={place} {...catching(null)}>
        <button
          type="button"
          className="flex w-full items-baseline gap-2 truncate px-2 text-left text-[12px] leading-5"
          onClick={() => onOpen(0)}
        >
          <b>{name}</b> <span className="text-faint">{count(share.keywords)}</span>
        </button>
      </div>
    );
  if (kind === 'suggestion' && suggestion)
    return (
      <button
        type="button"
        className={`absolute flex flex-col items-start overflow-hidden rounded-md border-[1.5px] border-primary border-dotted bg-base-100/60 text-left text-[12px] leading-[18px] hover:bg-wash ${width < ROOM ? 'p-0' : 'px-1.5'}`}
        style={place}
        title={`Take ${name}: ${counted(suggestion.keywords, 'keyword')}, ${count(suggestion.searches)} searches`}
        onClick={() => onTake(suggestion)}
      >
        <Label patch={patch} />
      </button>
    );
  if (kind === 'more' && depth === 0)
    return (
      <button
        type="button"
        className="absolute overflow-hidden rounded-md border border-hair border-dashed px-1.5 text-left text-[12px] text-faint leading-[18px] hover:border-primary"
        style={place}
        aria-label={`Show the ${name} themes`}
        title={`Show the ${name} themes: ${counted(share.keywords, 'keyword')}, ${count(share.searches)} searches`}
        onClick={onMore}
      >
        {width > 50 && height > 16 ? name : ''}
      </button>
    );
  if (kind === 'more' || (kind === 'own' && !theme))
    return (
      <div
        className={`absolute overflow-hidden px-1.5 text-[12px] text-faint leading-[18px] ${kind === 'more' ? 'rounded-md border border-hair border-dashed' : ''}`}
        style={place}
      >
        {width > 50 && height > 16 ? name : ''}
      </div>
    );
  const node = theme as ThemeNode;
  const flags = kind === 'own' ? [] : flagsOf(node, settings);
  const tone = groundOf(node);
  const padding = depth === 0 ? 'px-2 pt-px' : 'px-1.5';
  return (
    <button
      type="button"
      data-theme-id={kind === 'theme' ? node.id : undefined}
      draggable={kind === 'theme'}
      onDragStart={(event) => event.dataTransfer.setData(DRAGGED, `theme:${node.id}`)}
      {...catching(node)}
      className={`absolute flex flex-col items-start overflow-hidden rounded-md text-left text-[12px] leading-[18px] outline-offset-[-2px] ${width < ROOM ? 'p-0' : padding} ${node.idea ? 'border border-dashed' : 'border'} ${over}`}
      style={{
        ...place,
        background: `color-mix(in oklch, ${tone} ${depth === 0 ? 14 : 24}%, var(--color-base-100))`,
        borderColor: `color-mix(in oklch, ${tone} 45%, var(--color-base-100))`,
        ...(matched !== null && {
          opacity: matched > 0 ? 1 : 0.35,
          boxShadow:
            matched > 0 ? `inset 0 0 0 ${1 + Math.round(matched * 2)}px var(--color-primary)` : 'none',
        }),
      }}
      title={titleOf(patch, flags)}
      onClick={() => onOpen(node.id)}
      onKeyDown={(event) => kind === 'theme' && onKey(event, node)}
    >
      <Label patch={patch} />
      {flags.length > 0 && width > 70 && height > 38 && !hasInside(patch) && (
        <span className="text-[11px] text-warning">
          {flags.map((flag) => flagWords[flag].name).join(', ')}
        </span>
      )}
    </button>
  );
}

const hasInside = ({ depth, theme, kind }: Patch): boolean =>
  depth === 0 && kind === 'theme' && (theme?.children.some(({ sum }) => sum.all.keywords > 0) ?? false);

/** What fits: the name, then how many keywords. */
function Label({ patch: { name, share, width, height } }: { patch: Patch }) {
  if (width < ROOM || height < 15) return null;
  return (
    <span className="flex w-full min-w-0 items-baseline gap-1.5">
      <span className="truncate font-medium">{name}</span>
      {width > 84 && <span className="shrink-0 text-faint">{count(share.keywords)}</span>}
    </span>
  );
}

/** The ground of a theme: its colour, or the usual green. */
export const groundOf = ({ tone }: Pick<ThemeNode, 'tone'>): string =>
  tone === null ? 'var(--color-primary)' : `var(--ground-${tone})`;

function titleOf({ name, share, theme, kind }: Patch, flags: ReturnType<typeof flagsOf>): string {
  const what = kind === 'own' ? `${theme?.name}, not in a sub-theme` : name;
  const about = flags.map((flag) => flagWords[flag].about.toLowerCase());
  return [`${what}: ${counted(share.keywords, 'keyword')}, ${short(share.searches)} searches`, ...about].join(
    '; ',
  );
}
