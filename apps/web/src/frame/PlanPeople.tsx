import { listPlanPeople, type PlanRole, planRoles, type Role, setPlanRole } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsOf } from '../data/call.ts';
import { useMe } from '../data/me.ts';
import { question } from '../data/question.ts';
import { useWrite } from '../data/use-write.ts';
import { Dialog } from '../kit/Dialog.tsx';
import { FilterField } from '../kit/FilterField.tsx';
import { count } from '../kit/format.ts';
import { hereWords, roleWords } from '../kit/role-words.ts';

const doesHere = (role: Role, here: PlanRole | 'none' | null): string => {
  if (here) return hereWords[here];
  return role === 'guest' ? hereWords.none : roleWords[role].does;
};

/** As many stand in the dialog at once; the filter finds the others. */
const SHOWN = 100;

/** Who sees this plan, and may do what with it. Owners of the workspace decide. */
export function PlanPeople({ plan, onClose }: { plan: number; onClose: () => void }) {
  const { data, error } = useQuery({ ...question(listPlanPeople, { params: { plan } }), staleTime: 0 });
  const isOwner = useMe()?.role === 'owner';
  const { write, isBusy } = useWrite(setPlanRole);
  const [filter, setFilter] = useState('');
  const words = filter.trim().toLowerCase();
  const found = (data?.people ?? []).filter(({ name }) => name.toLowerCase().includes(words));
  return (
    <Dialog title="Who sees this plan" onClose={onClose}>
      {error && (
        <p role="alert" className="text-error">
          {wordsOf(error)}
        </p>
      )}
      {(data?.people.length ?? 0) > 12 && (
        <p className="mb-2">
          <FilterField label="Filter people" placeholder="a name" value={filter} onChange={setFilter} />
        </p>
      )}
      <ul className="divide-y divide-base-200">
        {found.slice(0, SHOWN).map(({ actor, name, role, here }) => (
          <li key={actor} className="grid min-h-9 grid-cols-[1fr_13rem] items-center gap-3">
            <span className="truncate">
              {name} <span className="text-[12.5px] text-faint">{roleWords[role].name}</span>
            </span>
            {isOwner && role !== 'owner' ? (
              <select
                className="chip cursor-pointer"
                aria-label={`What ${name} does here`}
                disabled={isBusy}
                value={here ?? ''}
                onChange={({ target }) =>
                  void write({
                    params: { plan, actor },
                    body: { here: target.value === '' ? null : (target.value as PlanRole | 'none') },
                  })
                }
              >
                <option value="">
                  {role === 'guest' ? 'does not see it' : `as in the workspace: ${roleWords[role].name}`}
                </option>
                {planRoles.map((one) => (
                  <option key={one} value={one}>
                    {hereWords[one]}
                  </option>
                ))}
                {role !== 'guest' && <option value="none">{hereWords.none}</option>}
              </select>
            ) : (
              <span className="text-faint">{doesHere(role, here)}</span>
            )}
          </li>
        ))}
      </ul>
      {found.length > SHOWN && (
        <p className="mt-2 text-[12.5px] text-faint">{count(found.length - SHOWN)} more: type a name.</p>
      )}
      {isOwner && (
        <p className="mt-3 text-[12.5px] text-faint">
          Others are invited under{' '}
          <Link to="/people" className="link">
            People
          </Link>
          ; a guest sees only what is opened to them here.
        </p>
      )}
    </Dialog>
  );
}
