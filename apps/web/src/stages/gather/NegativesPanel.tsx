import { removeNegatives } from '@sprig/contracts';
import { X } from 'lucide-react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../api/call.ts';
import { planKey } from '../../api/plan.ts';
import { queryClient } from '../../api/query-client.ts';
import { counted } from '../../kit/format.ts';
import { Help } from '../../kit/marks.tsx';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { Sheet } from '../../kit/Sheet.tsx';
import { useNegatives } from './SourcesRibbon.tsx';

/** The plan's negative keywords, as they were pasted; they ship with every campaign. */
export function NegativesPanel({ plan, onClose }: { plan: number; onClose: () => void }) {
  const { data: negatives = [] } = useNegatives(plan);
  const remove = async (id: number) => {
    try {
      await call(removeNegatives, { params: { plan }, body: { ids: [id] } });
      await queryClient.invalidateQueries({ queryKey: planKey(plan) });
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
  return (
    <Sheet title={counted(negatives.length, 'negative keyword')} onClose={onClose}>
      <Help>
        They stand in every campaign of the plan. Paste more with a minus before them: -jobs, -"free plans",
        -[sup meaning].
      </Help>
      <ul className="mt-3 divide-y divide-base-200">
        {negatives.map(({ id, text, type }) => (
          <li key={id} className="flex items-center gap-2 py-1">
            <span className="inline-flex w-28 items-center gap-1.5 text-faint">
              <ReachBars type={type} /> {type}
            </span>
            <span className="flex-1">{text}</span>
            <button
              type="button"
              className="btn btn-ghost btn-square btn-xs"
              aria-label={`Remove ${text}`}
              onClick={() => void remove(id)}
            >
              <X size={13} />
            </button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
