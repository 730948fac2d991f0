import { type ClientView, endClientLink, listClientLinks, makeClientLink } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { CopyLine } from '../../frame/CopyLine.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted, date } from '../../kit/format.ts';

const DAYS = [7, 14, 30, 90, 365] as const;
const USUAL_DAYS = 30;

/** Links by which a client reads this page without an account, as it is shown now. */
export function ClientLinks({
  plan,
  view,
  onClose,
}: {
  plan: number;
  view: ClientView;
  onClose: () => void;
}) {
  const { data, error } = useQuery({ ...question(listClientLinks, { params: { plan } }), staleTime: 0 });
  const { write, isBusy, refusal } = useWrite(makeClientLink, { refusals: 'here' });
  const { write: end, isBusy: isEnding } = useWrite(endClientLink);
  const [name, setName] = useState('');
  const [days, setDays] = useState<number>(USUAL_DAYS);
  const [made, setMade] = useState<{ name: string; link: string } | null>(null);
  const make = async () => {
    const answer = await write({ params: { plan }, body: { name, view, days } });
    if (!answer) return;
    setMade({ name, link: answer.link });
    setName('');
  };
  return (
    <Dialog title="Links for a client" onClose={onClose}>
      <p className="text-faint">
        Whoever has the link reads this page as it is shown now (what is left out here is not sent), with the
        plan as it stands whenever they look. They can change nothing, and see no other plan.
      </p>
      <form
        className="mt-3 flex flex-wrap items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        <input
          aria-label="For whom it is"
          className="input input-sm min-w-0 flex-1"
          placeholder="For whom: a name, so that you know it again"
          maxLength={200}
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
        <select
          className="chip cursor-pointer"
          aria-label="How long it works"
          value={days}
          onChange={({ target }) => setDays(Number(target.value))}
        >
          {DAYS.map((one) => (
            <option key={one} value={one}>
              for {counted(one, 'day')}
            </option>
          ))}
        </select>
        <button type="submit" className="btn btn-primary btn-sm" disabled={isBusy || name.trim() === ''}>
          Make a link
        </button>
      </form>
      {refusal && (
        <p role="alert" className="mt-2 text-error">
          {refusal}
        </p>
      )}
      {made && (
        <div className="mt-3">
          <p className="mb-1">
            The link for <b>{made.name}</b>. It is shown this once: copy it now.
          </p>
          <CopyLine label="The link" text={made.link} said="Copied the link." />
        </div>
      )}
      {error && (
        <p role="alert" className="mt-2 text-error">
          {wordsOf(error)}
        </p>
      )}
      {data && data.links.length > 0 && (
        <ul aria-label="Links that work" className="mt-4 divide-y divide-base-200 border-hair border-t">
          {data.links.map((link) => (
            <li key={link.id} className="grid grid-cols-[1fr_auto] items-center gap-2 py-1.5">
              <span className="min-w-0">
                <span className="block truncate">{link.name}</span>
                <span className="block text-[12.5px] text-faint">
                  until {date(link.endsAt)}, from {link.from};{' '}
                  {link.readAt
                    ? `read ${counted(link.timesRead, 'time')}, last on ${date(link.readAt)}`
                    : 'not read yet'}
                </span>
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-xs font-normal"
                aria-label={`Take back the link for ${link.name}`}
                disabled={isEnding}
                onClick={() => void end({ params: { plan, link: link.id } })}
              >
                Take back
              </button>
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  );
}
