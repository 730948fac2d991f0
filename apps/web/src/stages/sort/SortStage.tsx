import { type KeyboardEvent, useCallback, useEffect, useState } from 'react';
import { useCommands } from '../../kit/commands.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Yield } from '../../kit/Yield.tsx';
import { NothingYet } from '../../plan/NothingYet.tsx';
import { sortCommands } from './commands.ts';
import { OpenTheme } from './OpenTheme.tsx';
import { Outline } from './Outline.tsx';
import { SiftBar } from './SiftBar.tsx';
import { SortedKeywords } from './SortedKeywords.tsx';
import { type Panel, SortPanels } from './SortPanels.tsx';
import { StageMatrix } from './StageMatrix.tsx';
import { Suggestions } from './Suggestions.tsx';
import { sortYield } from './sort-yield.tsx';
import { useChosen } from './state/use-chosen.ts';
import { usePlace } from './state/use-place.ts';
import { useSift } from './state/use-sift.ts';
import { useSorted } from './state/use-sorted.ts';
import { useSuggestions } from './state/use-suggestions.ts';
import { ThemeMap } from './ThemeMap.tsx';
import { themeKeys } from './theme-keys.ts';
import { useSide } from './use-side.ts';
import { WhereAmI } from './WhereAmI.tsx';

/** Which keywords belong together: the map of themes, the sift over it, suggestions, and the keywords of what is open. */
export function SortStage() {
  const sorted = useSorted();
  const { plan, pool, sort, actions, input, stamp, summary, tree } = sorted;
  const place = usePlace(tree);
  const { go, open, view, justRest } = place;
  const sifting = useSift(sorted, place);
  const side = useSide(plan.id, input);
  const suggestions = useSuggestions(sorted, place, side);
  const [panel, setPanel] = useState<Panel | null>(null);
  const chosen = useChosen(sorted, place, sifting, (move) => setPanel({ move }));
  const chosenThemes = useSelection<number>();
  const { leave } = suggestions;
  const openTheme = useCallback(
    (theme: number | null) => {
      leave();
      go(theme === 0 ? { rest: '1' } : { open: theme === null ? '' : String(theme), rest: '' });
    },
    [leave, go],
  );
  const above = open?.parent ?? null;
  const openAbove = useCallback(() => openTheme(above), [openTheme, above]);
  const { removeThemes, themeKey, outlineKeys } = themeKeys({
    tree,
    path: place.path,
    actions,
    openTheme,
    onMerged: chosenThemes.clear,
  });
  const isWholeWanted = place.params.get('panel') === 'whole' && summary !== null;
  useEffect(() => {
    if (!isWholeWanted) return;
    setPanel('whole');
    go({ panel: '' });
  }, [isWholeWanted, go]);
  useStageKeys({ view, go, onPanel: setPanel, onUp: openAbove });

  if (pool.ready && pool.length === 0)
    return (
      <NothingYet todo="sort">
        Here keywords that belong together become themes, and themes become ad groups.
      </NothingYet>
    );
  if (!sort || !summary)
    return <div className="grid flex-1 place-items-center text-faint">Sorting the pool …</div>;

  const { settings } = sort;
  return (
    <>
      <WhereAmI
        path={place.path}
        rest={open ? open.sum.own.keywords : summary.unplaced.keywords}
        justRest={justRest}
        view={view}
        settings={settings}
        actions={actions}
        onOpen={openTheme}
        onRest={() => go({ rest: justRest ? '' : '1' })}
        onView={(one) => go({ view: one === 'map' ? '' : one })}
        onNames={() => setPanel('names')}
        onWhole={() => setPanel('whole')}
      />
      {open && (
        <OpenTheme
          plan={plan.id}
          node={open}
          settings={settings}
          actions={actions}
          onRemove={() => removeThemes([open])}
        />
      )}
      <SiftBar sorted={sorted} place={place} sifting={sifting} onSelect={chosen.selection.all} />
      <div className="flex min-h-0 flex-1 flex-col">
        {view === 'map' && (
          <div className="flex min-h-0 flex-[1.15] flex-col px-3 py-2">
            <ThemeMap
              tree={tree}
              open={open}
              unplaced={summary.unplaced}
              suggestions={suggestions.inside ? [] : (suggestions.list ?? [])}
              settings={settings}
              matches={sifting.matches}
              onOpen={openTheme}
              onTake={(suggestion) => suggestions.take(suggestion, suggestion.name)}
              onDrop={chosen.drop}
              onKey={(event: KeyboardEvent, node) => {
                if (event.ctrlKey || event.metaKey || event.altKey || !themeKey(event.key, node)) return;
                event.preventDefault();
                event.stopPropagation();
              }}
            />
          </div>
        )}
        {view === 'stages' && (
          <StageMatrix
            tree={tree}
            open={open}
            summary={summary}
            onOpen={openTheme}
            onWords={() => setPanel('signals')}
          />
        )}
        <div className="flex min-h-0 flex-1 border-hair border-t">
          <div className="flex min-w-0 flex-1 flex-col">
            {view === 'outline' ? (
              <Outline
                plan={plan}
                tree={tree}
                open={open}
                settings={settings}
                searches={summary.all.searches}
                version={stamp}
                selection={chosenThemes}
                actions={actions}
                keys={outlineKeys}
              />
            ) : (
              <SortedKeywords sorted={sorted} place={place} chosen={chosen} isSifting={sifting.isSifting} />
            )}
          </div>
          {view !== 'outline' && (
            <Suggestions
              suggestions={suggestions.list}
              busy={suggestions.busy}
              where={open ? `in ${open.name}` : 'for the unplaced'}
              inside={suggestions.inside?.name ?? null}
              onTake={suggestions.take}
              onDismiss={(suggestion) => void suggestions.dismiss(suggestion)}
              onLookInside={suggestions.lookInside}
              onBack={suggestions.back}
            />
          )}
        </div>
      </div>
      <Yield
        terms={sortYield(
          summary,
          tree,
          settings,
          openTheme,
          () => void actions.seen(summary.fresh.newest),
          () => setPanel('contests'),
        )}
      />
      {panel && (
        <SortPanels
          panel={panel}
          sorted={sorted}
          place={place}
          side={side}
          onMoved={chosen.selection.clear}
          onClose={() => setPanel(null)}
        />
      )}
    </>
  );
}

type StageKeys = {
  view: string;
  go: (change: Record<string, string>) => void;
  onPanel: (panel: Panel) => void;
  onUp: () => void;
};

/** The keys of the stage, wherever the focus is but in a field. */
function useStageKeys({ view, go, onPanel, onUp }: StageKeys) {
  useCommands(sortCommands, {
    map: () => go({ view: '' }),
    // In the outline this key opens a theme.
    outline: view === 'outline' ? undefined : () => go({ view: 'outline' }),
    stages: () => go({ view: 'stages' }),
    up: onUp,
    suggestions: () => document.querySelector<HTMLElement>('[data-suggestions]')?.focus(),
    whole: () => onPanel('whole'),
    names: () => onPanel('names'),
  });
}
