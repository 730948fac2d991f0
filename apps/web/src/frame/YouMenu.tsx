import { UserRound } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { usePreferences } from '../data/me.ts';
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
      <div className="dropdown-content z-30 mt-1 w-60 rounded-md border border-hair bg-base-100 p-3">
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
      </div>
      {isOpen && <Beginnings onClose={() => setOpen(false)} />}
    </div>
  );
}
