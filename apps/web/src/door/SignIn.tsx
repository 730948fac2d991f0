import { enterDemo, readDoor, signIn, signInByCode, signOut } from '@sprig/contracts';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsOf } from '../data/call.ts';
import { question } from '../data/question.ts';
import { standingText } from '../kit/role-words.ts';
import { DoorField } from './DoorField.tsx';
import { useDoorForm } from './use-door-form.ts';

type Props = {
  /** Who was signed in before; their address need not be typed again. */
  email?: string;
  onIn: () => unknown;
};

/** Comes in: by a password and a second factor, or as somebody of the demo. */
export function SignIn({ email = '', onIn }: Props) {
  const { data, error, refetch } = useQuery({ ...question(readDoor), staleTime: 0, gcTime: 0 });
  const [isAskedForCode, setAskedForCode] = useState(false);
  const step = ({ next }: { next: 'in' | 'code' }) => (next === 'in' ? onIn() : setAskedForCode(true));
  if (error)
    return (
      <p role="alert" className="text-error">
        {wordsOf(error)}
      </p>
    );
  if (!data) return null;
  const again = () => {
    setAskedForCode(false);
    void refetch();
  };
  if (data.stands === 'nowhere') return <Nowhere onOut={again} />;
  if (isAskedForCode || data.stands === 'code') return <ByCode onStep={step} onAgain={again} />;
  return (
    <div className="flex flex-col gap-6">
      {data.demo && <DemoPeople people={data.demo} onStep={step} />}
      {data.isFirst && !data.demo ? (
        <FirstHint />
      ) : (
        !data.isFirst && <ByPassword email={email} onStep={step} />
      )}
    </div>
  );
}

type Step = (step: { next: 'in' | 'code' }) => unknown;

function ByPassword({ email: before, onStep }: { email: string; onStep: Step }) {
  const [email, setEmail] = useState(before);
  const [password, setPassword] = useState('');
  const form = useDoorForm(signIn, onStep);
  return (
    <form className="flex flex-col gap-3" onSubmit={form.submit(() => ({ email, password }))}>
      <DoorField
        label="E-mail"
        type="email"
        name="email"
        autoComplete="username"
        autoFocus={before === ''}
        required
        value={email}
        onText={setEmail}
      />
      <DoorField
        label="Password"
        type="password"
        name="password"
        autoComplete="current-password"
        autoFocus={before !== ''}
        required
        value={password}
        onText={setPassword}
        refusal={form.refusalAt('password')}
      />
      <Told words={form.refusalAt('', ['password'])} />
      <p className="flex items-center justify-between">
        <Link to="/door/forgotten" className="link text-faint">
          A new password
        </Link>
        <button type="submit" className="btn btn-primary btn-sm" disabled={form.isBusy}>
          Come in
        </button>
      </p>
    </form>
  );
}

function ByCode({ onStep, onAgain }: { onStep: Step; onAgain: () => void }) {
  const [code, setCode] = useState('');
  const form = useDoorForm(signInByCode, onStep);
  const out = useDoorForm(signOut, onAgain);
  return (
    <form className="flex flex-col gap-3" onSubmit={form.submit(() => ({ code }))}>
      <DoorField
        label="Code of your second factor"
        name="code"
        autoComplete="one-time-code"
        inputMode="text"
        autoFocus
        required
        value={code}
        onText={setCode}
        refusal={form.refusalAt('code')}
        help="Six digits of your authenticator; or one of your recovery codes, which works once."
      />
      <Told words={form.refusalAt('', ['code'])} />
      <p className="flex items-center justify-between">
        <button type="button" className="btn btn-ghost btn-sm" onClick={() => void out.send({})}>
          As somebody else
        </button>
        <button type="submit" className="btn btn-primary btn-sm" disabled={form.isBusy}>
          Come in
        </button>
      </p>
    </form>
  );
}

type Person = NonNullable<(typeof readDoor)['answer']['_output']['demo']>[number];

function DemoPeople({ people, onStep }: { people: readonly Person[]; onStep: Step }) {
  const form = useDoorForm(enterDemo, onStep);
  return (
    <section aria-label="People of the demo">
      <p className="mb-2">
        This is the demo, and its people are made up. Come in as one of them: no password is asked, and only
        this machine is let in so.
      </p>
      <ul className="divide-y divide-base-300 border-hair border-y">
        {people.map((person) => (
          <li key={person.id}>
            <button
              type="button"
              className="flex w-full items-baseline justify-between gap-3 px-2 py-2 text-left hover:bg-wash"
              disabled={form.isBusy}
              onClick={() => void form.send({ person: person.id })}
            >
              <b className="font-semibold">{person.name}</b>
              <span className="text-faint">{standingText(person)}</span>
            </button>
          </li>
        ))}
      </ul>
      <Told words={form.refusalAt('')} />
    </section>
  );
}

const FirstHint = () => (
  <p>
    Nobody has an account here yet. The command that started this server has printed a link: open it, and you
    are the owner.
  </p>
);

function Nowhere({ onOut }: { onOut: () => void }) {
  const out = useDoorForm(signOut, onOut);
  return (
    <div>
      <p className="mb-3">You are in no workspace any more. Ask an owner to invite you again.</p>
      <button type="button" className="btn btn-sm" onClick={() => void out.send({})}>
        Sign out
      </button>
    </div>
  );
}

export const Told = ({ words }: { words: string | null }) =>
  words && (
    <p role="alert" className="text-[12.5px] text-error">
      {words}
    </p>
  );

/** What was read as somebody else, or as nobody, is forgotten. */
export function useForgetAll(): () => void {
  const client = useQueryClient();
  return () => client.removeQueries({ type: 'inactive' });
}
