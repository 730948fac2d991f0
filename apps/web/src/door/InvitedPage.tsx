import { acceptInvitation } from '@sprig/contracts';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { wordsOf } from '../data/call.ts';
import { roleWords } from '../kit/role-words.ts';
import { DoorField } from './DoorField.tsx';
import { DoorShell } from './DoorShell.tsx';
import { NewPassword } from './FirstPage.tsx';
import { Told, useForgetAll } from './SignIn.tsx';
import { tokenHere } from './token-here.ts';
import { useDoorForm } from './use-door-form.ts';
import { useLink } from './use-link.ts';

/** Accepts an invitation. */
export function InvitedPage() {
  const [token] = useState(tokenHere);
  const { data: link, error } = useLink(token);
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const navigate = useNavigate();
  const forget = useForgetAll();
  const form = useDoorForm(acceptInvitation, ({ next }) => {
    forget();
    void navigate(next === 'in' ? '/' : '/door', { replace: true });
  });
  if (error) return <LinkGone words={wordsOf(error)} />;
  if (!link) return null;
  return (
    <DoorShell title={`Come to ${link.workspace}`}>
      <form
        className="flex flex-col gap-3"
        onSubmit={form.submit(() => ({ token, name: link.isKnown ? null : name, password }))}
      >
        <p>
          {link.from} invites you as <b className="font-semibold">{link.role && roleWords[link.role].name}</b>
          <span className="text-faint">: {link.role && roleWords[link.role].does}.</span>
        </p>
        <DoorField
          label="E-mail"
          type="email"
          autoComplete="username"
          value={link.email}
          readOnly
          onText={() => {}}
        />
        {link.isKnown ? (
          <DoorField
            label="Your password here"
            type="password"
            autoComplete="current-password"
            autoFocus
            required
            value={password}
            onText={setPassword}
            refusal={form.refusalAt('password')}
            help="This address has an account already: come in with it."
          />
        ) : (
          <>
            <DoorField
              label="Your name"
              autoComplete="name"
              autoFocus
              required
              value={name}
              onText={setName}
              refusal={form.refusalAt('name')}
            />
            <NewPassword value={password} onText={setPassword} refusal={form.refusalAt('password')} />
          </>
        )}
        <Told words={form.refusalAt('', ['name', 'password'])} />
        <button type="submit" className="btn btn-primary btn-sm self-end" disabled={form.isBusy}>
          Come in
        </button>
      </form>
    </DoorShell>
  );
}

export const LinkGone = ({ words }: { words: string }) => (
  <DoorShell title="This link leads nowhere">
    <p role="alert">{words}</p>
  </DoorShell>
);
