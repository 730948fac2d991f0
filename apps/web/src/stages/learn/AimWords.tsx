import type { ResultBidsAnswer, VerdictsAnswer } from '@sprig/contracts';
import { Link } from 'react-router';
import { counted } from '../../kit/format.ts';
import { daysText, figureText, grainText } from '../../plan/results/result-words.ts';

type Answer = Pick<
  VerdictsAnswer | ResultBidsAnswer,
  'aim' | 'ownAims' | 'settledTo' | 'inCurrency' | 'grain'
>;

/** Which reports it rests on, until when conversions count, and what is aimed at. */
export function AimWords({ answer, currency }: { answer: Answer; currency: string }) {
  const { aim, ownAims, settledTo, inCurrency, grain } = answer;
  const cost = aim.cost === null ? null : `${figureText('cost', aim.cost, currency)} a conversion`;
  const back = aim.return === null ? null : `a return of ${Math.round(aim.return * 100)}%`;
  const own = ownAims > 0 ? `${counted(ownAims, 'campaign')} otherwise` : null;
  const aims = [cost, back, own].filter((one) => one !== null).join(', ');
  return (
    <span className="text-[12.5px] text-faint">
      {grain && `${grainText(grain)} · `}
      {settledTo
        ? `conversions count until ${daysText({ from: settledTo, to: settledTo })}`
        : 'no conversions count yet'}
      {' · '}
      {aims !== '' ? (
        `aimed at: ${aims}`
      ) : (
        <Link className="underline" to="../brief">
          {inCurrency
            ? 'no aim in the brief: what needs one rests'
            : 'the aim is in another currency: what needs one rests'}
        </Link>
      )}
    </span>
  );
}
