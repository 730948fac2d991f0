import type { PlanState } from '@sprig/contracts';
import { ArrowRight, ChevronUp } from 'lucide-react';
import { useRef, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { usePressElsewhere } from '../../kit/use-press-elsewhere.ts';
import { stepWords } from './next-words.ts';
import { useNextStep } from './use-next-step.ts';

/** What is worth doing next, with why; one step at a time. Each can be skipped, and all of it turned off. */
export function NextStep({ plan }: { plan: PlanState }) {
  const { step, skip, stop } = useNextStep(plan);
  const location = useLocation();
  const [isOpen, setOpen] = useState(false);
  const box = useRef<HTMLElement>(null);
  usePressElsewhere(box, isOpen, () => setOpen(false));
  if (!step) return null;
  const { act, why, to } = stepWords(step);
  const isHere = location.pathname.endsWith(`/plans/${plan.id}/${to.split('?')[0]}`);
  return (
    <section
      ref={box}
      aria-label="Next step"
      className="relative flex h-full shrink-0 items-center gap-0.5 border-hair border-l px-2"
      onKeyDown={(event) => {
        if (event.key === 'Escape') setOpen(false);
      }}
    >
      <Link
        to={`/plans/${plan.id}/${to}`}
        data-next-step={step.code}
        title={why}
        className="flex items-center gap-1.5 rounded px-1.5 py-1 font-semibold text-primary hover:bg-base-300"
        onClick={() => setOpen(false)}
      >
        {act}
        <ArrowRight size={14} aria-hidden />
      </Link>
      {isHere && (
        <button
          type="button"
          className="btn btn-ghost btn-xs font-normal"
          title="What comes after it is proposed then"
          onClick={() => skip(step.code)}
        >
          Skip
        </button>
      )}
      <button
        type="button"
        className="btn btn-ghost btn-square btn-xs"
        aria-label="Why this step, and skipping it"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
      >
        <ChevronUp size={13} aria-hidden />
      </button>
      {isOpen && (
        <div className="absolute right-2 bottom-full z-30 mb-px w-80 rounded-t-md border border-hair bg-base-100 p-3 text-[12.5px]">
          <p className="mb-2">{why}</p>
          <div className="flex items-center gap-1.5">
            <button
              type="button"
              className="btn btn-xs"
              onClick={() => {
                setOpen(false);
                skip(step.code);
              }}
            >
              Skip it in this plan
            </button>
            <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={stop}>
              Propose no more steps
            </button>
          </div>
          <p className="mt-2 text-faint">
            <span className="key">g</span> <span className="key">n</span> leads there. Steps are turned on and
            off in your settings.
          </p>
        </div>
      )}
    </section>
  );
}
