import { may, type readMe as ReadMe, readMe } from '@sprig/contracts';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Navigate, Outlet, useLocation } from 'react-router';
import type { z } from 'zod';
import { CallFailure, call, wordsOf } from '../data/call.ts';
import { question } from '../data/question.ts';
import { setSignedOut, useSignedOut } from '../data/signed-out.ts';
import { Allowed } from '../kit/allowed.tsx';
import { Dialog } from '../kit/Dialog.tsx';
import { Empty } from '../kit/Empty.tsx';
import { SignIn } from './SignIn.tsx';

const me = question(readMe);

/** Lets in who is signed in. Who is signed out meanwhile signs in above what they see, and loses nothing of it. */
export function Guard() {
  const { data, error } = useQuery({ ...me, staleTime: Number.POSITIVE_INFINITY });
  const isOut = useSignedOut();
  const { pathname, search, hash } = useLocation();
  if (!data) {
    const isUnknown = error instanceof CallFailure && error.failure.code === 'signed-out';
    const to = `${pathname}${search}${hash}`;
    if (isUnknown)
      return <Navigate to={to === '/' ? '/door' : `/door?to=${encodeURIComponent(to)}`} replace />;
    return error ? (
      <div className="grid h-full place-items-center p-8">
        <Empty title={wordsOf(error)}>Reload the page in a moment.</Empty>
      </div>
    ) : null;
  }
  return (
    <Allowed may={(access) => may(data, access)}>
      <Outlet />
      {isOut && <SignedOut was={data} />}
    </Allowed>
  );
}

function SignedOut({ was }: { was: z.output<typeof ReadMe.answer> }) {
  const client = useQueryClient();
  const back = async () => {
    const now = await call(readMe);
    // What stands here is of somebody else, who may see more.
    if (now.actor !== was.actor) return window.location.assign('/');
    client.setQueryData(me.queryKey, now);
    setSignedOut(false);
    await client.invalidateQueries();
  };
  return (
    <Dialog title="You were signed out" onClose={() => {}}>
      <p className="mb-4">Your session has ended. What you typed is still here: come in again, and go on.</p>
      <SignIn email={was.email} onIn={back} />
    </Dialog>
  );
}
