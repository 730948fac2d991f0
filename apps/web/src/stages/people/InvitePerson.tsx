import {
  invitePerson,
  listPlans,
  type Permission,
  type PlanRole,
  permissions,
  planRoles,
  type Role,
  roles,
} from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { CopyLine } from '../../frame/CopyLine.tsx';
import { CheckSet } from '../../kit/CheckSet.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { DialogFoot } from '../../kit/DialogFoot.tsx';
import { hereWords, permissionWords, roleWords } from '../../kit/role-words.ts';

/** Invites somebody by mail; where no mail leaves the server the link is shown, to be handed on. */
export function InvitePerson({ onClose }: { onClose: () => void }) {
  const [email, setEmail] = useState('');
  const [role, setRole] = useState<Role>('builder');
  const [may, setMay] = useState<Permission[]>([]);
  const [plans, setPlans] = useState<ReadonlyMap<number, PlanRole>>(new Map());
  const { write, isBusy, refusal } = useWrite(invitePerson, { refusals: 'here' });
  const [link, setLink] = useState<string | null>(null);
  const send = async () => {
    const opened = role === 'guest' ? [...plans].map(([plan, here]) => ({ plan, role: here })) : [];
    const made = await write({ body: { email, role, permissions: may, plans: opened } });
    if (!made) return;
    if (made.link !== null) return setLink(made.link);
    toast(`An invitation is on its way to ${email.trim()}.`);
    onClose();
  };
  if (link !== null) return <HandOn email={email} link={link} onClose={onClose} />;
  return (
    <Dialog title="Invite somebody" onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="text-faint">E-mail</span>
          <input
            aria-label="E-mail"
            type="email"
            autoFocus
            required
            className="input input-sm w-full"
            placeholder="name@shop.example"
            value={email}
            onChange={({ target }) => setEmail(target.value)}
          />
        </label>
        <p>
          As{' '}
          <select
            aria-label="Role"
            className="chip cursor-pointer"
            value={role}
            onChange={({ target }) => setRole(target.value as Role)}
          >
            {roles.map((one) => (
              <option key={one} value={one}>
                {roleWords[one].name}
              </option>
            ))}
          </select>
          , who <span className="text-faint">{roleWords[role].does}.</span>
        </p>
        {role !== 'owner' && (
          <fieldset className="flex flex-wrap items-center gap-x-4" aria-label="Besides">
            <CheckSet
              names={permissions.map(
                (one) => [one, `${permissionWords[one].name}: ${permissionWords[one].does}`] as const,
              )}
              chosen={may}
              onChange={setMay}
            />
          </fieldset>
        )}
        {role === 'guest' && <GuestPlans chosen={plans} onChange={setPlans} />}
        {refusal && (
          <p role="alert" className="text-[12.5px] text-error">
            {refusal}
          </p>
        )}
        <DialogFoot
          words="Send the invitation"
          isOff={isBusy || email.trim() === '' || (role === 'guest' && plans.size === 0)}
          onLeave={onClose}
          leave="Leave it"
        />
      </form>
    </Dialog>
  );
}

type Chosen = ReadonlyMap<number, PlanRole>;

function GuestPlans({ chosen, onChange }: { chosen: Chosen; onChange: (chosen: Chosen) => void }) {
  const { data } = useQuery(question(listPlans));
  const set = (plan: number, role: PlanRole | '') => {
    const next = new Map(chosen);
    if (role === '') next.delete(plan);
    else next.set(plan, role);
    onChange(next);
  };
  return (
    <fieldset aria-label="Plans">
      <p className="mb-1 text-faint">A guest sees at least one plan:</p>
      <ul className="max-h-48 divide-y divide-base-200 overflow-auto border-hair border-y">
        {data?.plans.map(({ id, name }) => (
          <li key={id} className="grid min-h-8 grid-cols-[1fr_10rem] items-center gap-3">
            <span className="truncate">{name}</span>
            <select
              className="chip cursor-pointer"
              aria-label={`What the guest does in ${name}`}
              value={chosen.get(id) ?? ''}
              onChange={({ target }) => set(id, target.value as PlanRole | '')}
            >
              <option value="">{hereWords.none}</option>
              {planRoles.map((role) => (
                <option key={role} value={role}>
                  {hereWords[role]}
                </option>
              ))}
            </select>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}

function HandOn({ email, link, onClose }: { email: string; link: string; onClose: () => void }) {
  return (
    <Dialog title="Hand the link on" onClose={onClose}>
      <p className="mb-2">
        No mail leaves this server. Give this link to {email.trim()} yourself: it works once, within a week,
        and is shown this once.
      </p>
      <CopyLine label="Link of the invitation" text={link} said="The link is copied." />
      <DialogFoot
        words="Done"
        isOff={false}
        onDo={onClose}
        onLeave={onClose}
        leave="Close"
        className="mt-4"
      />
    </Dialog>
  );
}
