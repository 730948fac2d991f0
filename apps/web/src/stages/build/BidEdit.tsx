import type { MatchType } from '@sprig/core/match';
import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { money } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { matchWords } from '../../kit/match-words.ts';
import { readMoney } from '../../kit/read-typed.ts';
import { Tie } from '../../kit/Tie.tsx';
import type { useHolds } from '../../plan/use-holds.ts';
import type { BuildActions } from './use-build.ts';

type Props = {
  row: { key: string; text: string; type: MatchType; held: boolean; ruleBid: number };
  /** As it is shown: what was just set by hand may not be built yet. */
  bid: number;
  currency: string;
  hold: ReturnType<typeof useHolds>['hold'];
  actions: BuildActions;
  tabStop?: boolean;
};

/** The bid of a keyword row, to be set by hand, and given back where it was. */
export function BidEdit({ row, bid, currency, hold, actions, tabStop = false }: Props) {
  return (
    <>
      {row.held && (
        <Tie
          rule={money(row.ruleBid, currency)}
          onLetGo={() => void actions.letGo([{ rowKey: row.key, field: 'bid' }])}
        />
      )}
      <InlineEdit
        label={`bid of ${row.text} ${matchWords[row.type]}`}
        right
        tabStop={tabStop}
        shown={money(bid, currency)}
        text={decimalFromMicros(asMicros(bid), decimalsOf(currency))}
        onKeep={async (typed) => {
          const read = readMoney(typed);
          return 'words' in read ? read.words : hold(row.key, 'bid', read.value);
        }}
      />
    </>
  );
}
