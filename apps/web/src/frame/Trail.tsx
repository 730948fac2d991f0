import type { PlanState } from '@sprig/contracts';
import { NavLink } from 'react-router';
import { count, counted } from '../kit/format.ts';

export type LeafState = 'untouched' | 'unfinished' | 'done' | 'blocked';
type Leaf = { path: string; name: string; tally: string; state: LeafState };

/** The stages that can be worked in, in the order of the work; `g` and the number jump. */
export const stages = ['brief', 'gather', 'mix', 'prune', 'sort', 'build', 'write', 'ship'] as const;

export function leavesOf({ counts, builtRevision, revision }: PlanState): Leaf[] {
  const empty = counts.keywords === 0;
  const out = counts.cut + counts.folded + counts.blocked;
  const stale = builtRevision < revision;
  return [
    {
      path: 'brief',
      name: 'Brief',
      tally: counts.facts === 0 ? 'nothing set' : `${counted(counts.facts, 'fact')} set`,
      state: counts.facts === 0 ? 'untouched' : 'done',
    },
    {
      path: 'gather',
      name: 'Gather',
      tally: counted(counts.keywords, 'keyword'),
      state: empty && out === 0 ? 'untouched' : 'done',
    },
    {
      path: 'mix',
      name: 'Mix',
      tally: counts.recipes === 0 ? 'no recipes yet' : counted(counts.recipes, 'recipe'),
      state: counts.recipes === 0 ? 'untouched' : counts.recipesOut > 0 ? 'unfinished' : 'done',
    },
    {
      path: 'prune',
      name: 'Prune',
      tally: out === 0 ? 'nothing out' : `${count(out)} out`,
      state: empty ? 'untouched' : out === 0 ? 'unfinished' : 'done',
    },
    {
      path: 'sort',
      name: 'Sort',
      tally: counts.themes === 0 ? 'no themes yet' : counted(counts.themes, 'theme'),
      state: counts.themes === 0 ? 'untouched' : 'done',
    },
    {
      path: 'build',
      name: 'Build',
      tally: counts.groups === 0 ? 'no groups yet' : counted(counts.groups, 'group'),
      state: empty ? 'untouched' : stale ? 'unfinished' : 'done',
    },
    {
      path: 'write',
      name: 'Write',
      tally: empty ? 'no ads yet' : counts.misfits > 0 ? `${count(counts.misfits)} do not fit` : 'all fit',
      state: empty ? 'untouched' : counts.misfits > 0 ? 'unfinished' : 'done',
    },
    {
      path: 'ship',
      name: 'Ship',
      tally: counts.blockers > 0 ? counted(counts.blockers, 'blocker') : counted(counts.rows, 'row'),
      state: empty ? 'untouched' : counts.blockers > 0 ? 'blocked' : 'done',
    },
  ];
}

const stateWords: Record<LeafState, string> = {
  untouched: 'untouched',
  unfinished: 'unfinished',
  done: 'done',
  blocked: 'something blocks',
};

/** The navigation and the progress in one: a stem with a leaf per stage. */
export function Trail({ plan }: { plan: PlanState }) {
  return (
    <nav aria-label="Trail" className="relative flex h-full items-stretch">
      <span className="absolute inset-x-3 top-[19px] h-px bg-primary/50" aria-hidden />
      {leavesOf(plan).map(({ path, name, tally, state }, at) => (
        <NavLink
          key={path}
          to={path}
          title={`${name}: ${stateWords[state]} (g ${at + 1})`}
          className={({ isActive }) =>
            `relative flex w-[78px] flex-col items-center justify-start pt-1.5 min-[1200px]:w-[97px] ${isActive ? 'text-base-content' : 'text-faint hover:text-base-content'}`
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
