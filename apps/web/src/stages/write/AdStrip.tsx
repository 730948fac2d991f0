import { textOf } from '@sprig/core/ship';
import { type AdField, adFields } from '@sprig/core/write';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { Remote } from 'comlink';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useMemo, useRef } from 'react';
import { toast } from 'sonner';
import { count } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { Tie } from '../../kit/marks.tsx';
import { type RowSource, useRows } from '../../kit/row-source.ts';
import type { PoolWorker, WrittenGroup } from '../../pool/worker.ts';
import { fieldNames } from './field-names.ts';

type Props = {
  worker: Remote<PoolWorker>;
  version: string;
  total: number;
  misfits: number;
  place: number;
  onPlace: (place: number) => void;
  site: string;
  onHold: (group: string, field: AdField, text: string) => Promise<string | null>;
  onLetGo: (group: string, field: AdField) => Promise<string | null>;
};

const WIDTH = 348;
type Placed = { place: number; group: WrittenGroup };

/** The ads as a searcher would read them, one group after another; those that do not fit come first. */
export function AdStrip({ worker, version, total, misfits, place, onPlace, site, onHold, onLetGo }: Props) {
  const strip = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    horizontal: true,
    count: total,
    getScrollElement: () => strip.current,
    estimateSize: () => WIDTH,
    overscan: 3,
  });
  const items = virtual.getVirtualItems();
  const from = items[0]?.index ?? 0;
  const to = (items.at(-1)?.index ?? -1) + 1;
  const ids = useMemo(() => Uint32Array.from({ length: total }, (_, at) => at), [total]);
  const source = useMemo<RowSource<Placed, number>>(() => {
    const fetchPage = async (places: number[]) => {
      const first = places[0] ?? 0;
      return (await worker.ads(first, (places.at(-1) ?? 0) + 1)).map((group, at) => ({
        place: first + at,
        group,
      }));
    };
    return { ids, version, loading: false, fetchPage, fetchAll: fetchPage, keyOf: (row) => row.place };
  }, [ids, version, worker]);
  const rows = useRows(source, from, to);

  // Only the strip itself moves with the place.
  const scroll = virtual.scrollToIndex;
  useEffect(() => scroll(place, { align: 'auto' }), [place, scroll]);

  return (
    <section aria-label="Ads as they read" className="flex min-h-0 flex-1 flex-col bg-base-200/60">
      <div className="flex h-10 shrink-0 items-center gap-2 px-4">
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
          <span className="text-error">The first {count(misfits)} do not fit</span>
        ) : (
          total > 0 && <span className="text-faint">All fit; most searched first</span>
        )}
        {misfits > 0 && misfits < total && (
          <button
            type="button"
            className="btn btn-ghost btn-xs font-normal"
            onClick={() => onPlace(place < misfits ? misfits : 0)}
          >
            {place < misfits ? 'Go to those that fit' : 'Back to the misfits'} <span className="key">m</span>
          </button>
        )}
      </div>
      <div ref={strip} className="min-h-0 flex-1 overflow-x-auto overflow-y-auto px-4 pb-3" tabIndex={0}>
        <div className="relative h-full min-h-56" style={{ width: virtual.getTotalSize() }}>
          {items.map(({ index, start }) => (
            <div
              key={index}
              className="absolute inset-y-0 pr-3"
              style={{ width: WIDTH, transform: `translateX(${start}px)` }}
            >
              <AdAsRead
                row={rows[index - from]?.group}
                isChosen={index === place}
                onChoose={() => onPlace(index)}
                site={site}
                onHold={onHold}
                onLetGo={onLetGo}
              />
            </div>
          ))}
        </div>
      </div>
    </section>
  );
}

type AdProps = {
  row: WrittenGroup | undefined;
  isChosen: boolean;
  onChoose: () => void;
  site: string;
} & Pick<Props, 'onHold' | 'onLetGo'>;

function AdAsRead({ row, isChosen, onChoose, site, onHold, onLetGo }: AdProps) {
  if (!row) return <div className="h-full rounded-md border border-hair bg-base-100" />;
  const { key, keyword, name, searches, misfit, ad } = row;
  const host = site
    .trim()
    .replace(/^https?:\/\//i, '')
    .replace(/\/.*$/, '');
  const field = (at: AdField, look: string) => {
    const fit = ad.fit.fields[at];
    const text = textOf(fit);
    const bad = fit.status === 'unfilled';
    if (fit.status === 'empty') return null;
    return (
      <span key={at} className={`inline-flex max-w-full items-center ${look}`}>
        <InlineEdit
          label={`${fieldNames[at]} of ${name}`}
          shown={
            <span
              className={`whitespace-normal ${bad ? 'text-error underline decoration-wavy decoration-1' : ''}`}
            >
              {text || `${fieldNames[at]} is unfilled`}
            </span>
          }
          text={text}
          wide
          onKeep={(typed) => onHold(key, at, typed)}
        />
        {ad.covered?.[at] !== undefined && (
          <Tie
            rule={`“${ad.covered[at]}”`}
            onLetGo={() => void onLetGo(key, at).then((words) => words && toast.error(words))}
          />
        )}
      </span>
    );
  };
  const paths = (['path1', 'path2'] as const).map((at) => textOf(ad.fit.fields[at])).filter(Boolean);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: j and k choose by keyboard
    <article
      aria-label={`Ad of ${name}`}
      data-misfit={misfit}
      className={`flex h-full max-h-80 flex-col rounded-md border bg-base-100 ${isChosen ? 'border-primary ring-1 ring-primary' : misfit ? 'border-error/60' : 'border-hair'}`}
      onClick={onChoose}
    >
      <header className="flex items-baseline justify-between gap-2 border-base-200 border-b px-3 py-1.5 text-[12px] text-faint">
        <span className="truncate">for “{keyword}”</span>
        <span className="shrink-0">{count(searches)} searches</span>
      </header>
      <div className="flex min-h-0 flex-1 flex-col gap-1 overflow-auto px-3 py-2.5">
        <p className="text-[13px] text-faint">{[host || 'no site yet', ...paths].join(' / ')}</p>
        <p className="font-semibold text-[16px] leading-6">
          {adFields.slice(0, 3).map((at) => (
            <span key={at} className="block">
              {field(at, '')}
            </span>
          ))}
        </p>
        <p className="mt-1 text-[13.5px] leading-5">{adFields.slice(3, 5).map((at) => field(at, 'block'))}</p>
      </div>
      <footer className="truncate border-base-200 border-t px-3 py-1 text-[12px] text-faint">
        {ad.fit.finalUrl.status === 'fits' ? (
          `leads to ${ad.fit.finalUrl.text}`
        ) : (
          <span className="text-error">
            No sound final URL. Set the plan's site, or write the address out.
          </span>
        )}
      </footer>
    </article>
  );
}
