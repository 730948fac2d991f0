import { useNavigate, useSearchParams } from 'react-router';
import { setSignedOut } from '../data/signed-out.ts';
import { DoorShell } from './DoorShell.tsx';
import { nextPath } from './next-path.ts';
import { SignIn, useForgetAll } from './SignIn.tsx';

/** Where one comes in. */
export function DoorPage() {
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const forget = useForgetAll();
  return (
    <DoorShell title="Green Sprig">
      <SignIn
        onIn={() => {
          forget();
          setSignedOut(false);
          void navigate(nextPath(params.get('to')), { replace: true });
        }}
      />
    </DoorShell>
  );
}
