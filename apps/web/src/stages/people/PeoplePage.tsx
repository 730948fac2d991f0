import { listPeople, readDoor, renameWorkspace } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { UserRoundPlus } from 'lucide-react';
import { useEffect, useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { fetchAgain } from '../../data/fetch-again.ts';
import { queryClient } from '../../data/query-client.ts';
import { workspaceKey } from '../../data/query-key.ts';
import { question } from '../../data/question.ts';
import { PlainPage } from '../../frame/PlainPage.tsx';
import { useAddress } from '../../kit/address.ts';
import { Needs, useMay, Where } from '../../kit/allowed.tsx';
import { useCommands } from '../../kit/commands.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { ViewButtons } from '../../kit/ViewButtons.tsx';
import { AuditTrail } from './AuditTrail.tsx';
import { peopleCommands } from './commands.ts';
import { InvitePerson } from './InvitePerson.tsx';
import { Mailbox } from './Mailbox.tsx';
import { Members } from './Members.tsx';
import { Tokens } from './Tokens.tsx';

/** Who is in the workspace, and may do what. */
export function PeoplePage() {
  const { data, error } = useQuery({ ...question(listPeople), staleTime: 0 });
  const may = useMay();
  const [params, set] = useAddress();
  const [inviting, setInviting] = useState(false);
  const isOwner = may('people');
  const { data: door } = useQuery(question(readDoor));
  const hasMailbox = isOwner && door !== undefined && door.demo !== null && !door.sendsMail;
  const views = [
    ['', 'Members', 'm'],
    ['tokens', 'Tokens', 't'],
    ['audit', 'What happened', 'a'],
    ...(hasMailbox ? [['mails', 'Mails of the demo', 'b'] as const] : []),
  ] as const;
  const [view] = (isOwner && views.find(([id]) => id === params.get('view'))) || views[0];
  useCommands(peopleCommands, {
    members: () => set({ view: '' }),
    audit: () => isOwner && set({ view: 'audit' }),
    tokens: () => isOwner && set({ view: 'tokens' }),
    mails: () => hasMailbox && set({ view: 'mails' }),
    invite: () => isOwner && setInviting(true),
  });
  useEffect(() => {
    document.title = 'People – Green Sprig';
  }, []);
  const rename = async (name: string) => {
    try {
      await call(renameWorkspace, { body: { name } });
      await fetchAgain(queryClient, { queryKey: workspaceKey });
      return null;
    } catch (refused) {
      return wordsOf(refused);
    }
  };
  return (
    <PlainPage
      title="People"
      about={
        data && (
          <Needs access="people">
            Who works in{' '}
            <InlineEdit
              tabStop
              label="name of the workspace"
              shown={<b className="font-semibold text-base-content">{data.workspace}</b>}
              text={data.workspace}
              onKeep={rename}
              wide
            />
          </Needs>
        )
      }
    >
      <div className="mt-4 mb-3 flex min-h-8 items-center justify-between gap-3">
        <Where access="people">
          <span className="flex gap-1.5">
            <ViewButtons
              views={views}
              current={view}
              figures={data ? { '': String(data.members.length) } : {}}
              onView={(next) => set({ view: next })}
            />
          </span>
          <button type="button" className="btn btn-primary btn-sm" onClick={() => setInviting(true)}>
            <UserRoundPlus size={15} aria-hidden /> Invite somebody
          </button>
        </Where>
      </div>
      {error && (
        <p role="alert" className="text-error">
          {wordsOf(error)}
        </p>
      )}
      {view === 'audit' && <AuditTrail />}
      {view === 'tokens' && <Tokens />}
      {view === 'mails' && <Mailbox />}
      {view === '' && data && <Members {...data} />}
      {inviting && <InvitePerson onClose={() => setInviting(false)} />}
    </PlainPage>
  );
}
