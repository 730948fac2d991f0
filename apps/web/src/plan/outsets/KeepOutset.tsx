import { editOutset, keepOutset, listOutsets, type OutsetPart, outsetParts } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { DialogFoot } from '../../kit/DialogFoot.tsx';
import { OutsetParts } from './OutsetParts.tsx';

type Props = { plan: number; name: string; onClose: () => void };

/** What a plan goes by, kept under a name for new plans and for others. */
export function KeepOutset({ plan, name: planName, onClose }: Props) {
  const { data } = useQuery(question(listOutsets));
  const [name, setName] = useState(planName);
  const [instead, setInstead] = useState<number | null>(null);
  const [parts, setParts] = useState<OutsetPart[]>([...outsetParts]);
  const [isDefault, setDefault] = useState(false);
  const { write, isBusy, refusal } = useWrite(keepOutset, { refusals: 'here' });
  const { write: edit } = useWrite(editOutset);
  const outsets = data?.outsets ?? [];
  const keep = async () => {
    const kept = await write({ params: { plan }, body: { name, parts, instead } });
    if (!kept) return;
    const was = outsets.find(({ id }) => id === instead)?.isDefault ?? false;
    if (isDefault !== was) await edit({ params: { outset: kept.id }, body: { isDefault } });
    onClose();
  };
  return (
    <Dialog title={`Keep the rules of ${planName} as an outset`} onClose={onClose} wide>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isBusy && parts.length > 0) void keep();
        }}
      >
        <div className="flex gap-4">
          <label className="flex flex-1 flex-col gap-1">
            <span className="text-faint">Name</span>
            <input
              autoFocus
              required
              className="input input-sm w-full"
              value={name}
              onChange={({ target }) => setName(target.value)}
            />
          </label>
          <label className="flex flex-1 flex-col gap-1">
            <span className="text-faint">Kept as</span>
            <select
              className="select select-sm w-full"
              value={instead ?? ''}
              onChange={({ target }) => {
                const chosen = outsets.find(({ id }) => String(id) === target.value);
                setInstead(chosen?.id ?? null);
                setDefault(chosen?.isDefault ?? isDefault);
                if (chosen) setName(chosen.name);
              }}
            >
              <option value="">a new outset</option>
              {outsets.map((outset) => (
                <option key={outset.id} value={outset.id}>
                  {outset.name}, in the place of what it holds
                </option>
              ))}
            </select>
          </label>
        </div>
        <OutsetParts has={outsetParts} chosen={parts} onChoose={setParts} />
        <label className="flex items-center gap-2 text-[13px]">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={isDefault}
            onChange={({ target }) => setDefault(target.checked)}
          />
          New plans begin with it, unless something else is chosen
        </label>
        {refusal && (
          <p role="alert" className="text-[12.5px] text-error">
            {refusal}
          </p>
        )}
        <p className="text-[12.5px] text-faint">
          Keywords, what is set by hand, and what is the client’s own (name, offers, brands, rivals, first and
          last day) are not kept. A later change of this plan does not change the outset.
        </p>
        <DialogFoot
          words="Keep the outset"
          isOff={isBusy || parts.length === 0 || name.trim() === ''}
          onLeave={onClose}
          leave="Leave it"
          className="mt-0"
        />
      </form>
    </Dialog>
  );
}
