import { reportRoles } from '@sprig/core/learn';
import type { ReportColumn } from '@sprig/core/outlets';
import { X } from 'lucide-react';
import { Help } from '../../frame/Help.tsx';
import { reportRoleWords } from '../../plan/report-role-words.ts';
import { ChoicePart, Line, Part, TextPart, useOutletEditing } from './outlet-fields.tsx';

const roles = reportRoles.filter((role) => role !== 'skip');

/** What the outlet's reports of results call their columns. */
export function OutletReport() {
  const { outlet, put, readOnly } = useOutletEditing();
  const { headings } = outlet.report;
  const free = roles.filter((role) => !headings.some((one) => one.role === role));
  return (
    <Part title="Reports" places={['report']}>
      <Help>
        By these headings its reports are known in Learn; without any, columns are told by the trade’s names.
      </Help>
      <Line>
        Amounts have a{' '}
        <ChoicePart
          at="report.decimal"
          label="Mark before decimals in its reports"
          choices={[
            ['.', 'point: 1.25'],
            [',', 'comma: 1,25'],
          ]}
        />
      </Line>
      {headings.length > 0 && (
        <ol className="flex flex-col" aria-label="Columns of its reports">
          {headings.map(({ heading, role }, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: headings are typed over in their place
            <li key={n} className="flex items-center gap-1.5 border-base-200 border-b py-0.5">
              <TextPart
                at={`report.headings.${n}.heading`}
                label={`In its reports, what heads ${reportRoleWords[role]}`}
                width="w-44"
              />
              <span className="text-faint">tells</span>
              <select
                className="plain-field chip min-w-0 flex-1 cursor-pointer"
                aria-label={`What ${heading} tells`}
                disabled={readOnly}
                value={role}
                onChange={({ target }) => put(`report.headings.${n}.role`, target.value)}
              >
                {[role, ...free].map((one) => (
                  <option key={one} value={one}>
                    {reportRoleWords[one]}
                  </option>
                ))}
              </select>
              {!readOnly && (
                <button
                  type="button"
                  className="btn btn-ghost btn-square btn-xs"
                  aria-label={`Leave ${heading} out of its reports`}
                  onClick={() =>
                    put(
                      'report.headings',
                      headings.filter((_, one) => one !== n),
                    )
                  }
                >
                  <X size={13} aria-hidden />
                </button>
              )}
            </li>
          ))}
        </ol>
      )}
      {!readOnly && free.length > 0 && (
        <Line>
          <select
            className="plain-field chip cursor-pointer"
            aria-label="Another column of its reports"
            value=""
            onChange={({ target }) => {
              const role = target.value as ReportColumn['role'];
              put('report.headings', [...headings, { heading: named(reportRoleWords[role]), role }]);
            }}
          >
            <option value="">+ Column …</option>
            {free.map((role) => (
              <option key={role} value={role}>
                {reportRoleWords[role]}
              </option>
            ))}
          </select>
        </Line>
      )}
    </Part>
  );
}

/** `Average position`: how the trade heads such a column. */
const named = (words: string): string => {
  const [bare = ''] = words.split(',');
  return bare.charAt(0).toUpperCase() + bare.slice(1);
};
