import type { SortSettings } from '@sprig/contracts';
import { ChevronRight, ClipboardPaste, Sprout } from 'lucide-react';
import { count } from '../../kit/format.ts';
import { SizesSentence } from './SizesSentence.tsx';
import type { ThemeNode } from './theme-tree.ts';
import type { SortActions } from './use-sort-actions.ts';

export const views = ['map', 'outline', 'stages'] as const;
export type View = (typeof views)[number];
const viewWords: Record<View, string> = { map: 'Map', outline: 'Outline', stages: 'Stages' };

type Props = {
  /** From the top to the theme that is open, itself the last; empty at the top. */
  path: readonly ThemeNode[];
  /** Keywords of what is open that no theme in it has. */
  rest: number;
  justRest: boolean;
  view: View;
  settings: SortSettings;
  actions: SortActions;
  onOpen: (theme: number | null) => void;
  onRest: () => void;
  onView: (view: View) => void;
  onNames: () => void;
  onWhole: () => void;
};

/** The way down to what is open, how large groups are to be, the views, and what makes many themes at once. */
export function WhereAmI(props: Props) {
  const { path, rest, justRest, view, settings, actions, onOpen, onRest, onView, onNames, onWhole } = props;
  const open = path.at(-1);
  return (
    <section
      aria-label="Where am I"
      className="flex h-11 shrink-0 items-center gap-1 overflow-x-auto border-hair border-b px-4"
    >
      <button
        type="button"
        className={`btn btn-ghost btn-xs ${open ? '' : 'font-bold'}`}
        onClick={() => onOpen(null)}
      >
        All themes
      </button>
      {path.map((node) => (
        <span key={node.id} className="flex items-center gap-1">
          <ChevronRight size={13} className="text-faint" aria-hidden />
          <button
            type="button"
            className={`btn btn-ghost btn-xs ${node === open ? 'font-bold' : ''}`}
            onClick={() => onOpen(node.id)}
          >
            {node.name} <span className="font-normal text-faint">{count(node.sum.all.keywords)}</span>
          </button>
        </span>
      ))}
      <button
        type="button"
        aria-pressed={justRest}
        className={`btn btn-xs ml-2 ${justRest ? 'btn-active' : ''}`}
        title={open ? 'Keywords of the theme that no sub-theme has' : 'Keywords that no theme has'}
        onClick={onRest}
      >
        {open ? 'Not in a sub-theme' : 'Unplaced'} <span className="text-faint">{count(rest)}</span>
      </button>
      <span className="ml-auto flex shrink-0 items-center gap-2 pl-3">
        <SizesSentence settings={settings} actions={actions} />
        <span className="join" role="group" aria-label="View">
          {views.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={view === one}
              className={`btn join-item btn-xs ${view === one ? 'btn-active' : ''}`}
              onClick={() => onView(one)}
            >
              {viewWords[one]}
            </button>
          ))}
        </span>
        <button type="button" className="btn btn-xs" title="n" onClick={onNames}>
          <ClipboardPaste size={13} aria-hidden /> Names
        </button>
        <button type="button" className="btn btn-primary btn-xs" title="p" onClick={onWhole}>
          <Sprout size={13} aria-hidden /> Whole plan at once
        </button>
      </span>
    </section>
  );
}
