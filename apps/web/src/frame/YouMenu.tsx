import { chooseWorkspace, signOut } from '@sprig/contracts';
import { UserRound } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { call, wordsOf } from '../data/call.ts';
import { useMe, usePreferences } from '../data/me.ts';
import { useMay } from '../kit/allowed.tsx';
import { standingText } from '../kit/role-words.ts';
import { Beginnings } from './Beginnings.tsx';

const themes = [
  ['system', 'As the system'],
  ['sprig', 'Light'],
  ['sprig-night', 'Dark'],
] as const;

/** The user's own settings. */
export function YouMenu({ onHistory }: { onHistory?: () => void }) {
  const { preferences, name, setAloud } = usePreferences();
  const [isOpen, setOpen] = useState(false);
  const may = useMay();
  return (
    <div className="dropdown dropdown-end">
      <button
        type="button"
        className="btn btn-ghost btn-square btn-sm"
        title={`Settings of ${name || 'yours'}`}
        aria-label="Your settings"
      >
        <UserRound size={16} />
      </button>
      <div className="dropdown-content z-30 mt-1 w-64 rounded-md border border-hair bg-base-100 p-3">
        <Who />
        <fieldset className="mb-2">
          <legend className="mb-1 text-[12px] text-faint">Colours</legend>
          {themes.map(([value, words]) => (
            <label key={value} className="flex items-center gap-2 py-0.5">
              <input
                type="radio"
                name="theme"
                className="radio radio-xs"
                checked={preferences.theme === value}
                onChange={() => setAloud({ theme: value })}
              />
              {words}
            </label>
          ))}
        </fieldset>
        <label className="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={preferences.helps}
            onChange={(event) => setAloud({ helps: event.target.checked })}
          />
          Show one-line helps
        </label>
        <label className="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={preferences.steps}
            onChange={(event) => setAloud({ steps: event.target.checked })}
          />
          Propose the next step
        </label>
        <button
          type="button"
          className="btn btn-ghost btn-sm mt-1 w-full justify-start px-1 font-normal"
          onClick={() => setOpen(true)}
        >
          What new plans begin with
        </button>
        <Link to="/you" className="btn btn-ghost btn-sm w-full justify-start px-1 font-normal">
          Your account
        </Link>
        {may('read') && (
          <Link to="/people" className="btn btn-ghost btn-sm w-full justify-start px-1 font-normal">
            People
          </Link>
        )}
        <Link to="/how" className="btn btn-ghost btn-sm w-full justify-start px-1 font-normal">
          How it works
        </Link>
        {onHistory && (
          <button
            type="button"
            className="btn btn-ghost btn-sm w-full justify-start px-1 font-normal"
            onClick={onHistory}
          >
            History of this plan
          </button>
        )}
        <button
          type="button"
          className="btn btn-ghost btn-sm w-full justify-start px-1 font-normal"
          onClick={() => void leave()}
        >
          Sign out
        </button>
      </div>
      {isOpen && <Beginnings onClose={() => setOpen(false)} />}
    </div>
  );
}

/** What is shown of somebody is not left for the next one: the page is opened anew. */
async function leave() {
  try {
    await call(signOut);
    window.location.assign('/door');
  } catch (error) {
    toast.error(wordsOf(error));
  }
}

/** Who is signed in, and where; of several workspaces another can be chosen. */
function Who() {
  const me = useMe();
  if (!me) return null;
  const choose = async (workspace: number) => {
    try {
      await call(chooseWorkspace, { body: { workspace } });
      window.location.assign('/');
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
  return (
    <div className="mb-2 border-hair border-b pb-2">
      <b className="block truncate font-semibold">{me.name}</b>
      <span className="block text-[12.5px] text-faint">{standingText(me)}</span>
      {me.workspaces.length > 1 ? (
        <select
          aria-label="Workspace"
          className="chip mt-1 max-w-full cursor-pointer"
          value={me.workspaceId}
          onChange={({ target }) => void choose(Number(target.value))}
        >
          {me.workspaces.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      ) : (
        <span className="block truncate text-[12.5px] text-faint">{me.workspace}</span>
      )}
    </div>
  );
}
