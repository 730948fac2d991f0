import type { WrittenAd } from '@sprig/core/ads';
import type { Cure, VersionName } from '@sprig/core/write';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useMemo, useRef } from 'react';
import { useOpenPlan } from '../../data/plan.ts';
import { count, counted } from '../../kit/format.ts';
import { type RowSource, useRows } from '../../kit/table/row-source.ts';
import { ResultLine } from '../../plan/results/ResultLine.tsx';
import { useResults } from '../../plan/results/use-results.ts';
import type { WriteGroup } from '../../pool/pattern-fits.ts';
import { AdCard } from './AdCard.tsx';
import { fieldName } from './field-names.ts';
import { useAdWriter, type WritingState } from './use-writing.ts';

type Props = {
  writing: WritingState;
  place: number;
  onPlace: (place: number) => void;
  /** Goes up when the order is made anew. */
  ordered: number;
  onNextMisfit: () => void;
  onMisfitsFirst: () => void;
  version: VersionName;
  /** What would fill the field that most misfits are unfilled in. */
  cures: { field: string; list: Cure[] } | null;
  onCure: (at: number) => void;
  onHold: (ad: string, field: string, text: string) => Promise<string | null>;
  onLetGo: (ad: string, field: string) => Promise<string | null>;
};

const WIDTH = 348;
type Placed = { place: number; group: WriteGroup };

/** The ads of the chosen pattern as they read, one group after another; those that do not fit come first. */
export function AdStrip({
  writing,
  place,
  onPlace,
  ordered,
  onNextMisfit,
  onMisfitsFirst,
  version,
  cures,
  onCure,
  onHold,
  onLetGo,
}: Props) {
  const { pool, fit, chosen, input, asked } = writing;
  const strip = useRef<HTMLDivElement>(null);
  const total = fit?.chosen.groups ?? 0;
  const misfits = fit?.chosen.misfits ?? 0;
  const short = fit?.chosen.short ?? 0;
  const orders = fit?.ordered;
  const virtual = useVirtualizer({
    horizontal: true,
    count: total,
    getScrollElement: () => strip.current,
    estimateSize: () => WIDTH,
    overscan: 2,
  });
  const items = virtual.getVirtualItems();
  const from = items[0]?.index ?? 0;
  const to = (items.at(-1)?.index ?? -1) + 1;
  const ids = useMemo(() => Uint32Array.from({ length: total }, (_, at) => at), [total]);
  const { worker } = pool;
  const source = useMemo<RowSource<Placed, number>>(() => {
    const fetchPage = async (places: number[]) => {
      const first = places[0] ?? 0;
      return (await worker.writeGroups(first, (places.at(-1) ?? 0) + 1)).map((group, at) => ({
        place: first + at,
        group,
      }));
    };
    const seen = `${asked}:${misfits}:${total}:${orders}:${ordered}`;
    return { ids, version: seen, loading: false, fetchPage, fetchAll: fetchPage, keyOf: (row) => row.place };
  }, [ids, asked, misfits, total, orders, ordered, worker]);
  const rows = useRows(source, from, to);
  const plan = useOpenPlan();
  const writer = useAdWriter(writing);
  const ads = useMemo(() => {
    const made = new Map<string, WrittenAd[]>();
    for (const row of rows) if (row && writer) made.set(row.group.key, writer.writer.of(row.group).ads);
    return made;
  }, [rows, writer]);

  const shown = useMemo(
    () =>
      [...ads.values()].flatMap(
        (own) => own.find((ad) => ad.pattern === chosen && ad.version === version)?.key ?? [],
      ),
    [ads, chosen, version],
  );
  const { figures, of } = useResults(plan, 'ad', shown);

  // Only the strip itself moves with the place.
  const scroll = virtual.scrollToIndex;
  useEffect(() => scroll(place, { align: 'auto' }), [place, scroll]);

  return (
    <section aria-label="Ads as they read" className="flex min-h-0 min-w-0 flex-1 flex-col bg-base-200/60">
      <StripBar
        place={place}
        total={total}
        misfits={misfits}
        short={short}
        cures={cures}
        onPlace={onPlace}
        onNextMisfit={onNextMisfit}
        onMisfitsFirst={onMisfitsFirst}
        onCure={onCure}
      />
      <div ref={strip} className="min-h-0 flex-1 overflow-x-auto overflow-y-auto px-4 pb-3" tabIndex={0}>
        <div className="relative h-full min-h-56" style={{ width: virtual.getTotalSize() }}>
          {items.map(({ index, start }) => {
            const group = rows[index - from]?.group;
            const own = group ? ads.get(group.key) : undefined;
            const ad = own?.find((one) => one.pattern === chosen && one.version === version);
            return (
              <div
                key={index}
                className="absolute inset-y-0 pr-3"
                style={{ width: WIDTH, transform: `translateX(${start}px)` }}
              >
                {group ? (
                  <AdCard
                    group={group}
                    ad={ad}
                    adsInGroup={own?.length ?? 0}
                    isChosen={index === place}
                    onChoose={() => onPlace(index)}
                    site={input?.site ?? ''}
                    onHold={onHold}
                    onLetGo={onLetGo}
                    results={<ResultLine figures={ad ? figures : []} results={of.get(ad?.key ?? '')} />}
                  />
                ) : (
                  <div className="h-full rounded-md border border-hair bg-base-100" />
                )}
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}

type BarProps = Pick<Props, 'place' | 'cures' | 'onPlace' | 'onNextMisfit' | 'onMisfitsFirst' | 'onCure'> & {
  total: number;
  misfits: number;
  short: number;
};

/** Which ad is in view, how many do not fit, and lines that would. */
function StripBar(props: BarProps) {
  const { place, total, misfits, short, cures, onPlace, onNextMisfit, onMisfitsFirst, onCure } = props;
  return (
    <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-2 px-4">
      <button
        type="button"
        className="btn btn-ghost btn-square btn-xs"
        aria-label="Previous ad"
        disabled={place === 0}
        onClick={() => onPlace(place - 1)}
      >
        <ChevronLeft size={15} />
      </button>
      <span>
        Ad {count(Math.min(place + 1, total))} of {count(total)}
      </span>
      <button
        type="button"
        className="btn btn-ghost btn-square btn-xs"
        aria-label="Next ad"
        disabled={place >= total - 1}
        onClick={() => onPlace(place + 1)}
      >
        <ChevronRight size={15} />
      </button>
      {misfits > 0 ? (
        <>
          <span className="text-error">
            {misfits === 1 ? '1 does not fit' : `${count(misfits)} do not fit`}
          </span>
          <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={onNextMisfit}>
            Next misfit <span className="key">n</span>
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-xs font-normal"
            title="Put those that do not fit to the front again"
            onClick={onMisfitsFirst}
          >
            To the front <span className="key">m</span>
          </button>
        </>
      ) : (
        total > 0 && <span className="text-faint">All fit</span>
      )}
      {short > 0 && (
        <span
          className="text-warning"
          title="A headline or description is filled with less than half of its room; they stand before the others"
        >
          {counted(short, 'short one')}
        </span>
      )}
      {cures && cures.list.length > 0 && (
        <span className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Lines that would fit">
          <span className="text-faint">{fieldName(cures.field)}, add</span>
          {cures.list.map(({ line, fits, of }, at) => (
            <button
              key={line}
              type="button"
              className="btn btn-xs font-normal"
              title={`Adding this line to ${fieldName(cures.field)} would fit ${count(fits)} of ${count(of)}`}
              onClick={() => onCure(at)}
            >
              <span className="token-line">{line}</span>
              <span className="text-faint">
                fits {count(fits)} of {count(of)}
              </span>
              <span className="key">{at + 1}</span>
            </button>
          ))}
        </span>
      )}
    </div>
  );
}
