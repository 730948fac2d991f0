import { type ReactNode, useState } from 'react';
import type { usePool } from '../../pool/use-pool.ts';
import { estimateWords } from './estimate-words.ts';

type Props = {
  id: number;
  measure: 'searches' | 'cpc';
  isEstimate: boolean;
  worker: ReturnType<typeof usePool>['worker'];
  currency: string;
  title: string;
  className: string;
  children: ReactNode;
};

/** A figure that says, when it is pointed at, where it is from; an estimate, what it is made of. */
export function Why({ id, measure, isEstimate, worker, currency, title, className, children }: Props) {
  const [words, setWords] = useState<string | null>(null);
  const look = () => {
    if (isEstimate && words === null)
      void worker
        .estimateOf(measure, id)
        .then((said) => said && setWords(estimateWords(measure, said, currency)));
  };
  return (
    <span className={className} title={isEstimate ? (words ?? title) : title} onPointerEnter={look}>
      {children}
    </span>
  );
}
