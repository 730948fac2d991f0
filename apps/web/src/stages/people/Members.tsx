import {
  askAcceptance,
  changeMember,
  type InvitationView,
  type MemberView,
  type Permission,
  permissions,
  type Role,
  removeMember,
  roles,
  takeBackInvitation,
} from '@sprig/contracts';
import { UserRoundX, X } from 'lucide-react';
import { useState } from 'react';
import { useWrite } from '../../data/use-write.ts';
import { useMay } from '../../kit/allowed.tsx';
import { CheckSet } from '../../kit/CheckSet.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { DialogFoot } from '../../kit/DialogFoot.tsx';
import { FilterField } from '../../kit/FilterField.tsx';
import { count, counted, date } from '../../kit/format.ts';
import { permissionWords, roleWords, standingText } from '../../kit/role-words.ts';

/** As many stand on the page at once; the filter finds the others. */
const SHOWN = 200;
/** With fewer nobody needs a filter. */
const MANY = 12;

type Props = {
  members: readonly MemberView[];
  invitations: readonly InvitationView[];
  asksAcceptance: boolean;
};

export function Members({ members, invitations, asksAcceptance }: Props) {
  const [filter, setFilter] = useState('');
  const words = filter.trim().toLowerCase();
  const found = members.filter(({ name, email, role }) =>
    [name, email ?? '', roleWords[role].name].some((text) => text.toLowerCase().includes(words)),
  );
  return (
    <>
      {members.length > MANY && (
        <p className="mb-2 flex items-center gap-3">
          <FilterField
            label="Filter people"
            placeholder="a name, an address or a role"
            value={filter}
            onChange={setFilter}
          />
          <span className="text-faint">{counted(found.length, 'member')}</span>
        </p>
      )}
      <ul aria-label="Members" className="divide-y divide-base-300 border-hair border-y">
        {found.slice(0, SHOWN).map((member) => (
          <Member key={member.actor} member={member} />
        ))}
      </ul>
      {found.length > SHOWN && (
        <p className="mt-1 text-[12.5px] text-faint">{count(found.length - SHOWN)} more: type a name.</p>
      )}
      {invitations.length > 0 && (
        <>
          <h2 className="mt-6 mb-1 font-semibold">Invited</h2>
          <ul aria-label="Invitations" className="divide-y divide-base-300 border-hair border-y">
            {invitations.map((invitation) => (
              <Invited key={invitation.id} invitation={invitation} />
            ))}
          </ul>
        </>
      )}
      <Acceptance asks={asksAcceptance} members={members} />
    </>
  );
}

function Member({ member }: { member: MemberView }) {
  const { actor, name, email, role, permissions: own, isYou, lastSeenAt, hasSecondFactor } = member;
  const may = useMay();
  const [removing, setRemoving] = useState(false);
  const { write, isBusy } = useWrite(changeMember, { said: () => `${name} may do that from now on.` });
  const change = (after: { role: Role; permissions: Permission[] }) =>
    void write({ params: { actor }, body: { before: { role, permissions: own }, after } });
  const seen = [
    lastSeenAt && `last here ${date(lastSeenAt)}`,
    hasSecondFactor !== null && (hasSecondFactor ? 'with a second factor' : 'without a second factor'),
  ].filter(Boolean);
  return (
    <li className="grid min-h-12 grid-cols-[1fr_auto_2rem] items-center gap-4 px-2 py-1.5">
      <div className="min-w-0">
        <span className="block truncate">
          <b className="font-semibold">{name}</b> {isYou && <span className="text-faint">you</span>}
        </span>
        <span className="block truncate text-[12.5px] text-faint">
          {[email, ...seen].filter(Boolean).join(' · ') || roleWords[role].does}
        </span>
      </div>
      {may('people') ? (
        <span className="flex items-center gap-4">
          <CheckSet
            names={permissions.map((one) => [one, permissionWords[one].name] as const)}
            // An owner may do all of it.
            chosen={role === 'owner' ? permissions : own}
            disabled={isBusy || role === 'owner'}
            onChange={(chosen) => change({ role, permissions: [...chosen] })}
          />
          <select
            className="chip w-28 cursor-pointer"
            aria-label={`Role of ${name}`}
            title={roleWords[role].does}
            disabled={isBusy}
            value={role}
            onChange={({ target }) => change({ role: target.value as Role, permissions: own })}
          >
            {roles.map((one) => (
              <option key={one} value={one}>
                {roleWords[one].name}
              </option>
            ))}
          </select>
        </span>
      ) : (
        <span className="text-faint">{standingText({ role, permissions: own })}</span>
      )}
      {may('people') && (
        <button
          type="button"
          className="btn btn-ghost btn-square btn-xs"
          title={`Take ${name} out of the workspace`}
          aria-label={`Take ${name} out of the workspace`}
          onClick={() => setRemoving(true)}
        >
          <UserRoundX size={15} />
        </button>
      )}
      {removing && <Removing member={member} onClose={() => setRemoving(false)} />}
    </li>
  );
}

function Removing({ member, onClose }: { member: MemberView; onClose: () => void }) {
  const { write, isBusy, refusal } = useWrite(removeMember, {
    said: () => `${member.name} is out of the workspace.`,
    refusals: 'here',
  });
  return (
    <Dialog title={`Take ${member.name} out`} onClose={onClose}>
      <p>
        {member.isYou ? 'You are' : `${member.name} is`} signed out of this workspace at once. What was done
        stays in the history under {member.isYou ? 'your' : 'their'} name, and an invitation brings{' '}
        {member.isYou ? 'you' : 'them'} back.
      </p>
      {refusal && (
        <p role="alert" className="mt-2 text-error">
          {refusal}
        </p>
      )}
      <DialogFoot
        words={`Take ${member.name} out`}
        isOff={isBusy}
        onDo={async () => {
          if (await write({ params: { actor: member.actor } })) onClose();
        }}
        onLeave={onClose}
        leave="Leave it"
      />
    </Dialog>
  );
}

function Invited({ invitation }: { invitation: InvitationView }) {
  const { id, email, from, endsAt } = invitation;
  const { write, isBusy } = useWrite(takeBackInvitation, {
    said: () => `The link that ${email} was sent works no more.`,
  });
  return (
    <li className="grid min-h-10 grid-cols-[1fr_auto_2rem] items-center gap-4 px-2">
      <span className="truncate">
        {email}{' '}
        <span className="text-[12.5px] text-faint">
          by {from}, until {date(endsAt)}
        </span>
      </span>
      <span className="text-faint">{standingText(invitation)}</span>
      <button
        type="button"
        className="btn btn-ghost btn-square btn-xs"
        title="Take it back"
        aria-label={`Take the invitation of ${email} back`}
        disabled={isBusy}
        onClick={() => void write({ params: { invitation: id } })}
      >
        <X size={15} />
      </button>
    </li>
  );
}

/** Whether ads ship only once somebody has accepted them. */
function Acceptance({ asks, members }: { asks: boolean; members: readonly MemberView[] }) {
  const { write, isBusy } = useWrite(askAcceptance);
  const isOwner = useMay()('people');
  const who = members.filter(({ role, permissions: own }) => role === 'owner' || own.includes('approve'));
  return (
    <label className="mt-6 flex items-baseline gap-2">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={isBusy ? !asks : asks}
        disabled={!isOwner}
        onChange={({ target }) => void write({ body: { asks: target.checked } })}
      />
      <span>
        Ads ship only once somebody has accepted them
        <span className="block text-[12.5px] text-faint">
          They are handed over and looked at at the desk, in Write. Ads that change after that are looked at
          anew.
          {asks && ` ${who.map(({ name }) => name).join(', ')} may accept.`}
        </span>
      </span>
    </label>
  );
}
