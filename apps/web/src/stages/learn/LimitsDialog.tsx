import type { Facts } from '@sprig/contracts';
import { usualVerdictLimits } from '@sprig/core/judge';
import type { Document } from '../../data/document.ts';
import { TextChip } from '../../kit/chips.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { type LimitName, limitText, readLimit } from './verdict-words.ts';

type Props = { facts: Document<Facts>; onClose: () => void };

/** What verdicts go by, in sentences to be typed over. */
export function LimitsDialog({ facts, onClose }: Props) {
  const limits = facts.value?.verdicts ?? usualVerdictLimits;
  const limit = (name: LimitName, label: string) => (
    <TextChip
      label={label}
      value={limitText(name, limits[name])}
      read={(typed) => readLimit(name, typed)}
      width={7}
      onKeep={(value) => facts.edit(`verdicts.${name}`, value)}
    />
  );
  return (
    <Dialog title="What verdicts go by" onClose={onClose} wide>
      <div className="flex flex-col gap-1 text-[14px] leading-9">
        <p>
          <b>Never pays</b>: costs more than {limit('neverTimes', 'Times the aim')} times the aim, and has
          sold nothing.
        </p>
        <p>
          <b>Not sold</b>: after {limit('clicks', 'Clicks')} clicks, sells under{' '}
          {limit('notSold', 'Part of the rate around')} of what surrounds it.
        </p>
        <p>
          <b>Not clicked</b>: up to position {limit('position', 'Position')}, after{' '}
          {limit('impressions', 'Impressions')} impressions, its CTR is under{' '}
          {limit('notClicked', 'Part of the CTR to expect')} of the one to expect there.
        </p>
        <p>
          <b>Too low</b>: beyond that position; where no position is told, from{' '}
          {limit('lostRank', 'Share lost to rank')} of impressions lost to rank on.
        </p>
        <p>
          <b>Pays</b>: a conversion costs at most {limit('pays', 'Part of the aim')} of the aim.
        </p>
        <p>Of those blamed, at most {limit('falseBlame', 'Blamed wrongly')} are blamed by chance alone.</p>
        <p>
          A bid that was raised is raised again after {limit('clicksBetween', 'Clicks between raises')}{' '}
          further clicks.
        </p>
        <p className="text-[12.5px] text-faint leading-5">
          Rates have intervals of 90%, by the score method. Conversions of the last 7 days do not count yet.
          What is aimed at stands in the brief.
        </p>
      </div>
    </Dialog>
  );
}
