import type { ReportImport, VerdictsAnswer } from '@sprig/contracts';
import { count } from '../../kit/format.ts';
import { Yield } from '../../kit/Yield.tsx';
import { amountText, listWords } from './verdict-words.ts';

type Props = { imports: readonly ReportImport[] | undefined; answer: VerdictsAnswer; currency: string };

/** How many have a verdict that asks for something, and what is at stake with them. */
export function VerdictsYield({ imports, answer, currency }: Props) {
  const open = answer.lists.filter(({ list }) => !REST.has(list));
  const rows = open.reduce((sum, one) => sum + one.rows, 0);
  const stake = open.reduce((sum, one) => sum + one.stake, 0);
  return (
    <Yield
      terms={[
        { id: 'reports', figure: count(imports?.length ?? 0), words: 'reports' },
        { id: 'verdicts', figure: count(rows), words: 'to see to' },
        { id: 'stake', figure: amountText(stake, currency), words: 'at stake' },
        ...answer.lists
          .filter(({ list, rows: own }) => own > 0 && (list === 'rests' || list === 'again'))
          .map(({ list, rows: own }) => ({
            id: list,
            figure: count(own),
            words: listWords[list][0].toLowerCase(),
          })),
      ]}
    />
  );
}

const REST: ReadonlySet<string> = new Set(['fine', 'too-early', 'rests', 'again']);
