import * as api from '@sprig/contracts';
import { asksNothing, emptySift, readSentence, type Suggestion, sentenceOf } from '@sprig/core/sort';
import type { FunnelStage } from '@sprig/core/text';
import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useOpenPlan } from '../../api/plan.ts';
import { withParams } from '../../kit/address.ts';
import { Empty } from '../../kit/Empty.tsx';
import { counted } from '../../kit/format.ts';
import { inTextField, useKeys } from '../../kit/keys.ts';
import { useSelection } from '../../kit/selection.ts';
import { useUrlText } from '../../kit/url-state.ts';
import { useStamp } from '../../kit/use-stamp.ts';
import { Yield } from '../../kit/Yield.tsx';
import { useFacts } from '../../plan/use-facts.ts';
import { useSort } from '../../plan/use-sort-data.ts';
import { useSources } from '../../plan/use-sources.ts';
import type { Scope, SortInput } from '../../pool/sorting.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { Contests } from './Contests.tsx';
import { KeywordsBar } from './KeywordsBar.tsx';
import { MoveTo } from './MoveTo.tsx';
import { OpenTheme } from './OpenTheme.tsx';
import { Outline } from './Outline.tsx';
import { PasteNames } from './PasteNames.tsx';
import { SiftAnswerLine } from './SiftAnswerLine.tsx';
import { limitsIn, SiftLimits } from './SiftLimits.tsx';
import { SiftSentence } from './SiftSentence.tsx';
import { SignalWords } from './SignalWords.tsx';
import { SortedTable, stageKeys } from './SortedTable.tsx';
import { StageMatrix } from './StageMatrix.tsx';
import { Suggestions } from './Suggestions.tsx';
import { addTerm, type Typing, withTyping } from './sift-edits.ts';
import { shareOf } from './sort-words.ts';
import { sortYield } from './sort-yield.tsx';
import { type Dropped, ThemeMap } from './ThemeMap.tsx';
import { nameOfRule } from './theme-edits.ts';
import { themeKeys } from './theme-keys.ts';
import { pathTo, type ThemeNode, treeOf } from './theme-tree.ts';
import { useSide } from './use-side.ts';
import { useSortActions } from './use-sort-actions.ts';
import { views, WhereAmI } from './WhereAmI.tsx';
import { WholePlan } from './WholePlan.tsx';

const noIds = new Uint32Array();
const noFacts = api.noFacts();

/** Which keywords belong together: the map of themes, the sift over it, suggestions, and the keywords of what is open. */
export function SortStage() {
  const plan = useOpenPlan();
  const pool = usePool();
  const { data: sort } = useSort(plan.id);
  const actions = useSortActions(plan.id);
  const facts = useFacts(plan.id).value ?? noFacts;
  const { data: sources = [] } = useSources(plan.id);
  const [params, setParams] = useSearchParams();
  const [typing, setTyping] = useState<Typing>(null);
  const [lastTerm, setLastTerm] = useState('');
  const [within, setWithin] = useState<Suggestion[]>([]);
  const inside = within.at(-1) ?? null;
  const [panel, setPanel] = useState<'whole' | 'names' | 'move' | 'contests' | 'signals' | null>(null);
  const [instead, setInstead] = useState(false);
  const [moving, setMoving] = useState<number[]>([]);
  const selection = useSelection<number>();
  const chosenThemes = useSelection<number>();
  const go = useCallback(
    (change: Record<string, string>) => setParams((old) => withParams(old, change), { flushSync: true }),
    [setParams],
  );

  const input = useMemo<SortInput | null>(
    () =>
      sort
        ? {
            language: plan.brief.language,
            functionWords: facts.functionWords,
            places: facts.places,
            ...sort,
          }
        : null,
    [sort, plan.brief.language, facts],
  );
  const stamp = `${pool.revision}:${useStamp(input)}`;
  const { data: summary, busy: placing } = useWorked(
    async () => (input && pool.ready ? pool.worker.sort(input) : null),
    `sort ${stamp}`,
  );
  const tree = useMemo(() => treeOf(sort?.themes ?? [], summary ?? undefined), [sort, summary]);
  const open = tree.byId.get(Number(params.get('open'))) ?? null;
  const path = pathTo(tree, open?.id ?? null);
  const view = views.find((one) => one === params.get('view')) ?? 'map';
  const justRest = params.get('rest') === '1';
  const openTheme = useCallback(
    (theme: number | null) => {
      setWithin([]);
      go(theme === 0 ? { rest: '1' } : { open: theme === null ? '' : String(theme), rest: '' });
    },
    [go],
  );

  // Kept here, so that the next place to type is there before the next key; the address follows a moment later.
  const [written, write] = useUrlText(params.get('sift') ?? '');
  const kept = useMemo(() => {
    const read = readSentence(written);
    return { ...('sift' in read ? read.sift : emptySift()), ...limitsIn(params) };
  }, [written, params]);
  const sift = withTyping(kept, typing);
  const isSifting = !asksNothing(sift);
  const scope: Scope = open
    ? { kind: 'theme', theme: open.id, own: justRest }
    : { kind: justRest ? 'unplaced' : 'all' };
  const restScope: Scope = open ? { kind: 'theme', theme: open.id, own: true } : { kind: 'unplaced' };
  const scopeKey = JSON.stringify(scope);
  const typed = typing?.text.trim() || lastTerm;
  const { data: answer } = useWorked(
    async () => (summary && isSifting ? pool.worker.sift(sift, scope, typed) : null),
    `sift ${stamp} ${scopeKey} ${JSON.stringify(sift)} ${typed} ${summary ? 1 : 0}`,
  );
  const tableScope: Scope = open || justRest ? scope : restScope;
  const { data: ids, busy: listing } = useWorked(
    async () => (summary ? pool.worker.sortedIds(tableScope) : noIds),
    `ids ${stamp} ${JSON.stringify(tableScope)} ${summary ? 1 : 0}`,
  );
  const side = useSide(plan.id, input);
  const { data: suggestions, busy: suggesting } = useWorked(
    async () => (summary ? (await side.ready()).suggestions(restScope, inside?.at ?? null) : undefined),
    `suggest ${stamp} ${JSON.stringify(restScope)} ${inside?.at ?? ''} ${summary ? 1 : 0}`,
    side.turns,
  );
  const isLarge = pool.length >= api.SERVER_PROPOSES_FROM;
  const wholeScope: Scope = instead
    ? open
      ? { kind: 'theme', theme: open.id, own: false }
      : { kind: 'all' }
    : restScope;
  const { data: proposal, busy: proposing } = useWorked(
    async () =>
      summary && panel === 'whole' && !isLarge ? (await side.ready()).wholePlan(wholeScope) : null,
    `whole ${stamp} ${panel} ${JSON.stringify(wholeScope)} ${summary ? 1 : 0}`,
    side.turns,
  );
  const matches = useMemo(
    () => (isSifting && answer && answer.keywords > 0 ? new Map(answer.byTheme) : null),
    [isSifting, answer],
  );
  const shownIds = isSifting ? (answer?.ids ?? noIds) : (ids ?? noIds);
  const held = useMemo(() => new Map(sort?.placed.map(({ keyword, theme }) => [keyword, theme])), [sort]);

  const setSift = (next: typeof sift) => {
    const before = [...kept.has.flat(), ...kept.not];
    setLastTerm([...next.has.flat(), ...next.not].findLast((term) => !before.includes(term)) ?? '');
    write(sentenceOf(next));
    go({ sift: sentenceOf(next) });
  };
  const clear = () => {
    setTyping(null);
    setLastTerm('');
    write('');
    go({ sift: '', stage: '', from: '', to: '', source: '', state: '', cpcFrom: '', cpcTo: '' });
  };
  const typingNow = useRef(typing);
  typingNow.current = typing;
  const isSiftingNow = useRef(isSifting);
  isSiftingNow.current = isSifting;
  const save = async () => {
    if (!isSifting || sift.state) return;
    // Asked anew: the answer that stands may still be that to the letters before the last.
    const { keywords } = await pool.worker.sift(sift, scope, typed);
    if (keywords === 0) return;
    const name = nameOfRule(sift);
    // The sentence leaves the field before the server is asked: what is typed meanwhile is the next one.
    const saved = sentenceOf(sift);
    const next = typingNow.current === typing ? null : typingNow.current;
    clear();
    if (next) setTyping({ ...next, slot: next.slot === 'not' ? 'not' : 0 });
    const made = await actions.make(
      open?.id ?? null,
      [api.newThemeOf(name, sift)],
      false,
      () => `Made the theme ${name}.`,
    );
    if (made || isSiftingNow.current) return;
    write(saved);
    go({ sift: saved });
  };
  const take = (suggestion: Suggestion, name: string) => {
    void actions.make(
      open?.id ?? null,
      [api.newThemeOf(name, suggestion.sift)],
      false,
      () => `Took ${name}: ${counted(suggestion.keywords, 'keyword')}.`,
    );
  };
  const dismiss = async (suggestion: Suggestion) => {
    if (!sort) return;
    const sentence = await (await side.ready()).sentenceOfSuggestion(restScope, suggestion.at);
    await actions.setting(sort.settings, 'dismissed', [...sort.settings.dismissed, sentence]);
  };
  const { removeThemes, themeKey, outlineKeys } = themeKeys({
    tree,
    path,
    actions,
    openTheme,
    onMerged: chosenThemes.clear,
  });
  const drop = (dropped: Dropped, onto: ThemeNode | null) => {
    if ('theme' in dropped) {
      const inside = onto ? pathTo(tree, onto.id).some(({ id }) => id === dropped.theme) : false;
      if (!inside) void actions.move([dropped.theme], onto?.id ?? open?.id ?? null, null);
      return;
    }
    const keywords = selection.has(dropped.keyword) ? selection.listIn(shownIds) : [dropped.keyword];
    const words = counted(keywords.length, 'keyword');
    void actions.place(
      keywords,
      onto?.id ?? open?.id ?? 0,
      onto
        ? `Moved ${words} to ${onto.name}.`
        : open
          ? `Moved ${words} to ${open.name}.`
          : `${words} are out of all themes.`,
    );
    selection.clear();
  };
  const setStage = (keywords: number[], stage: FunnelStage | null) => {
    if (keywords.length > 0)
      void actions.stage(
        keywords,
        stage,
        `${stage === null ? 'Let go of the stage of' : 'Set the stage of'} ${counted(keywords.length, 'keyword')}.`,
      );
  };
  const move = (keywords: number[]) => {
    if (keywords.length === 0) return;
    setMoving(keywords);
    setPanel('move');
  };
  const letGo = useCallback(
    (keywords: number[]) =>
      void actions.place(keywords, null, `Let go of ${counted(keywords.length, 'keyword')}.`),
    [actions],
  );
  const tableKeys: Record<string, (keywords: number[]) => void> = {
    m: move,
    l: letGo,
    w: (keywords) => setStage(keywords, null),
    ...Object.fromEntries(
      Object.entries(stageKeys).map(([key, stage]) => [
        key,
        (keywords: number[]) => setStage(keywords, stage as FunnelStage),
      ]),
    ),
  };
  const onKey = useCallback(
    (event: globalThis.KeyboardEvent) => {
      if (inTextField(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (document.querySelector('dialog[open], [cmdk-root]')) return;
      if (event.key === 'p') setPanel('whole');
      else if (event.key === 'n') setPanel('names');
      else if (event.key === 'a') go({ view: '' });
      else if (event.key === 'o' && view !== 'outline') go({ view: 'outline' });
      else if (event.key === 's') go({ view: 'stages' });
      else if (event.key === 'q') document.querySelector<HTMLElement>('[data-suggestions]')?.focus();
      else if (event.key === 'u') openTheme(open?.parent ?? null);
      else return;
      event.preventDefault();
    },
    [go, view, open, openTheme],
  );
  useKeys(onKey);
  // At the first look nothing is new: there was none before.
  const isFirstLook =
    sort?.seen === 0 && summary !== undefined && summary !== null && summary.fresh.newest > 0;
  const newest = summary?.fresh.newest ?? 0;
  useEffect(() => {
    if (isFirstLook) void actions.seen(newest);
  }, [isFirstLook, newest, actions]);

  if (pool.ready && pool.length === 0)
    return (
      <div className="grid flex-1 place-items-center">
        <Empty title="Nothing to sort yet">
          <p className="mb-3">
            Here keywords that belong together become themes, and themes become ad groups.
          </p>
          <Link to="../gather" className="btn btn-primary btn-sm">
            Gather keywords
          </Link>
        </Empty>
      </div>
    );
  if (!sort || !summary)
    return <div className="grid flex-1 place-items-center text-faint">Sorting the pool …</div>;

  const { settings } = sort;
  const where = open ? open.name : justRest ? 'the unplaced' : 'the pool';
  const chosen = () => selection.listIn(shownIds);
  return (
    <>
      <WhereAmI
        path={path}
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
        <OpenTheme node={open} settings={settings} actions={actions} onRemove={() => removeThemes([open])} />
      )}
      <section
        aria-label="Sift the keywords"
        className="flex shrink-0 flex-col gap-1 border-hair border-b px-4 py-1.5"
      >
        <SiftSentence
          sift={kept}
          typing={typing}
          onSift={setSift}
          onTyping={setTyping}
          onDone={() => void save()}
          more={<SiftLimits sift={kept} sources={sources} currency={plan.brief.currency} onSet={go} />}
        />
        {isSifting && answer && (
          <SiftAnswerLine
            answer={answer}
            where={where}
            canSave={!sift.state}
            onNarrow={(word) => setSift(addTerm(sift, sift.has.length, word))}
            onForm={(term) => setSift(addTerm(sift, typing?.slot ?? Math.max(0, sift.has.length - 1), term))}
            onSave={() => void save()}
            onSelect={() => selection.all(answer.ids)}
            onClear={clear}
          />
        )}
      </section>
      <div className="flex min-h-0 flex-1 flex-col">
        {view === 'map' && (
          <div className="flex min-h-0 flex-[1.15] flex-col px-3 py-2">
            <ThemeMap
              tree={tree}
              open={open}
              unplaced={summary.unplaced}
              suggestions={inside ? [] : (suggestions ?? [])}
              settings={settings}
              matches={matches}
              onOpen={openTheme}
              onTake={(suggestion) => take(suggestion, suggestion.name)}
              onDrop={drop}
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
              <>
                <KeywordsBar
                  name={
                    isSifting
                      ? `Sifted from ${where}`
                      : justRest && open
                        ? 'Not in a sub-theme'
                        : (open?.name ?? 'Unplaced')
                  }
                  shown={shownIds.length}
                  chosen={chosen}
                  selected={selection.size}
                  onMove={move}
                  onLetGo={letGo}
                  onStage={setStage}
                />
                <SortedTable
                  worker={pool.worker}
                  ids={shownIds}
                  version={`${stamp} ${placing}`}
                  busy={listing}
                  tree={tree}
                  held={held}
                  currency={plan.brief.currency}
                  selection={selection}
                  actions={tableKeys}
                  onLetGo={letGo}
                  empty={
                    <p className="text-faint">
                      {isSifting
                        ? 'No keyword meets the sentence.'
                        : open
                          ? 'No keyword here.'
                          : 'Every keyword has a theme.'}
                    </p>
                  }
                />
              </>
            )}
          </div>
          {view !== 'outline' && (
            <Suggestions
              suggestions={suggestions}
              busy={suggesting}
              where={open ? `in ${open.name}` : 'for the unplaced'}
              inside={inside?.name ?? null}
              onTake={take}
              onDismiss={(suggestion) => void dismiss(suggestion)}
              onLookInside={(suggestion) => setWithin([...within, suggestion])}
              onBack={() => setWithin(within.slice(0, -1))}
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
      {panel === 'whole' && (
        <WholePlan
          proposal={proposal}
          busy={proposing}
          where={open ? open.name : 'the pool'}
          there={open ? open.children.length : tree.roots.length}
          now={`Now ${shareOf(summary.all.searches - summary.unplaced.searches, summary.all.searches)} of all searches are placed.`}
          hasPlaces={facts.places.length > 0}
          instead={instead}
          onInstead={setInstead}
          onServer={
            isLarge
              ? () => {
                  setPanel(null);
                  void actions.proposeOnServer(open?.id ?? null, instead);
                }
              : null
          }
          onTake={(branches, themes) => {
            setPanel(null);
            void side
              .ready()
              .then((worker) => worker.branchThemes(wholeScope, branches))
              .then((list) =>
                actions.make(open?.id ?? null, list, instead, () => `Made ${counted(themes, 'theme')}.`),
              );
          }}
          onClose={() => setPanel(null)}
        />
      )}
      {panel === 'contests' && (
        <Contests
          worker={pool.worker}
          stamp={stamp}
          tree={tree}
          onBefore={(theme, wonBy) => void actions.move([theme], tree.byId.get(theme)?.parent ?? null, wonBy)}
          onClose={() => setPanel(null)}
        />
      )}
      {panel === 'signals' && (
        <SignalWords
          signals={settings.signals}
          onKeep={(signals) => {
            setPanel(null);
            void actions.setting(settings, 'signals', signals);
          }}
          onClose={() => setPanel(null)}
        />
      )}
      {panel === 'names' && (
        <PasteNames
          where={open ? open.name : 'the pool'}
          onMake={(list) => {
            setPanel(null);
            void actions.make(open?.id ?? null, list, false, () => `Made ${counted(list.length, 'theme')}.`);
          }}
          onClose={() => setPanel(null)}
        />
      )}
      {panel === 'move' && (
        <MoveTo
          tree={tree}
          count={moving.length}
          onMove={(theme, name) => {
            setPanel(null);
            selection.clear();
            const words = counted(moving.length, 'keyword');
            void actions.place(
              moving,
              theme,
              theme === null
                ? `Let go of ${words}.`
                : theme === 0
                  ? `${words} are out of all themes.`
                  : `Moved ${words} to ${name}.`,
            );
          }}
          onMake={(name) => {
            setPanel(null);
            selection.clear();
            void actions.make(open?.id ?? null, [api.newThemeOf(name, null)]).then((made) => {
              const id = made?.ids[0];
              if (id)
                void actions.place(moving, id, `Moved ${counted(moving.length, 'keyword')} to ${name}.`);
            });
          }}
          onClose={() => setPanel(null)}
        />
      )}
    </>
  );
}
