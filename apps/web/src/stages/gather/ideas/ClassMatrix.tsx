import type { GapClass } from '@sprig/core/gather';
import { counted } from '../../../kit/format.ts';

type Props = {
  one: GapClass;
  onRecipe: () => void;
};

/** What of a class is there and what is missing: its members down, the contexts that most of them fill across. */
export function ClassMatrix({ one, onRecipe }: Props) {
  if (one.contexts.length === 0) return null;
  // What is missing comes into view first.
  const rows = one.fillers
    .map((filler, row) => ({
      filler,
      row,
      there: one.contexts.filter(({ there }) => there[row] === 1).length,
    }))
    .sort((a, b) => a.there - b.there || a.row - b.row);
  const contexts = [...one.contexts].sort((a, b) => a.count - b.count);
  return (
    <section
      aria-label="The class as a matrix"
      className="flex max-h-64 shrink-0 items-start gap-4 overflow-auto border-hair border-b px-4 py-2"
    >
      <table className="text-[12px]">
        <thead>
          <tr>
            <th aria-label="Members" />
            {contexts.map(({ before, behind }) => (
              <th
                key={`${before}|${behind}`}
                scope="col"
                className="h-28 min-w-6 align-bottom font-normal text-faint"
                title={`${before} … ${behind}`.trim()}
              >
                <span className="inline-block max-h-28 overflow-hidden whitespace-nowrap [writing-mode:vertical-rl] rotate-180">
                  {[before, '…', behind].filter(Boolean).join(' ')}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ filler, row }) => (
            <tr key={filler}>
              <th scope="row" className="max-w-44 truncate pr-2 text-left font-normal">
                {filler}
              </th>
              {contexts.map(({ before, behind, there }) => {
                const isThere = there[row] === 1;
                return (
                  <td key={`${before}|${behind}`} className="p-0 text-center">
                    <span
                      title={`${[before, filler, behind].filter(Boolean).join(' ')}: ${isThere ? 'in the pool' : 'missing'}`}
                      className={`m-px inline-block size-4 rounded-[3px] align-middle leading-4 ${isThere ? 'bg-primary/60' : 'border border-warning text-warning'}`}
                    >
                      {isThere ? <span className="sr-only">there</span> : '·'}
                    </span>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <div className="sticky top-0 flex min-w-52 flex-col gap-2 text-[12.5px] text-faint">
        <p>
          Filled: in the pool. Open, with a dot: missing. {counted(one.gaps, 'gap')} are of this class, longer
          contexts included.
        </p>
        <button type="button" className="btn btn-sm self-start" onClick={onRecipe}>
          Make a recipe of it
        </button>
      </div>
    </section>
  );
}
