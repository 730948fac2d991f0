import type { GapClass } from '@sprig/core/gather';
import { ArrowLeft } from 'lucide-react';
import type { ReactNode } from 'react';
import { Help } from '../../../frame/Help.tsx';
import { count, counted, short } from '../../../kit/format.ts';
import { Yield } from '../../../kit/Yield.tsx';
import type { GroupedBy, IdeaGroup } from './idea-groups.ts';

export type Filters = { contains: string; excludes: string; least: number };
type FilterProps = { filters: Filters; onFilters: (filters: Filters) => void };

/** Which of the ideas found are shown. */
export function IdeaFilters({ filters, onFilters }: FilterProps) {
  const small = (label: string, at: 'contains' | 'excludes', placeholder: string) => (
    <input
      aria-label={label}
      className="input input-sm w-28"
      placeholder={placeholder}
      value={filters[at]}
      onChange={(event) => onFilters({ ...filters, [at]: event.target.value })}
    />
  );
  return (
    <>
      with {small('Contains', 'contains', 'any word')} but not {small('Excludes', 'excludes', 'no word')} and
      at least{' '}
      <input
        aria-label="Least searches"
        className="input input-sm w-20 text-right"
        inputMode="numeric"
        value={filters.least}
        onChange={(event) =>
          onFilters({ ...filters, least: Number(event.target.value.replace(/\D/g, '').slice(0, 9)) })
        }
      />{' '}
      searches a month
    </>
  );
}

type ChoiceProps<Id> = {
  label: string;
  /** What the first says, by which all are shown. */
  all: string;
  choices: readonly { id: Id; words: string; count: number; title?: string }[];
  /** Null: all of them. */
  chosen: Id | null;
  onChoose: (chosen: Id | null) => void;
  className: string;
  children?: ReactNode;
};

/** Parts of what is listed, each with how many it has. */
function ChoiceBar<Id extends string | number>({
  label,
  all,
  choices,
  chosen,
  onChoose,
  className,
  children,
}: ChoiceProps<Id>) {
  const button = (id: Id | null, face: ReactNode, title?: string) => (
    <button
      key={id}
      type="button"
      aria-pressed={chosen === id}
      title={title}
      className={`btn btn-xs shrink-0 font-normal ${chosen === id ? 'btn-active' : ''}`}
      onClick={() => onChoose(id)}
    >
      {face}
    </button>
  );
  return (
    <div
      role="toolbar"
      aria-label={label}
      className={`flex items-center gap-1.5 overflow-x-auto ${className}`}
    >
      {button(null, all)}
      {choices.map((one) =>
        button(
          one.id,
          <>
            {one.words} <b>{count(one.count)}</b>
          </>,
          one.title,
        ),
      )}
      {children}
    </div>
  );
}

type ClassProps = {
  classes: readonly GapClass[];
  /** Null: all of them. */
  chosen: number | null;
  onChoose: (chosen: number | null) => void;
};

/** Words that stand in the same places, each with how many combinations the pool lacks. */
export const ClassBar = ({ classes, ...choice }: ClassProps) => (
  <ChoiceBar
    label="Classes of gaps"
    all="all classes"
    choices={classes.slice(0, 30).map(({ fillers, gaps }, id) => ({
      id,
      words: `${fillers.slice(0, 2).join(', ')} …`,
      count: gaps,
      title: fillers.join(', '),
    }))}
    className="h-10 shrink-0 border-hair border-b px-4"
    {...choice}
  />
);

type GroupProps = {
  groups: readonly IdeaGroup[];
  by: GroupedBy;
  /** The name of the group that is shown; null: all of them. */
  chosen: string | null;
  busy: boolean;
  onChoose: (chosen: string | null) => void;
  onTake: (texts: string[]) => void;
  onDismiss: (texts: string[]) => void;
};

/** Groups of ideas, each shown by a press, and taken in or dismissed as a whole. */
export function GroupBar({ groups, by, chosen, busy, onChoose, onTake, onDismiss }: GroupProps) {
  const group = groups.find(({ name }) => name === chosen);
  const texts = group?.ideas.map(({ text }) => text) ?? [];
  return (
    <div className="flex h-10 shrink-0 items-center gap-2 border-hair border-b px-4">
      <ChoiceBar
        label={`Groups by ${by}`}
        all="all"
        choices={groups.map(({ name, ideas }) => ({
          id: name,
          words: name || 'no theme',
          count: ideas.length,
        }))}
        chosen={group?.name ?? null}
        onChoose={onChoose}
        className="min-w-0 flex-1"
      >
        {groups.length === 0 && (
          <span className="text-faint">
            {by === 'theme' ? 'Nothing new to group.' : 'No two new ideas share a word.'}
          </span>
        )}
      </ChoiceBar>
      {group && (
        <>
          <button
            type="button"
            className="btn btn-xs shrink-0"
            disabled={busy}
            onClick={() => onDismiss(texts)}
          >
            Dismiss all {count(texts.length)}
          </button>
          <button
            type="button"
            className="btn btn-primary btn-xs shrink-0"
            disabled={busy}
            onClick={() => onTake(texts)}
          >
            Take in all {count(texts.length)}
          </button>
        </>
      )}
    </div>
  );
}

type YieldProps = {
  /** Those shown. */
  rows: readonly { inPool: boolean; searches: number | null }[];
  found: number;
  ticked: number;
};

/** From the ideas found to those that are ticked. */
export const IdeasYield = ({ rows, found, ticked }: YieldProps) => (
  <Yield
    isPart
    terms={[
      { id: 'found', figure: count(found), words: 'ideas found' },
      { id: 'shown', figure: count(rows.length), words: 'shown' },
      { id: 'new', figure: count(rows.filter(({ inPool }) => !inPool).length), words: 'new to the pool' },
      { id: 'chosen', figure: count(ticked), words: 'ticked' },
      {
        id: 'searches',
        figure: rows.some(({ searches }) => searches !== null)
          ? `≈ ${short(rows.reduce((sum, { searches }) => sum + (searches ?? 0), 0))}`
          : '–',
        words: 'searches a month',
        more: (
          <Help>
            The sum over the ideas shown, of the figures that are known:{' '}
            {counted(rows.filter(({ searches }) => searches === null).length, 'idea')} have none. Most are
            estimated from what was told of other keywords.
          </Help>
        ),
      },
    ]}
  />
);

type HeadProps = {
  /** They come from the stand-in market. */
  isMadeUp: boolean;
  chosen: number;
  busy: boolean;
  onClose: () => void;
  onDismiss: () => void;
  onTake: () => void;
};

/** The way back, and what is done with the ideas that are ticked. */
export const IdeasHead = ({ isMadeUp, chosen, busy, onClose, onDismiss, onTake }: HeadProps) => (
  <section className="flex h-12 shrink-0 items-center gap-3 border-hair border-b px-4">
    <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
      <ArrowLeft size={15} aria-hidden /> Back to the pool
    </button>
    {isMadeUp && (
      <span className="rounded-md bg-base-200 px-2 py-1 text-warning">
        Made up by the stand-in market: no real market is asked
      </span>
    )}
    <button type="button" className="btn btn-sm ml-auto" disabled={busy || chosen === 0} onClick={onDismiss}>
      Dismiss {counted(chosen, 'idea')} <span className="key">d</span>
    </button>
    <button
      type="button"
      className="btn btn-primary btn-sm"
      disabled={busy || chosen === 0}
      title={chosen === 0 ? 'Tick the ideas to take in; Ctrl A ticks all' : undefined}
      onClick={onTake}
    >
      Take in {counted(chosen, 'idea')}
    </button>
  </section>
);

type StartProps = {
  isSite: boolean;
  typed: string;
  placeholder: string | undefined;
  isBusy: boolean;
  onType: (typed: string) => void;
  /** Has the site read. */
  onRead: () => void;
};

/** What ideas start from: words, or the address of a site that is read. */
export const StartFrom = ({ isSite, typed, placeholder, isBusy, onType, onRead }: StartProps) => (
  <form
    className="flex items-center gap-1"
    onSubmit={(event) => {
      event.preventDefault();
      if (isSite && typed.trim() !== '') onRead();
    }}
  >
    <input
      // biome-ignore lint/a11y/noAutofocus: the view was opened to type into it
      autoFocus
      aria-label={isSite ? 'Address of the site' : 'Words to start from'}
      className="input input-sm w-72"
      placeholder={placeholder}
      value={typed}
      onChange={(event) => onType(event.target.value)}
    />
    {isSite && (
      <button type="submit" className="btn btn-sm" disabled={isBusy || typed.trim() === ''}>
        Read the site
      </button>
    )}
  </form>
);
