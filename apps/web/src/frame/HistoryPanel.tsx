import { planHistory } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { question } from '../data/question.ts';
import { Dialog } from '../kit/Dialog.tsx';
import { time } from '../kit/format.ts';

const KIND = { edit: '', undo: 'Undone: ', redo: 'Done again: ' } as const;

/** What was done to this plan, by whom, newest first. */
export function HistoryPanel({ plan, onClose }: { plan: number; onClose: () => void }) {
  const { data } = useQuery(question(planHistory, { params: { plan } }));
  return (
    <Dialog title="History of this plan" onClose={onClose}>
      <ol className="divide-y divide-base-200">
        {data?.changes.map(({ revision, label, kind, actor, at, undone }) => (
          <li key={revision} className="grid grid-cols-[44px_1fr_auto] gap-2 py-1.5">
            <span className="text-right text-faint">{revision}</span>
            <span className={undone ? 'text-faint line-through' : ''}>
              {KIND[kind]}
              {label}
            </span>
            <span className="text-[12px] text-faint">
              {actor}, {time(at)}
            </span>
          </li>
        ))}
      </ol>
    </Dialog>
  );
}
