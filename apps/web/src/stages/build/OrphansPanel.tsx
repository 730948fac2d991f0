import { type PlanState, setCut } from '@sprig/contracts';
import { asMicros } from '@sprig/core/money';
import { toast } from 'sonner';
import { useWrite } from '../../data/use-write.ts';
import { Help } from '../../frame/Help.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted, money, percent } from '../../kit/format.ts';
import { useHolds } from '../../plan/use-holds.ts';

const fieldWords: Record<string, string> = {
  finalUrl: 'final URL',
  path: 'path of final URLs',
  matching: 'matching',
  rotation: 'rotation of ads',
  bidPartners: 'bid at partners',
  bidDisplay: 'bid on pages',
  budget: 'daily budget',
  lead: 'lead keyword',
};

/** A held value in the words of its field: an amount is money, a step a share, another number what it is. */
export function heldWords(field: string, value: string | number, currency: string): string {
  if (typeof value !== 'number') return value;
  if (field.startsWith('bid') || field === 'budget') return money(asMicros(value), currency);
  if (field === 'step') return percent(value);
  return String(value);
}

/** Values held on rows that no rule makes any more: give each back, or bring its keyword back. */
export function OrphansPanel({ plan, onClose }: { plan: PlanState; onClose: () => void }) {
  const { holds, release } = useHolds(plan.id);
  const orphans = holds.filter(({ orphan }) => orphan);
  const { write } = useWrite(setCut);
  const putBack = (keyword: number) =>
    write({ params: { plan: plan.id }, body: { ids: [keyword], cut: false } });
  return (
    <Dialog title={`${counted(orphans.length, 'value')} set aside`} onClose={onClose} wide>
      <Help>
        Something was set by hand on each of these, but the ad group or match type it stood on is no longer
        made. Nothing of it is lost until you let it go.
      </Help>
      <ul className="mt-3 divide-y divide-base-200">
        {orphans.map(({ id, rowKey, field, value, keyword, keywordId, cut }) => (
          <li key={id} className="grid grid-cols-[1fr_1fr_auto] items-center gap-3 py-1.5">
            <span className="truncate">{keyword ?? 'a keyword that is gone'}</span>
            <span className="truncate text-faint">
              {fieldWords[field] ?? field} held at{' '}
              <b className="text-base-content">{heldWords(field, value, plan.brief.currency)}</b>
            </span>
            <span className="flex gap-1">
              {keyword && cut && (
                <button type="button" className="btn btn-sm" onClick={() => void putBack(keywordId)}>
                  Put the keyword back
                </button>
              )}
              <button
                type="button"
                className="btn btn-ghost btn-sm"
                onClick={() => void release([{ rowKey, field }]).then((words) => words && toast.error(words))}
              >
                Let go
              </button>
            </span>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
