import {
  endToken,
  listPlans,
  listTokens,
  makeToken,
  type Permission,
  type PlanRole,
  permissions,
  planRoles,
  type TokenView,
} from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { KeyRound, X } from 'lucide-react';
import { useState } from 'react';
import { wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { CopyLine } from '../../frame/CopyLine.tsx';
import { CheckSet } from '../../kit/CheckSet.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { DialogFoot } from '../../kit/DialogFoot.tsx';
import { date } from '../../kit/format.ts';
import { permissionWords, roleWords, standingText } from '../../kit/role-words.ts';

/** Tokens by which programs ask. */
export function Tokens() {
  const { data, error } = useQuery({ ...question(listTokens), staleTime: 0 });
  const [making, setMaking] = useState(false);
  const tokens = data?.tokens ?? [];
  return (
    <>
      <p className="mb-2 flex items-center justify-between gap-3 text-faint">
        <span>
          By a token a program asks what the screens ask (
          <a className="link" href="/api/docs">
            all calls
          </a>
          ), and <code>npm run sprig</code> makes plans and writes sheets.
        </span>
        <button type="button" className="btn btn-sm shrink-0" onClick={() => setMaking(true)}>
          <KeyRound size={14} aria-hidden /> Make a token
        </button>
      </p>
      {error && (
        <p role="alert" className="text-error">
          {wordsOf(error)}
        </p>
      )}
      {tokens.length > 0 && (
        <ul aria-label="Tokens" className="divide-y divide-base-300 border-hair border-y">
          {tokens.map((token) => (
            <Line key={token.id} token={token} />
          ))}
        </ul>
      )}
      {making && <MakeToken onClose={() => setMaking(false)} />}
    </>
  );
}

function Line({ token }: { token: TokenView }) {
  const { id, name, role, permissions: own, plan, from, usedAt, endsAt } = token;
  const { write, isBusy } = useWrite(endToken, { said: () => `The token ${name} works no more.` });
  return (
    <li className="grid min-h-12 grid-cols-[1fr_auto_2rem] items-center gap-4 px-2 py-1">
      <div className="min-w-0">
        <b className="block truncate font-semibold">{name}</b>
        <span className="block truncate text-[12.5px] text-faint">
          by {from}, until {date(endsAt)}, {usedAt ? `last used ${date(usedAt)}` : 'not used yet'}
        </span>
      </div>
      <span className="text-faint">
        {standingText({ role, permissions: own })}
        {plan && ` in ${plan.name}`}
      </span>
      <button
        type="button"
        className="btn btn-ghost btn-square btn-xs"
        title="End it"
        aria-label={`End the token ${name}`}
        disabled={isBusy}
        onClick={() => void write({ params: { token: id } })}
      >
        <X size={15} />
      </button>
    </li>
  );
}

const DAYS = [7, 30, 90, 366] as const;

function MakeToken({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState('');
  const [role, setRole] = useState<PlanRole>('builder');
  const [may, setMay] = useState<Permission[]>([]);
  const [plan, setPlan] = useState<number | null>(null);
  const [days, setDays] = useState<number>(30);
  const [token, setToken] = useState<string | null>(null);
  const { data } = useQuery(question(listPlans));
  const { write, isBusy, refusal } = useWrite(makeToken, { refusals: 'here' });
  if (token !== null)
    return (
      <Dialog title={`The token ${name.trim()}`} onClose={onClose}>
        <p className="mb-2">Keep it where the program finds it: it is shown this once.</p>
        <CopyLine label="The token" text={token} said="The token is copied." />
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
  return (
    <Dialog title="Make a token" onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={async (event) => {
          event.preventDefault();
          const made = await write({ body: { name, role, permissions: may, plan, days } });
          if (made) setToken(made.token);
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="text-faint">Name, as it stands in the history</span>
          <input
            aria-label="Name of the token"
            autoFocus
            required
            maxLength={80}
            className="input input-sm w-full"
            placeholder="For example nightly sheets"
            value={name}
            onChange={({ target }) => setName(target.value)}
          />
        </label>
        <p>
          As{' '}
          <select
            aria-label="Role of the token"
            className="chip cursor-pointer"
            value={role}
            onChange={({ target }) => setRole(target.value as PlanRole)}
          >
            {planRoles.map((one) => (
              <option key={one} value={one}>
                {roleWords[one].name}
              </option>
            ))}
          </select>{' '}
          in{' '}
          <select
            aria-label="Plan of the token"
            className="chip max-w-60 cursor-pointer"
            value={plan ?? ''}
            onChange={({ target }) => setPlan(target.value === '' ? null : Number(target.value))}
          >
            <option value="">all plans</option>
            {data?.plans.map(({ id, name: of }) => (
              <option key={id} value={id}>
                {of}
              </option>
            ))}
          </select>{' '}
          for{' '}
          <select
            aria-label="How long it works"
            className="chip cursor-pointer"
            value={days}
            onChange={({ target }) => setDays(Number(target.value))}
          >
            {DAYS.map((one) => (
              <option key={one} value={one}>
                {one} days
              </option>
            ))}
          </select>
        </p>
        <fieldset className="flex flex-wrap items-center gap-x-4" aria-label="Besides">
          <CheckSet
            names={permissions.map(
              (one) => [one, `${permissionWords[one].name}: ${permissionWords[one].does}`] as const,
            )}
            chosen={may}
            onChange={setMay}
          />
        </fieldset>
        {refusal && (
          <p role="alert" className="text-[12.5px] text-error">
            {refusal}
          </p>
        )}
        <DialogFoot
          words="Make the token"
          isOff={isBusy || name.trim() === ''}
          onLeave={onClose}
          leave="Leave it"
        />
      </form>
    </Dialog>
  );
}
