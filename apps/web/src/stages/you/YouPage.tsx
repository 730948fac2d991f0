import { changeMyName } from '@sprig/contracts';
import { useEffect } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { fetchAgain } from '../../data/fetch-again.ts';
import { useMe } from '../../data/me.ts';
import { queryClient } from '../../data/query-client.ts';
import { workspaceKey } from '../../data/query-key.ts';
import { PlainPage } from '../../frame/PlainPage.tsx';
import { Needs } from '../../kit/allowed.tsx';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { standingText } from '../../kit/role-words.ts';
import { Password } from './Password.tsx';
import { SecondFactor } from './SecondFactor.tsx';
import { Sessions } from './Sessions.tsx';

/** One's own account: name, password, second factor, and where one is signed in. */
export function YouPage() {
  const me = useMe();
  useEffect(() => {
    document.title = 'Your account – Green Sprig';
  }, []);
  if (!me) return null;
  const rename = async (name: string) => {
    try {
      await call(changeMyName, { body: { name } });
      await fetchAgain(queryClient, { queryKey: workspaceKey });
      return null;
    } catch (error) {
      return wordsOf(error);
    }
  };
  return (
    <PlainPage title="Your account" about={`${me.email}: ${standingText(me)} in ${me.workspace}.`}>
      <Needs access="self">
        <section aria-label="Name" className="mt-6 max-w-xl">
          <h2 className="mb-1 font-semibold">Name</h2>
          <p>
            Others know you as{' '}
            <InlineEdit
              tabStop
              label="your name"
              shown={<b className="font-semibold">{me.name}</b>}
              text={me.name}
              onKeep={rename}
              wide
            />
          </p>
        </section>
      </Needs>
      {me.isDemo ? (
        <p className="mt-6 max-w-xl text-faint">
          {me.name} is somebody of the demo, with no password and no second factor: whoever sits at this
          machine comes in so by one click.
        </p>
      ) : (
        <>
          <Password />
          <SecondFactor isOn={me.hasSecondFactor} />
        </>
      )}
      <Sessions />
    </PlainPage>
  );
}
