import { KeywordsBar } from './KeywordsBar.tsx';
import { SortedTable } from './SortedTable.tsx';
import type { Chosen } from './state/use-chosen.ts';
import type { Place } from './state/use-place.ts';
import type { Sorted } from './state/use-sorted.ts';

type Props = { sorted: Sorted; place: Place; chosen: Chosen; isSifting: boolean };

/** What the table shows. */
const nameOf = ({ open, justRest, where }: Place, isSifting: boolean): string => {
  if (isSifting) return `Sifted from ${where}`;
  if (!open) return 'Unplaced';
  return justRest ? 'Not in a sub-theme' : open.name;
};

const whyEmpty = ({ open }: Place, isSifting: boolean): string => {
  if (isSifting) return 'No keyword meets the sentence.';
  return open ? 'No keyword here.' : 'Every keyword has a theme.';
};

/** The keywords of what is open, or those that meet the sentence. */
export function SortedKeywords({ sorted, place, chosen, isSifting }: Props) {
  const { pool, stamp, placing, tree, plan } = sorted;
  const { selection, shown } = chosen;
  return (
    <>
      <KeywordsBar
        name={nameOf(place, isSifting)}
        shown={shown.length}
        chosen={chosen.list}
        selected={selection.size}
        onMove={chosen.move}
        onLetGo={chosen.letGo}
        onStage={chosen.setStage}
      />
      <SortedTable
        worker={pool.worker}
        ids={shown}
        version={`${stamp} ${placing}`}
        busy={chosen.busy}
        tree={tree}
        held={chosen.held}
        currency={plan.brief.currency}
        selection={selection}
        actions={chosen.keys}
        onLetGo={chosen.letGo}
        empty={<p className="text-faint">{whyEmpty(place, isSifting)}</p>}
      />
    </>
  );
}
