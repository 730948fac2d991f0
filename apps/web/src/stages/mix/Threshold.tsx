import { useState } from 'react';
import { count, counted } from '../../kit/format.ts';
import { type usePool, useWorked } from '../../pool/use-pool.ts';

const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1_000, 2_000, 5_000];

type Props = {
  worker: ReturnType<typeof usePool>['worker'];
  stamp: string;
  onCut: (texts: string[], cut: boolean) => Promise<void>;
};

/** Cuts every combination that is told to be searched less than a threshold; those that are only estimated so, if one says so. */
export function Threshold({ worker, stamp, onCut }: Props) {
  const [step, setStep] = useState(3);
  const least = STEPS[step] as number;
  const [byEstimates, setByEstimates] = useState(false);
  const { data } = useWorked(
    () => worker.mixUnder(least, byEstimates),
    `${stamp}:under ${least} ${byEstimates}`,
  );
  const texts = data?.texts ?? [];
  return (
    <span className="ml-auto flex items-center gap-2">
      <label className="flex items-center gap-2">
        Under
        <input
          type="range"
          className="range range-primary range-xs w-28"
          aria-label="Cut combinations under so many searches"
          aria-valuetext={`${least} searches a month`}
          min={0}
          max={STEPS.length - 1}
          value={step}
          onChange={(event) => setStep(Number(event.target.value))}
        />
        <b className="w-10 text-right">{count(least)}</b> searches
      </label>
      {data !== undefined && data.more > 0 && (
        <label
          className="flex items-center gap-1 text-[12.5px]"
          title="Estimates inform and do not decide: combinations that only an estimate puts under the threshold are cut if you say so."
        >
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={byEstimates}
            onChange={({ target }) => setByEstimates(target.checked)}
          />
          and {count(data.more)} by estimate
        </label>
      )}
      <button
        type="button"
        className="btn btn-sm"
        disabled={texts.length === 0}
        title={`They are searched ${count(data?.searches ?? 0)} times a month in all.`}
        onClick={() => void onCut(texts, true)}
      >
        Cut {counted(texts.length, 'combination')}
      </button>
    </span>
  );
}
