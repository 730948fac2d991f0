import { useState } from 'react';
import { useOpenPlan } from '../../data/plan.ts';
import { useCommands } from '../../kit/commands.ts';
import { KeepOutset } from '../../plan/outsets/KeepOutset.tsx';
import { TakeOutset } from '../../plan/outsets/TakeOutset.tsx';
import { briefCommands } from './commands.ts';

/** What the plan goes by, taken from an outset or kept as one. */
export function BriefOutsets() {
  const { id, brief } = useOpenPlan();
  const [open, setOpen] = useState<'take' | 'keep' | null>(null);
  const close = () => setOpen(null);
  useCommands(briefCommands, { take: () => setOpen('take'), keep: () => setOpen('keep') });
  return (
    <p className="flex flex-wrap justify-end gap-2">
      <button type="button" className="btn btn-ghost btn-xs" onClick={() => setOpen('take')}>
        Take in an outset …
      </button>
      <button type="button" className="btn btn-ghost btn-xs" onClick={() => setOpen('keep')}>
        Keep the rules as an outset …
      </button>
      {open === 'take' && (
        <TakeOutset plan={id} name={brief.name} currency={brief.currency} onClose={close} />
      )}
      {open === 'keep' && <KeepOutset plan={id} name={brief.name} onClose={close} />}
    </p>
  );
}
