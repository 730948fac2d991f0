import { changePassword } from '@sprig/contracts';
import { useState } from 'react';
import { toast } from 'sonner';
import { DoorField } from '../../door/DoorField.tsx';
import { NewPassword } from '../../door/FirstPage.tsx';
import { Told } from '../../door/SignIn.tsx';
import { useDoorForm } from '../../door/use-door-form.ts';

/** Another password, by the one that is there. */
export function Password() {
  const [isOpen, setOpen] = useState(false);
  return (
    <section aria-label="Password" className="mt-6 max-w-xl">
      <h2 className="mb-1 font-semibold">Password</h2>
      {isOpen ? (
        <Change onDone={() => setOpen(false)} />
      ) : (
        <button type="button" className="btn btn-sm" onClick={() => setOpen(true)}>
          Take another one
        </button>
      )}
    </section>
  );
}

function Change({ onDone }: { onDone: () => void }) {
  const [now, setNow] = useState('');
  const [next, setNext] = useState('');
  const form = useDoorForm(changePassword, () => {
    toast('The new password counts. You are signed out everywhere else.');
    onDone();
  });
  return (
    <form className="flex max-w-sm flex-col gap-3" onSubmit={form.submit(() => ({ now, next }))}>
      <DoorField
        label="The one you have"
        type="password"
        autoComplete="current-password"
        autoFocus
        required
        value={now}
        onText={setNow}
        refusal={form.refusalAt('now')}
      />
      <NewPassword
        label="The new one"
        value={next}
        onText={setNext}
        refusal={form.refusalAt('next') ?? form.refusalAt('password')}
      />
      <Told words={form.refusalAt('', ['now', 'next', 'password'])} />
      <p className="flex gap-2">
        <button type="submit" className="btn btn-primary btn-sm" disabled={form.isBusy}>
          Take it
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onDone}>
          Leave it
        </button>
      </p>
    </form>
  );
}
