import { forgetPassword, readDoor, resetPassword } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { wordsOf } from '../data/call.ts';
import { question } from '../data/question.ts';
import { DoorField } from './DoorField.tsx';
import { DoorShell } from './DoorShell.tsx';
import { NewPassword } from './FirstPage.tsx';
import { LinkGone } from './InvitedPage.tsx';
import { Told } from './SignIn.tsx';
import { tokenHere } from './token-here.ts';
import { useDoorForm } from './use-door-form.ts';
import { useLink } from './use-link.ts';

/** Asks for a link by which a new password is set. */
export function ForgottenPage() {
  const { data } = useQuery({ ...question(readDoor), staleTime: 0 });
  const [email, setEmail] = useState('');
  const [isSent, setSent] = useState(false);
  const form = useDoorForm(forgetPassword, () => setSent(true));
  return (
    <DoorShell title="A new password">
      {isSent ? (
        <p role="status">If {email} has an account here, a link is on its way there. It works for an hour.</p>
      ) : (
        <form className="flex flex-col gap-3" onSubmit={form.submit(() => ({ email }))}>
          {data && !data.sendsMail && (
            <p role="status" className="text-warning">
              No mail leaves this server. Whoever runs it can make a link for you:{' '}
              <code>npm run new-password -- you@shop.example</code>
            </p>
          )}
          <DoorField
            label="E-mail"
            type="email"
            autoComplete="username"
            autoFocus
            required
            value={email}
            onText={setEmail}
            refusal={form.refusalAt('email')}
          />
          <Told words={form.refusalAt('', ['email'])} />
          <p className="flex items-center justify-between">
            <Link to="/door" className="link text-faint">
              Back
            </Link>
            <button type="submit" className="btn btn-primary btn-sm" disabled={form.isBusy}>
              Send the link
            </button>
          </p>
        </form>
      )}
    </DoorShell>
  );
}

/** Sets a new password by the link of a mail. */
export function ResetPage() {
  const [token] = useState(tokenHere);
  const { data: link, error } = useLink(token);
  const [password, setPassword] = useState('');
  const navigate = useNavigate();
  const form = useDoorForm(resetPassword, () => {
    toast('The new password is set. Come in with it; you are signed out everywhere else.');
    void navigate('/door', { replace: true });
  });
  if (error) return <LinkGone words={wordsOf(error)} />;
  if (!link) return null;
  return (
    <DoorShell title="A new password">
      <form className="flex flex-col gap-3" onSubmit={form.submit(() => ({ token, password }))}>
        <DoorField
          label="E-mail"
          type="email"
          autoComplete="username"
          value={link.email}
          readOnly
          onText={() => {}}
        />
        <NewPassword value={password} onText={setPassword} refusal={form.refusalAt('password')} />
        <Told words={form.refusalAt('', ['password'])} />
        <button type="submit" className="btn btn-primary btn-sm self-end" disabled={form.isBusy}>
          Set it
        </button>
      </form>
    </DoorShell>
  );
}
