import { useState } from 'react';
import { Help } from '../../frame/Help.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted, short } from '../../kit/format.ts';
import type { ProposalSummary } from '../../pool/sorting.ts';
import { share, shareOf } from './sort-words.ts';

type Props = {
  proposal: ProposalSummary | null | undefined;
  busy: boolean;
  where: string;
  /** Themes that are there by now, where they can be replaced, and the share of searches that they place. */
  there: number;
  now: string;
  /** The brief names places, which then divide only where nothing else does. */
  hasPlaces: boolean;
  instead: boolean;
  onInstead: (instead: boolean) => void;
  onTake: (branches: number[], themes: number) => void;
  /** For a pool that is too large for this window: the server proposes and makes the themes. Null where it is not. */
  onServer: (() => void) | null;
  onClose: () => void;
};

/** The full tree at once: what it would make, compared with what is there; taken whole or by branches. */
export function WholePlan({
  proposal,
  busy,
  where,
  there,
  now,
  hasPlaces,
  instead,
  onInstead,
  onTake,
  onServer,
  onClose,
}: Props) {
  const [without, setWithout] = useState<ReadonlySet<number>>(new Set());
  const branches = proposal?.branches ?? [];
  const taken = branches.filter(({ at }) => !without.has(at));
  const themes = taken.reduce((sum, branch) => sum + branch.themes, 0);
  const toggle = (at: number) => {
    const next = new Set(without);
    if (!next.delete(at)) next.add(at);
    setWithout(next);
  };
  const isWorking = !onServer && (!proposal || busy);
  const ready = onServer || busy ? null : proposal;
  return (
    <Dialog title="Whole plan at once" onClose={onClose} wide>
      <div className="flex flex-col gap-3">
        {there > 0 && (
          <div className="flex flex-wrap gap-4 text-[13px]" role="radiogroup" aria-label="For which keywords">
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                className="radio radio-xs"
                checked={!instead}
                onChange={() => onInstead(false)}
              />
              for what no theme has yet
            </label>
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                className="radio radio-xs"
                checked={instead}
                onChange={() => onInstead(true)}
              />
              in the place of the {counted(there, 'theme')} there are
            </label>
          </div>
        )}
        {onServer && (
          <>
            <p>
              A pool of this size is worked out on the server. It takes about a minute for a million keywords;
              you can go on meanwhile, and one undo takes the themes back.
            </p>
            <button type="button" className="btn btn-primary btn-sm self-end" onClick={onServer}>
              Propose and make the themes
            </button>
          </>
        )}
        {isWorking && (
          <p className="text-faint" role="status">
            Working it out …
          </p>
        )}
        {ready && branches.length === 0 && (
          <p className="text-faint">Nothing of {where} can be grouped: no few keywords speak of the same.</p>
        )}
        {ready && branches.length > 0 && (
          <>
            <p data-proposal>
              <b>{counted(ready.themes, 'theme')}</b>, {counted(ready.groups, 'group')} of keywords,{' '}
              {share(ready.tightness)} tight on average. They place {count(ready.placed.keywords)} of{' '}
              {counted(ready.all.keywords, 'keyword')} and{' '}
              <b>{shareOf(ready.placed.searches, ready.all.searches)}</b> of the searches.
              {there > 0 && <span className="text-faint"> {now}</span>}
            </p>
            <Help>
              Each theme is a rule that can be read and changed later. Keywords placed by hand stay where they
              are. One undo takes it all back.
              {!hasPlaces &&
                ' The brief names no places, so towns count as goods here: name them there first, and goods lead.'}
            </Help>
            <ul className="max-h-72 overflow-auto rounded-md border border-hair">
              {branches.map(({ at, name, themes: inside, keywords, searches }) => (
                <li key={at} className="border-base-200 border-b last:border-0">
                  <label className="flex items-center gap-2 px-3 py-1 hover:bg-base-200">
                    <input
                      type="checkbox"
                      className="checkbox checkbox-xs"
                      checked={!without.has(at)}
                      onChange={() => toggle(at)}
                    />
                    <span className="truncate">{name}</span>
                    <span className="ml-auto shrink-0 text-[12.5px] text-faint">
                      {inside > 1 && `${counted(inside, 'theme')}, `}
                      {counted(keywords, 'keyword')}, {short(searches)} searches
                    </span>
                  </label>
                </li>
              ))}
            </ul>
            <div className="flex justify-end gap-2">
              <button type="button" className="btn btn-sm" onClick={onClose}>
                Leave it
              </button>
              <button
                type="button"
                className="btn btn-primary btn-sm"
                data-step="group"
                disabled={taken.length === 0}
                onClick={() =>
                  onTake(
                    taken.map(({ at }) => at),
                    themes,
                  )
                }
              >
                Take {counted(themes, 'theme')}
              </button>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}
