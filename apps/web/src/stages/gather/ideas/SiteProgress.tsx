import type { Job, SiteReading } from '@sprig/contracts';
import { hasEnded } from '../../../data/jobs.ts';
import { count, counted } from '../../../kit/format.ts';

type Props = { job: Job | null; reading: SiteReading | null; onStop: () => void };

/** How far the reading of a site is, and then what was read and what was not. */
export function SiteProgress({ job, reading, onStop }: Props) {
  if (!job) return null;
  if (!hasEnded(job))
    return (
      <p role="status" className="flex items-center gap-3 border-hair border-b px-4 py-2">
        <progress className="progress progress-primary w-48" max={Math.max(1, job.total)} value={job.done} />
        {job.done === 0 ? 'The site is asked …' : `${count(job.done)} of ${count(job.total)} pages`}
        <button type="button" className="btn btn-xs" onClick={onStop}>
          Stop
        </button>
      </p>
    );
  if (job.failure)
    return (
      <p role="alert" className="border-hair border-b px-4 py-2 text-error">
        {job.failure.message}
      </p>
    );
  if (!reading)
    return (
      <p className="border-hair border-b px-4 py-2 text-faint">
        {job.status === 'stopped' ? 'Stopped. Nothing of it was kept.' : 'Nothing was read.'}
      </p>
    );
  return (
    <details className="border-hair border-b px-4 py-1.5 text-[12.5px]">
      <summary className="cursor-pointer">
        {counted(reading.pages.length, 'page')} of {reading.address} read
        {reading.isMore && ', more were there'}
        {reading.refused.length > 0 && `, ${counted(reading.refused.length, 'address')} not`}; what was read
        and what was not
      </summary>
      <ul className="max-h-40 overflow-auto py-1">
        {reading.refused.map(({ address, why }) => (
          <li key={`${address} ${why}`} className="text-warning">
            {address}: {why}
          </li>
        ))}
        {reading.pages.map(({ address, title, isCut }) => (
          <li key={address} className="text-faint">
            {address} {title && `– ${title}`} {isCut && '(only its first half megabyte)'}
          </li>
        ))}
      </ul>
    </details>
  );
}
