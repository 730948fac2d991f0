import type { Source } from '@sprig/contracts';
import { scaleLinear } from 'd3';
import { count, short } from '../../kit/format.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';

const SETS = 8;

/** What each source brings, and which sources bring the same: a row a set, a dot for each of its sources. */
export function SourcesPicture({ sources }: { sources: Source[] }) {
  const pool = usePool();
  const { data } = useWorked(() => pool.worker.sources(), `sources:${pool.revision}`);
  const sets = data?.sets.slice(0, SETS) ?? [];
  const x = scaleLinear()
    .domain([0, Math.max(1, sets[0]?.keywords ?? 1)])
    .range([2, 180]);
  return (
    <div className="flex flex-col gap-3">
      <table className="w-full">
        <thead className="text-faint">
          <tr>
            <th className="pr-6 text-left font-normal">Source</th>
            <th className="pr-6 text-right font-normal">Keywords</th>
            <th className="pr-6 text-right font-normal">Searches</th>
            <th className="pr-6 text-right font-normal">Only here</th>
            <th className="text-right font-normal">Their searches</th>
          </tr>
        </thead>
        <tbody>
          {sources.map(({ id, name, keywords, onlyHere }) => {
            const sum = data?.totals.get(id);
            return (
              <tr key={id}>
                <td className="pr-6">{name}</td>
                <td className="pr-6 text-right">{count(keywords)}</td>
                <td className="pr-6 text-right">{sum ? short(sum.searches) : '–'}</td>
                <td className="pr-6 text-right">{count(onlyHere)}</td>
                <td className="text-right">{sum ? short(sum.onlySearches) : '–'}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <table aria-label="Keywords by the sources that bring them" className="border-hair border-t">
        <tbody>
          {sets.map((set) => (
            <tr key={set.sources.join()}>
              <td className="py-0.5 pr-3">
                <span className="flex gap-1.5" title={namesOf(set.sources, sources)}>
                  {sources.map(({ id }) => (
                    <span
                      key={id}
                      className={`size-2.5 rounded-full ${set.sources.includes(id) ? 'bg-primary' : 'bg-base-300'}`}
                    />
                  ))}
                  <span className="sr-only">{namesOf(set.sources, sources)}</span>
                </span>
              </td>
              <td className="pr-2">
                <svg width="182" height="9" aria-hidden="true">
                  <rect width={x(set.keywords)} height="9" rx="2" className="fill-primary/60" />
                </svg>
              </td>
              <td className="pr-6 text-right">{count(set.keywords)}</td>
              <td className="max-w-56 truncate text-faint">{namesOf(set.sources, sources)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const namesOf = (ids: readonly number[], sources: readonly Source[]): string =>
  `${ids.length === 1 ? 'only ' : ''}${ids.map((id) => sources.find((one) => one.id === id)?.name ?? '…').join(' and ')}`;
