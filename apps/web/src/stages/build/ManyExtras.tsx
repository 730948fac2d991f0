import { type ExtraView, listExtras, placeExtras } from '@sprig/contracts';
import type { ExtraBody } from '@sprig/core/write';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { DialogFoot } from '../../kit/DialogFoot.tsx';
import { count, counted } from '../../kit/format.ts';

type Props = { plan: number; places: readonly string[]; what: string; onClose: () => void };

const KINDS = { sitelink: 'sitelink', callout: 'callout', phone: 'phone number' } as const;
const textOf = (body: ExtraBody): string => (body.kind === 'phone' ? body.number : body.text);

/** At how many of some places an extra is shown by itself: beside those, the plan's are shown everywhere. */
const shownAt = ({ at }: ExtraView, places: ReadonlySet<string>): number =>
  at.filter((key) => places.has(key)).length;

/** Which extras are shown at many campaigns or ad groups: those that are ticked at all of them, others as they were. */
export function ManyExtras({ plan, places, what, onClose }: Props) {
  const { data: extras } = useQuery({
    ...question(listExtras, { params: { plan } }),
    select: ({ extras: all }) => all,
  });
  const [wanted, setWanted] = useState<ReadonlyMap<number, boolean>>(new Map());
  const { write, isBusy } = useWrite(placeExtras, {
    said: ({ changed }) =>
      `Changed where ${counted(changed, 'extra')} ${changed === 1 ? 'is' : 'are'} shown.`,
  });
  const chosen = new Set(places);
  const ids = (isOn: boolean) => [...wanted].flatMap(([id, on]) => (on === isOn ? [id] : []));
  const apply = async () => {
    const body = { places: [...places], give: ids(true), take: ids(false) };
    if (await write({ params: { plan }, body })) onClose();
  };
  return (
    <Dialog title={`Extras of ${what}`} onClose={onClose}>
      {extras?.length === 0 && (
        <p className="text-faint">
          There are no extras yet. Make sitelinks, callouts and phone numbers in Write.
        </p>
      )}
      <ul className="max-h-80 overflow-auto text-[13px]">
        {extras?.map((extra) => {
          const { id, body, at } = extra;
          const now = shownAt(extra, chosen);
          const isEverywhere = at.includes('plan');
          const isOn = wanted.get(id) ?? now === chosen.size;
          return (
            <li key={id}>
              <label className="flex items-center gap-2 py-0.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  disabled={isEverywhere}
                  checked={isEverywhere || isOn}
                  ref={(box) => {
                    if (box)
                      box.indeterminate = !isEverywhere && !wanted.has(id) && now > 0 && now < chosen.size;
                  }}
                  onChange={({ target }) => setWanted(new Map(wanted).set(id, target.checked))}
                />
                <span className="truncate">{textOf(body)}</span>
                <span className="ml-auto shrink-0 text-faint">
                  {isEverywhere
                    ? 'for the plan'
                    : `${KINDS[body.kind]}, at ${count(now)} of ${count(chosen.size)}`}
                </span>
              </label>
            </li>
          );
        })}
      </ul>
      <DialogFoot
        words={`Change ${counted(wanted.size, 'extra')}`}
        isOff={wanted.size === 0 || isBusy}
        onDo={() => void apply()}
        onLeave={onClose}
      />
    </Dialog>
  );
}
