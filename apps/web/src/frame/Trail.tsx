import { NavLink } from 'react-router';
import type { Leaf, LeafState } from './leaf.ts';

const stateWords: Record<LeafState, string> = {
  untouched: 'untouched',
  unfinished: 'unfinished',
  done: 'done',
  blocked: 'something blocks',
};

/** The navigation and the progress in one: a stem with a leaf per stage. */
export function Trail({ leaves }: { leaves: readonly Leaf[] }) {
  return (
    <nav
      aria-label="Trail"
      className="relative flex h-full items-stretch max-[999px]:order-last max-[999px]:col-span-2 max-[999px]:h-[58px] max-[999px]:overflow-x-auto"
    >
      <span className="absolute inset-x-3 top-[19px] h-px bg-primary/50" aria-hidden />
      {leaves.map(({ path, name, tally, state }, at) => (
        <NavLink
          key={path}
          to={path}
          title={`${name}: ${stateWords[state]} (g ${at + 1})`}
          className={({ isActive }) =>
            `relative flex w-[69px] shrink-0 flex-col items-center justify-start pt-1.5 min-[1200px]:w-[86px] min-[1280px]:w-[92px] ${isActive ? 'text-base-content' : 'text-faint hover:text-base-content'}`
          }
        >
          {({ isActive }) => (
            <>
              <LeafMark state={state} flip={at % 2 === 1} />
              <span className={`-mt-0.5 text-[13px] leading-4 ${isActive ? 'font-bold' : 'font-medium'}`}>
                {name}
              </span>
              <span
                className={`max-w-full truncate whitespace-nowrap text-[11px] min-[1200px]:text-[11.5px] leading-4 ${state === 'blocked' ? 'text-error' : ''}`}
              >
                {tally}
              </span>
              {isActive && <span className="absolute inset-x-6 bottom-0 h-0.5 rounded bg-primary" />}
            </>
          )}
        </NavLink>
      ))}
    </nav>
  );
}

/** Outlined: untouched; half: unfinished; filled: done; a thorn: something blocks. */
function LeafMark({ state, flip }: { state: LeafState; flip: boolean }) {
  const leaf = 'M4 13C4 6 9 2 19 2c0 8-5 12-11 12-2 0-4-1-4-1Z';
  return (
    <svg
      width="24"
      height="22"
      viewBox="0 0 22 20"
      role="img"
      aria-label={stateWords[state]}
      className="text-primary"
      style={flip ? { transform: 'scaleX(-1)' } : undefined}
    >
      <title>{stateWords[state]}</title>
      <path d={leaf} className="fill-base-100 stroke-current" strokeWidth="1.3" />
      {state === 'done' && <path d={leaf} className="fill-current" />}
      {state === 'unfinished' && (
        <path d="M4 13C4 6 9 2 19 2L6 13.6c-1.2-.2-2-.6-2-.6Z" className="fill-current" />
      )}
      {state === 'blocked' && (
        <path d="M8 17 10.5 6 15 15.5Z" className="fill-error stroke-base-100" strokeWidth="1" />
      )}
      <path
        d="M3 17c1.5-4 5-8 10-10.5"
        className={`fill-none ${state === 'done' ? 'stroke-primary-content' : 'stroke-current'}`}
        strokeWidth="1"
      />
    </svg>
  );
}
