import { type PlanState, rewriteKeywords } from '@sprig/contracts';
import { noRewriting, type Rewriting } from '@sprig/core/gather';
import type { CaseStyle } from '@sprig/core/text';
import { useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../api/call.ts';
import { planKey } from '../../api/plan.ts';
import { queryClient } from '../../api/query-client.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { count, counted } from '../../kit/format.ts';
import { Sheet } from '../../kit/Sheet.tsx';
import { type usePool, useWorked } from '../../pool/use-pool.ts';
import type { Rewrites } from '../../pool/worker.ts';

type Props = {
  plan: PlanState;
  pool: ReturnType<typeof usePool>;
  ids: number[];
  onClose: () => void;
  onDone: () => void;
};

const SHOWN = 60;
const styles: { value: CaseStyle; words: string }[] = [
  { value: 'as-is', words: 'as they are' },
  { value: 'lower', words: 'in lower case' },
  { value: 'sentence', words: 'in Sentence case' },
  { value: 'title', words: 'in Title Case' },
];

/** The texts of many keywords changed at once, each shown before and after. */
export function RewritePanel({ plan, pool, ids, onClose, onDone }: Props) {
  const [rewriting, setRewriting] = useState<Rewriting>(noRewriting);
  const [refused, setRefused] = useState<{ id: number; text: string; why: string }[]>([]);
  const [busy, setBusy] = useState(false);
  const { data } = useWorked<Rewrites>(
    async () => await pool.worker.rewrite(ids, rewriting, plan.brief.language),
    `rewrite:${pool.revision}:${JSON.stringify(rewriting)}`,
  );
  const edits = data && 'edits' in data ? data.edits : [];
  const field = (at: 'find' | 'replace' | 'prefix' | 'suffix', label: string, width = 'w-44') => (
    <input
      aria-label={label}
      className={`input input-sm ${width}`}
      value={rewriting[at]}
      onChange={(event) => setRewriting({ ...rewriting, [at]: event.target.value })}
    />
  );
  const change = async () => {
    setBusy(true);
    try {
      const answer = await call(rewriteKeywords, { params: { plan: plan.id }, body: { edits } });
      await queryClient.invalidateQueries({ queryKey: planKey(plan.id) });
      toast(`Changed ${counted(answer.changed, 'keyword')}. Ctrl+Z takes it back.`);
      setRefused(answer.refused);
      if (answer.refusedCount === 0) {
        onDone();
        onClose();
      }
    } catch (error) {
      toast.error(wordsOf(error));
    }
    setBusy(false);
  };
  return (
    <Sheet title={`Change the text of ${counted(ids.length, 'keyword')}`} onClose={onClose} wide>
      <div className="flex flex-wrap items-center gap-2 text-[14px]">
        Replace {field('find', 'Find')} by {field('replace', 'Replace by')}
        <label className="flex items-center gap-1.5 text-[13px]">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={rewriting.isPattern}
            onChange={(event) => setRewriting({ ...rewriting, isPattern: event.target.checked })}
          />
          a regular expression
        </label>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2 text-[14px]">
        put {field('prefix', 'Put before', 'w-32')} before and {field('suffix', 'Put behind', 'w-32')} behind,
        and write them{' '}
        <ChoiceChip
          label="Case"
          value={rewriting.style}
          choices={styles}
          onChoose={(style) => setRewriting({ ...rewriting, style })}
        />
      </div>
      {data && 'words' in data && (
        <p role="alert" className="mt-2 text-error">
          This is no regular expression: {data.words}
        </p>
      )}
      {refused.length > 0 && (
        <ul role="alert" className="mt-2 max-h-32 overflow-auto text-error">
          {refused.map(({ id, text, why }) => (
            <li key={id}>
              {text}: {why}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-3 max-h-[42vh] overflow-auto">
        <table className="w-full" aria-label="Before and after">
          <tbody>
            {edits.slice(0, SHOWN).map(({ id, before, after }) => (
              <tr key={id} className="border-base-200 border-t">
                <td className="py-0.5 text-faint line-through decoration-1">{before}</td>
                <td className="px-2">→</td>
                <td>{after}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {edits.length > SHOWN && <p className="text-faint">and {count(edits.length - SHOWN)} more</p>}
      </div>
      <button
        type="button"
        className="btn btn-primary btn-sm mt-3"
        disabled={busy || edits.length === 0}
        onClick={() => void change()}
      >
        Change {counted(edits.length, 'keyword')}
      </button>
    </Sheet>
  );
}
