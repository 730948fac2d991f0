import type { ReactNode } from 'react';
import { useLanding } from './use-landing.ts';

type Props = {
  plan: number;
  address: string;
  /** Lines that say a word of it are told by a title. */
  search: string;
  /** What can be done with a line of the page. */
  onLine?: (text: string) => ReactNode;
};

/** What the page at an address says, to write from. */
export function PageText({ plan, address, search, onLine }: Props) {
  const { data, isFetching } = useLanding(plan, address);
  const words = new Set(search.toLowerCase().split(/\s+/));
  const says = (text: string) =>
    text
      .toLowerCase()
      .split(/\W+/)
      .some((word) => words.has(word));
  return (
    <div className="min-h-0 flex-1 overflow-auto px-4 py-3" tabIndex={0}>
      {isFetching && !data && <p className="text-faint">Reading the page …</p>}
      {data && data.problem !== '' && <p className="text-error">{data.problem}</p>}
      {data && data.status !== null && data.status >= 400 && (
        <p className="text-error">The server says {data.status}: there is no such page.</p>
      )}
      {data?.title && <p className="mb-2 font-semibold text-[15px]">{data.title}</p>}
      {data?.parts.map(({ kind, text }, at) => (
        <p
          // biome-ignore lint/suspicious/noArrayIndexKey: a part of the page is its place
          key={at}
          className={kind === 'heading' ? 'mt-2 font-semibold' : 'text-[13.5px] leading-5'}
          title={says(text) ? 'says a word of the search' : undefined}
        >
          {text}
          {onLine?.(text)}
        </p>
      ))}
    </div>
  );
}
