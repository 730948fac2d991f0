import { LEAST_PASSWORD, makeOwner } from '@sprig/contracts';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { DoorField } from './DoorField.tsx';
import { DoorShell } from './DoorShell.tsx';
import { Told, useForgetAll } from './SignIn.tsx';
import { tokenHere } from './token-here.ts';
import { useDoorForm } from './use-door-form.ts';

const FIELDS = ['name', 'workspace', 'email', 'password'];

/** The first visitor makes the owner. */
export function FirstPage() {
  const [token] = useState(tokenHere);
  const [name, setName] = useState('');
  const [workspace, setWorkspace] = useState('');
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const navigate = useNavigate();
  const forget = useForgetAll();
  const form = useDoorForm(makeOwner, () => {
    forget();
    void navigate('/', { replace: true });
  });
  return (
    <DoorShell title="You are the first here">
      <form
        className="flex flex-col gap-3"
        onSubmit={form.submit(() => ({ token, name, workspace, email, password }))}
      >
        <p className="text-faint">You own the workspace, and invite whoever works with you.</p>
        <DoorField
          label="Your name"
          autoComplete="name"
          autoFocus
          required
          value={name}
          onText={setName}
          refusal={form.refusalAt('name')}
        />
        <DoorField
          label="Name of the workspace"
          autoComplete="organization"
          required
          value={workspace}
          onText={setWorkspace}
          refusal={form.refusalAt('workspace')}
        />
        <DoorField
          label="E-mail"
          type="email"
          autoComplete="username"
          required
          value={email}
          onText={setEmail}
          refusal={form.refusalAt('email')}
        />
        <NewPassword value={password} onText={setPassword} refusal={form.refusalAt('password')} />
        <Told words={form.refusalAt('', FIELDS)} />
        <button type="submit" className="btn btn-primary btn-sm self-end" disabled={form.isBusy}>
          Make the workspace
        </button>
      </form>
    </DoorShell>
  );
}

type Props = { value: string; onText: (text: string) => void; refusal: string | null; label?: string };

/** A password that is chosen anew. */
export const NewPassword = ({ label = 'Password', ...field }: Props) => (
  <DoorField
    label={label}
    type="password"
    autoComplete="new-password"
    required
    help={`${LEAST_PASSWORD} characters at least, such as four words that have nothing to do with each other.`}
    {...field}
  />
);
