import { beginSecondFactor, confirmSecondFactor, endSecondFactor } from '@sprig/contracts';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Copy } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { wordsOf } from '../../data/call.ts';
import { fetchAgain } from '../../data/fetch-again.ts';
import { queryClient } from '../../data/query-client.ts';
import { workspaceKey } from '../../data/query-key.ts';
import { DoorField } from '../../door/DoorField.tsx';
import { Told } from '../../door/SignIn.tsx';
import { useDoorForm } from '../../door/use-door-form.ts';
import { copyCells } from '../../kit/clipboard.ts';

type State =
  | { step: 'rest' }
  | { step: 'password'; to: 'begin' | 'end' }
  | { step: 'scan'; secret: string; uri: string }
  | { step: 'codes'; codes: readonly string[] };

const readAgain = () => fetchAgain(queryClient, { queryKey: workspaceKey });

/** A second factor: set up by an authenticator, with recovery codes for when it is lost. */
export function SecondFactor({ isOn }: { isOn: boolean }) {
  const [state, setState] = useState<State>({ step: 'rest' });
  const rest = () => setState({ step: 'rest' });
  return (
    <section aria-label="Second factor" className="mt-6 max-w-xl">
      <h2 className="mb-1 font-semibold">Second factor</h2>
      {state.step === 'rest' && (
        <>
          <p className="mb-2">
            {isOn
              ? 'On: signing in asks for a code of your authenticator too.'
              : 'Off. With it nobody comes in who has only your password.'}
          </p>
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => setState({ step: 'password', to: isOn ? 'end' : 'begin' })}
          >
            {isOn ? 'Turn it off' : 'Set it up'}
          </button>
        </>
      )}
      {state.step === 'password' && (
        <ByPassword
          to={state.to}
          onLeave={rest}
          onBegun={(begun) => setState({ step: 'scan', ...begun })}
          onEnded={rest}
        />
      )}
      {state.step === 'scan' && (
        <Scan {...state} onLeave={rest} onCodes={(codes) => setState({ step: 'codes', codes })} />
      )}
      {state.step === 'codes' && <Codes codes={state.codes} onDone={rest} />}
    </section>
  );
}

type Begun = { secret: string; uri: string };

function ByPassword({
  to,
  onBegun,
  onEnded,
  onLeave,
}: {
  to: 'begin' | 'end';
  onBegun: (begun: Begun) => void;
  onEnded: () => void;
  onLeave: () => void;
}) {
  const [password, setPassword] = useState('');
  const begin = useDoorForm(beginSecondFactor, onBegun);
  const end = useDoorForm(endSecondFactor, async () => {
    await readAgain();
    toast('The second factor is off, and its recovery codes work no more.');
    onEnded();
  });
  const form = to === 'begin' ? begin : end;
  return (
    <form className="flex max-w-sm flex-col gap-3" onSubmit={form.submit(() => ({ password }))}>
      <DoorField
        label="Your password"
        type="password"
        autoComplete="current-password"
        autoFocus
        required
        value={password}
        onText={setPassword}
        refusal={form.refusalAt('now')}
      />
      <Told words={form.refusalAt('', ['now'])} />
      <Foot words={to === 'begin' ? 'Go on' : 'Turn it off'} isBusy={form.isBusy} onLeave={onLeave} />
    </form>
  );
}

/** The picture that an authenticator reads. */
const usePicture = (uri: string) =>
  useQuery({
    queryKey: ['second factor', uri],
    queryFn: async () => {
      const { toString: draw } = await import('qrcode');
      const svg = await draw(uri, { type: 'svg', margin: 2 });
      return `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`;
    },
    gcTime: 0,
    meta: { reads: [] },
  });

function Scan({
  secret,
  uri,
  onCodes,
  onLeave,
}: Begun & { onCodes: (codes: readonly string[]) => void; onLeave: () => void }) {
  const [code, setCode] = useState('');
  const { data: picture } = usePicture(uri);
  const client = useQueryClient();
  const form = useDoorForm(confirmSecondFactor, async ({ recoveryCodes }) => {
    client.removeQueries({ queryKey: ['second factor'] });
    await readAgain();
    onCodes(recoveryCodes);
  });
  return (
    <form className="flex flex-col gap-3" onSubmit={form.submit(() => ({ code }))}>
      <div className="flex gap-5">
        {picture && (
          <img
            src={picture}
            alt="The key of your second factor, for an authenticator to read"
            width="160"
            height="160"
            className="rounded-md"
          />
        )}
        <div className="flex max-w-xs flex-col gap-3">
          <p>
            Have your authenticator read this, or type the key into it:{' '}
            <code className="break-all">{secret.match(/.{1,4}/g)?.join(' ')}</code>
          </p>
          <DoorField
            label="The code that it shows now"
            autoComplete="one-time-code"
            inputMode="numeric"
            autoFocus
            required
            value={code}
            onText={setCode}
            refusal={form.refusalAt('code')}
          />
        </div>
      </div>
      <Told words={form.refusalAt('', ['code'])} />
      <Foot words="Turn it on" isBusy={form.isBusy} onLeave={onLeave} />
    </form>
  );
}

function Codes({ codes, onDone }: { codes: readonly string[]; onDone: () => void }) {
  const copy = () =>
    void copyCells(codes.map((code) => [code])).then(
      () => toast('The recovery codes are copied.'),
      (error: unknown) => toast.error(wordsOf(error)),
    );
  return (
    <div>
      <p className="mb-2">
        It is on. Keep these codes where you find them without your authenticator: each lets you in once, and
        they are shown this once.
      </p>
      <ol aria-label="Recovery codes" className="mb-3 grid max-w-sm grid-cols-2 gap-x-6 tabular-nums">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ol>
      <p className="flex gap-2">
        <button type="button" className="btn btn-sm" onClick={copy}>
          <Copy size={14} aria-hidden /> Copy
        </button>
        <button type="button" className="btn btn-primary btn-sm" onClick={onDone}>
          I have them
        </button>
      </p>
    </div>
  );
}

const Foot = ({ words, isBusy, onLeave }: { words: string; isBusy: boolean; onLeave: () => void }) => (
  <p className="flex gap-2">
    <button type="submit" className="btn btn-primary btn-sm" disabled={isBusy}>
      {words}
    </button>
    <button type="button" className="btn btn-ghost btn-sm" onClick={onLeave}>
      Leave it
    </button>
  </p>
);
