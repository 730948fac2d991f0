import type { CampaignRow, GroupPage } from '@sprig/contracts';
import { type KeyboardEvent, useMemo, useRef } from 'react';
import { count, counted, estimate } from '../../kit/format.ts';
import { useWidth } from '../../kit/use-width.ts';
import { type Block, icicleLayout, spread } from './icicle-layout.ts';
import type { SizeNode } from './size-tree.ts';
import type { Measure } from './use-build.ts';

type Props = {
  top: readonly SizeNode[];
  campaigns: readonly CampaignRow[];
  by: Measure;
  currency: string;
  /** How a day that is forecast is called. */
  day: string;
  /** The campaign or ad group that is open. */
  at: string | null;
  /** The key of what fills the width; null: all of it. */
  zoom: string | null;
  /** The way down to it; empty: it is gone, or nothing is. */
  way: readonly SizeNode[];
  /** The ad groups that are looked for; null: none is. */
  found: ReadonlySet<string> | null;
  page: GroupPage | null;
  onOpen: (key: string) => void;
  onZoom: (key: string | null) => void;
};

/** The tops and heights of its rows: campaigns, what they hold, ad groups. */
const ROWS = [
  { top: 0, height: 25 },
  { top: 28, height: 24 },
  { top: 55, height: 40 },
] as const;
const KEYWORDS_TOP = 98;
const KEYWORDS_HEIGHT = 22;

/** The way about in what is built: campaigns, their themes, ad groups, and the keywords of the one that is open, by size. */
export function Icicle({
  top,
  campaigns,
  by,
  currency,
  day,
  at,
  zoom,
  way,
  found,
  page,
  onOpen,
  onZoom,
}: Props) {
  const box = useRef<HTMLDivElement>(null);
  const buttons = useRef(new Map<string, HTMLButtonElement>());
  const width = useWidth(box, 1_240);
  const shown = way.at(-1);
  const blocks = useMemo(() => icicleLayout(shown ? [shown] : top, width), [shown, top, width]);
  const marks = useMemo(() => marksOf(blocks, at, found), [blocks, at, found]);
  const words = (value: number) =>
    by === 'cost'
      ? `${estimate(value, currency)} ${day}`
      : counted(Math.round(value), by === 'searches' ? 'search' : 'keyword');
  const keywords = useMemo(() => keywordBlocks(page, width), [page, width]);
  const home = (blocks.find(({ key }) => marks.get(key)?.isOpen) ?? blocks[0])?.key;
  const isWhole = ({ kind }: Block) => kind === 'campaign' || kind === 'group';
  const zoomInto = (block: Block) => {
    const isZoomed = block.node.key === shown?.key;
    onZoom(isZoomed ? (way.at(-2)?.key ?? null) : block.node.key);
  };
  const open = (block: Block) => (isWhole(block) ? onOpen(block.key) : zoomInto(block));
  const onKey = (event: KeyboardEvent, block: Block) => {
    const next = nextBlock(blocks, block, event.key);
    if (event.key === 'z' && block.kind !== 'group') zoomInto(block);
    else if (event.key === 'Escape' && zoom) onZoom(way.at(-2)?.key ?? null);
    else if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    if (!next) return;
    buttons.current.get(next.key)?.focus();
    if (isWhole(next)) onOpen(next.key);
  };
  return (
    <div
      ref={box}
      role="group"
      aria-label="Campaigns and ad groups by size"
      className="relative shrink-0 overflow-hidden"
      style={{ height: KEYWORDS_TOP + KEYWORDS_HEIGHT }}
    >
      {blocks.map((block) => {
        const { key, name, row, rows, x, width: own, value } = block;
        const mark = marks.get(key);
        const { top: y } = ROWS[row] as (typeof ROWS)[number];
        const last = ROWS[row + rows - 1] as (typeof ROWS)[number];
        return (
          <button
            key={key}
            type="button"
            ref={(button) => {
              if (button) buttons.current.set(key, button);
              else buttons.current.delete(key);
            }}
            tabIndex={key === home ? 0 : -1}
            aria-current={key === at ? 'true' : undefined}
            title={`${titleOf(block)}: ${words(value)}`}
            aria-label={`${titleOf(block)}, ${words(value)}`}
            className={`absolute flex flex-col justify-center overflow-hidden rounded-[3px] text-left leading-4 ${own > 20 ? 'px-1.5' : ''} ${lookOf(block, mark, campaigns)}`}
            style={{ left: x, width: own, top: y, height: last.top + last.height - y }}
            onClick={() => open(block)}
            onDoubleClick={() => zoomInto(block)}
            onKeyDown={(event) => onKey(event, block)}
          >
            {own > 34 && <span className="truncate text-[12px]">{name}</span>}
            {own > 58 && row + rows === ROWS.length && (
              <span className="truncate text-[11px]">
                {by === 'cost' ? estimate(value, currency) : count(Math.round(value))}
              </span>
            )}
          </button>
        );
      })}
      {keywords.map(({ text, x, width: own, searches }) => (
        <span
          key={text}
          title={`${text}: ${count(searches)} searches`}
          className="absolute overflow-hidden truncate rounded-[3px] bg-base-200 px-1 text-[11px] text-faint leading-[20px]"
          style={{ left: x, width: own, top: KEYWORDS_TOP, height: KEYWORDS_HEIGHT }}
        >
          {own > 40 ? text : ''}
        </span>
      ))}
    </div>
  );
}

/** The block that an arrow leads to: beside it in its row, down to what it holds, up to what holds it. */
function nextBlock(blocks: readonly Block[], from: Block, key: string): Block | undefined {
  const row = blocks.filter((one) => one.row === from.row);
  const at = row.indexOf(from);
  const middle = from.x + from.width / 2;
  const over = (one: Block) => one.x <= middle && middle <= one.x + one.width + 1;
  switch (key) {
    case 'ArrowRight':
      return row[at + 1];
    case 'ArrowLeft':
      return row[at - 1];
    case 'ArrowDown':
      return blocks.find(
        (one) => one.row === from.row + 1 && one.x >= from.x - 1 && one.x < from.x + from.width,
      );
    case 'ArrowUp':
      return blocks.find((one) => one.row === from.row - 1 && over(one));
    case 'Home':
      return row[0];
    case 'End':
      return row.at(-1);
    default:
      return undefined;
  }
}

type Mark = { isOpen: boolean; holdsOpen: boolean; found: number | null };

/** What of each block is open or looked for. */
function marksOf(
  blocks: readonly Block[],
  at: string | null,
  found: ReadonlySet<string> | null,
): ReadonlyMap<string, Mark> {
  return new Map(
    blocks.map(({ key, node, kind }) => [
      key,
      {
        isOpen: key === at,
        holdsOpen: kind !== 'rest' && node.groups.some((group) => group.key === at),
        found: found && node.groups.reduce((sum, group) => sum + (found.has(group.key) ? 1 : 0), 0),
      },
    ]),
  );
}

function titleOf({ kind, name, groups }: Block): string {
  if (kind === 'campaign') return `Campaign ${name}`;
  if (kind === 'group') return `Ad group ${name}`;
  return kind === 'rest' ? name : `${name}, ${counted(groups, 'ad group')}`;
}

function lookOf({ kind, node }: Block, mark: Mark | undefined, campaigns: readonly CampaignRow[]): string {
  const isPaused = campaigns.find(({ key }) => key === node.campaign)?.status === 'paused';
  const paused = isPaused ? 'opacity-60' : '';
  const dim = mark?.found === 0 ? 'opacity-40' : paused;
  const ring = mark?.found ? 'ring-1 ring-primary' : '';
  if (mark?.isOpen) return `bg-primary text-primary-content ${dim}`;
  if (kind === 'rest' || kind === 'part')
    return `border border-dashed text-faint hover:border-primary ${mark?.holdsOpen ? 'border-primary' : 'border-hair'} ${dim} ${ring}`;
  if (kind === 'campaign') return `bg-base-300 font-semibold ${dim} ${ring}`;
  if (kind === 'theme')
    return `bg-base-200 ${mark?.holdsOpen ? 'font-semibold' : ''} hover:ring-1 hover:ring-primary ${dim} ${ring}`;
  return `bg-wash hover:ring-1 hover:ring-primary ${dim} ${ring}`;
}

/** The keywords of the open group, by their searches. */
function keywordBlocks(page: GroupPage | null, width: number) {
  if (!page) return [];
  const seen = new Map<string, number>();
  for (const { text, searches } of page.rows) if (!seen.has(text)) seen.set(text, searches ?? 0);
  const list = [...seen].slice(0, 60);
  const places = spread(
    list.map(([, searches]) => searches),
    0,
    width,
  );
  return list.flatMap(([text, searches], at) => {
    const { x, width: own } = places[at] as { x: number; width: number };
    return own < 2 ? [] : [{ text, searches, x, width: own }];
  });
}
