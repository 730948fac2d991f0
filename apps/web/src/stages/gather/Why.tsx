import type { Origin } from '@sprig/core/figures';
import { type ReactNode, useState } from 'react';
import type { usePool } from '../../pool/use-pool.ts';
import { estimateWords, noEstimateWords } from './estimate-words.ts';

type Props = {
  id: number;
  measure: 'searches' | 'cpc';
  /** Where the figure is from; null where there is none. */
  from: Origin | null;
  worker: ReturnType<typeof usePool>['worker'];
  currency: string;
  title: string;
  className: string;
  children: ReactNode;
};

/** A figure that says, when it is pointed at, where it is from; an estimate, what it is made of; none, why nothing is estimated. */
export function Why({ id, measure, from, worker, currency, title, className, children }: Props) {
  const [words, setWords] = useState<string | null>(null);
  const look = () => {
    if (words !== null) return;
    if (from === 'estimated')
      void worker
        .estimateOf(measure, id)
        .then((said) => said && setWords(estimateWords(measure, said, currency)));
    if (from === null)
      void worker.whyNoEstimate(measure, id).then((why) => why && setWords(noEstimateWords(why)));
  };
  return (
    <span className={className} title={words ?? title} onPointerEnter={look}>
      {children}
    </span>
  );
}
