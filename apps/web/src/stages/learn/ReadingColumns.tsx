import type { ReportReading } from '@sprig/contracts';
import type { ReportRole } from '@sprig/core/learn';
import { roleChoices } from './report-words.ts';

/** What each column was taken for, with sample rows; another choice reads it anew. */
export function ReadingColumns({
  reading: { layout, remembered },
  busy,
  onRoles,
}: {
  reading: ReportReading;
  busy: boolean;
  onRoles: (roles: ReportRole[]) => void;
}) {
  return (
    <div
      className="overflow-x-auto rounded-md border border-hair"
      tabIndex={0}
      role="group"
      aria-label="Columns"
    >
      <table className="text-[12.5px]">
        <thead>
          <tr>
            {layout.headings.map((heading, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: headings may be the same
              <th key={at} className="whitespace-nowrap border-hair border-b px-2 py-1 text-left font-normal">
                <span className="block font-semibold">{heading || '(no heading)'}</span>
                <select
                  className={`plain-field chip max-w-44 cursor-pointer ${layout.roles[at] === 'skip' ? 'text-faint' : ''}`}
                  aria-label={`Column ${heading || at + 1}`}
                  disabled={busy}
                  value={layout.roles[at]}
                  onChange={({ target }) =>
                    onRoles(
                      layout.roles.map((role, n) => {
                        if (n === at) return target.value as ReportRole;
                        // One column each: the one that had it is left out.
                        return role === target.value && role !== 'skip' ? 'skip' : role;
                      }),
                    )
                  }
                >
                  {roleChoices.map(({ value, words }) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </select>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {layout.samples.slice(0, 3).map((cells, row) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows may be the same
            <tr key={row}>
              {layout.headings.map((_, at) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: cells may be the same
                <td key={at} className="max-w-56 truncate px-2 py-0.5 text-faint" title={cells[at]}>
                  {cells[at]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {remembered && (
        <p className="px-2 py-1 text-[12px] text-faint">Read as the last report with these headings was.</p>
      )}
    </div>
  );
}
