import type { NoLook } from '@sprig/contracts';
import type { LookGrouping } from '@sprig/core/learn';
import { Empty } from '../../kit/Empty.tsx';
import { noLookWords } from './look-words.ts';

type Props = { why: NoLook; by: LookGrouping; onReports: () => void };

/** Why there is nothing to see here, and the way to reports. */
export function NothingTold({ why, by, onReports }: Props) {
  const [title, words] = noLookWords(why, by);
  return (
    <div className="grid flex-1 place-items-center p-6">
      <Empty title={title}>
        <p>{words}</p>
        <button type="button" className="btn btn-primary btn-sm mt-3" onClick={onReports}>
          Take reports in
        </button>
      </Empty>
    </div>
  );
}
