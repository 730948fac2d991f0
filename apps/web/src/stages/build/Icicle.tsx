import type { CampaignRow, GroupPage } from '@sprig/contracts';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { count, counted, estimate } from '../../kit/format.ts';
import { type Block, icicleLayout, spread } from './icicle-layout.ts';
import type { Measure } from './use-build.ts';

type Props = {
  campaigns: readonly CampaignRow[];
  by: Measure;
  /** A day's cost by campaign and ad group. */
  costs: ReadonlyMap<string, number>;
  currency: string;
  /** How a day that is forecast is called. */
  day: string;
  /** The campaign or ad group that is open. */
  at: string | null;
  zoom: string | null;
  page: GroupPage | null;
  onOpen: (key: string) => void;
  onZoom: (campaign: string | null) => void;
};

/** The way about in what is built: campaigns, their ad groups and the keywords of the one that is open, by size. */
export function Icicle({ campaigns, by, costs, currency, day, at, zoom, page, onOpen, onZoom }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1_240);
  useEffect(() => {
    if (!box.current) return;
    const watch = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 1_240));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  const layout = useMemo(
    () =>
      icicleLayout({
        campaigns,
        measureOf: (one) => (by === 'cost' ? (costs.get(one.key) ?? 0) : one[by]),
        zoom,
        width,
      }),
    [campaigns, by, costs, zoom, width],
  );
  const words = (value: number) =>
    by === 'cost'
      ? `${estimate(value, currency)} ${day}`
      : counted(Math.round(value), by === 'searches' ? 'search' : 'keyword').replace('searchs', 'searches');
  const keywords = useMemo(() => keywordBlocks(page, width), [page, width]);
  const rows = [layout.campaigns, layout.groups];
  const home = at ?? layout.campaigns[0]?.key;
  const open = (block: Block) => {
    if (block.kind === 'rest') onZoom(zoom === block.campaign ? null : block.campaign);
    else onOpen(block.key);
  };
  const onKey = (event: KeyboardEvent, block: Block, row: number) => {
    const list = rows[row] ?? [];
    const place = list.indexOf(block);
    const next =
      event.key === 'ArrowRight'
        ? list[place + 1]
        : event.key === 'ArrowLeft'
          ? list[place - 1]
          : event.key === 'ArrowDown' && row === 0
            ? layout.groups.find((one) => one.campaign === block.key)
            : event.key === 'ArrowUp' && row === 1
              ? layout.campaigns.find((one) => one.key === block.campaign)
              : event.key === 'Home'
                ? list[0]
                : event.key === 'End'
                  ? list.at(-1)
                  : undefined;
    if (event.key === 'z') onZoom(zoom === block.campaign ? null : block.campaign);
    else if (event.key === 'Escape' && zoom) onZoom(null);
    else if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    if (next) {
      box.current?.querySelector<HTMLElement>(`[data-block="${CSS.escape(next.key)}"]`)?.focus();
      if (next.kind !== 'rest') onOpen(next.key);
    }
  };
  return (
    <div
      ref={box}
      role="group"
      aria-label="Campaigns and ad groups by size"
      className="relative h-[116px] shrink-0"
    >
      {rows.map((list, row) =>
        list.map((block) => (
          <button
            key={block.key}
            type="button"
            data-block={block.key}
            tabIndex={block.key === home ? 0 : -1}
            aria-current={block.key === at ? 'true' : undefined}
            title={`${block.name}: ${words(block.value)}`}
            aria-label={`${block.kind === 'campaign' ? 'Campaign' : block.kind === 'rest' ? '' : 'Ad group'} ${block.name}, ${words(block.value)}`.trim()}
            className={`absolute flex flex-col justify-center overflow-hidden rounded-[3px] px-1.5 text-left leading-4 ${lookOf(block, at, campaigns)}`}
            style={{
              left: block.x,
              width: block.width,
              top: row === 0 ? 0 : 30,
              height: row === 0 ? 27 : 52,
            }}
            onClick={() => open(block)}
            onDoubleClick={() => onZoom(zoom === block.campaign ? null : block.campaign)}
            onKeyDown={(event) => onKey(event, block, row)}
          >
            {block.width > 34 && <span className="truncate text-[12px]">{block.name}</span>}
            {block.width > 58 && row === 1 && (
              <span className="truncate text-[11px]">
                {by === 'cost' ? estimate(block.value, currency) : count(Math.round(block.value))}
              </span>
            )}
          </button>
        )),
      )}
      {keywords.map(({ text, x, width: own, searches }) => (
        <span
          key={text}
          title={`${text}: ${count(searches)} searches`}
          className="absolute overflow-hidden truncate rounded-[3px] bg-base-200 px-1 text-[11px] text-faint leading-[22px]"
          style={{ left: x, width: own, top: 85, height: 24 }}
        >
          {own > 40 ? text : ''}
        </span>
      ))}
    </div>
  );
}

function lookOf(block: Block, at: string | null, campaigns: readonly CampaignRow[]): string {
  const isPaused = campaigns.find(({ key }) => key === block.campaign)?.status === 'paused';
  if (block.key === at) return 'bg-primary text-primary-content';
  if (block.kind === 'rest') return 'border border-hair border-dashed text-faint';
  if (block.kind === 'campaign') return `bg-base-300 font-semibold ${isPaused ? 'opacity-60' : ''}`;
  return `bg-wash hover:ring-1 hover:ring-primary ${isPaused ? 'opacity-60' : ''}`;
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
