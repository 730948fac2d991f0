import { type AuditKind, auditKinds, readAudit, saveAudit, urlOf } from '@sprig/contracts';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { questionsOf } from '../../data/query-key.ts';
import { count, counted, time } from '../../kit/format.ts';
import { auditWords } from './audit-words.ts';

/** What happened around sign-ins, roles and downloads, newest first; older entries come as they are asked for. */
export function AuditTrail() {
  const [kind, setKind] = useState<AuditKind | ''>('');
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey: [...questionsOf(readAudit, null), kind],
    queryFn: ({ pageParam }) =>
      call(readAudit, {
        query: { ...(kind === '' ? {} : { kind }), ...(pageParam === null ? {} : { before: pageParam }) },
      }),
    initialPageParam: null as number | null,
    getNextPageParam: ({ entries }) => entries.at(-1)?.id ?? null,
    staleTime: 0,
    meta: { reads: readAudit.reads },
  });
  if (error)
    return (
      <p role="alert" className="text-error">
        {wordsOf(error)}
      </p>
    );
  const total = data?.pages[0]?.total ?? 0;
  const entries = data?.pages.flatMap((page) => page.entries) ?? [];
  return (
    <>
      <p className="mb-2 flex items-center gap-3">
        <select
          className="chip cursor-pointer"
          aria-label="What happened"
          value={kind}
          onChange={({ target }) => setKind(target.value as AuditKind | '')}
        >
          <option value="">all of it</option>
          {auditKinds.map((one) => (
            <option key={one} value={one}>
              {auditWords[one]}
            </option>
          ))}
        </select>
        <span className="text-faint">{counted(total, 'entry')}</span>
        <a className="btn btn-ghost btn-sm ml-auto" href={urlOf(saveAudit)} download>
          <Download size={14} aria-hidden /> All as csv
        </a>
      </p>
      <ol aria-label="Audit trail" className="divide-y divide-base-200 border-hair border-y">
        {entries.map(({ id, at, kind: what, name, about, address }) => (
          <li key={id} className="grid grid-cols-[8.5rem_1fr_8rem] items-baseline gap-3 px-2 py-1">
            <span className="text-[12.5px] text-faint">{time(at)}</span>
            <span className="min-w-0 break-words">
              {name && <b className="font-semibold">{name}</b>} {auditWords[what]}
              {about && <span className="text-faint">: {about}</span>}
            </span>
            <span className="truncate text-right text-[12.5px] text-faint" title={address}>
              {address}
            </span>
          </li>
        ))}
      </ol>
      {hasNextPage && entries.length < total && (
        <button
          type="button"
          className="btn btn-sm mt-3 self-center"
          disabled={isFetchingNextPage}
          onClick={() => void fetchNextPage()}
        >
          {count(total - entries.length)} older
        </button>
      )}
    </>
  );
}
