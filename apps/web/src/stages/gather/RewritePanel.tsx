import { type PlanState, rewriteKeywords } from '@sprig/contracts';
import { noRewriting, type Rewriting } from '@sprig/core/gather';
import { useState } from 'react';
import { useWrite } from '../../data/use-write.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';
import { RewriteSentence } from '../../kit/RewriteSentence.tsx';
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
/** The texts of many keywords changed at once, each shown before and after. */
export function RewritePanel({ plan, pool, ids, onClose, onDone }: Props) {
  const [rewriting, setRewriting] = useState<Rewriting>(noRewriting);
  const [refused, setRefused] = useState<{ id: number; text: string; why: string }[]>([]);
  const { write, isBusy } = useWrite(rewriteKeywords, {
    said: ({ changed }) => `Changed ${counted(changed, 'keyword')}. Ctrl+Z takes it back.`,
  });
  const { data } = useWorked<Rewrites>(
    async () => await pool.worker.rewrite(ids, rewriting, plan.brief.language),
    `rewrite:${pool.revision}:${JSON.stringify(rewriting)}`,
  );
  const edits = data && 'edits' in data ? data.edits : [];
  const change = async () => {
    const answer = await write({ params: { plan: plan.id }, body: { edits } });
    if (!answer) return;
    setRefused(answer.refused);
    if (answer.refusedCount > 0) return;
    onDone();
    onClose();
  };
  return (
    <Dialog title={`Change the text of ${counted(ids.length, 'keyword')}`} onClose={onClose} wide>
      <RewriteSentence rewriting={rewriting} onChange={setRewriting} />
      {data && 'words' in data && (
        <p role="alert" className="mt-2 text-error">
          This pattern can’t be used: {data.words}
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
        disabled={isBusy || edits.length === 0}
        onClick={() => void change()}
      >
        Change {counted(edits.length, 'keyword')}
      </button>
    </Dialog>
  );
}
