import * as api from '@sprig/contracts';
import {
  emptyRecipe,
  nextId,
  type Pattern,
  type Recipe,
  type RecipeList,
  type ShapeKey,
  shapes,
  withShape,
} from '@sprig/core/mix';
import { useCallback, useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { call } from '../../data/call.ts';
import { useOpenPlan } from '../../data/plan.ts';
import { withParams } from '../../kit/address.ts';
import { useCommands } from '../../kit/commands.ts';
import { Empty } from '../../kit/Empty.tsx';
import { counted } from '../../kit/format.ts';
import { handList } from '../../kit/handed-list.ts';
import { useStamp } from '../../kit/use-stamp.ts';
import { Yield } from '../../kit/Yield.tsx';
import { dayWords } from '../../plan/day-words.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { useKeywordLimits } from '../../plan/use-outlets.ts';
import { useSort } from '../../plan/use-sort-data.ts';
import type { MixQuestion } from '../../pool/mixing.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { CombinationList } from './CombinationList.tsx';
import { mixCommands } from './commands.ts';
import { ListStrip } from './ListStrip.tsx';
import { MatrixView } from './MatrixView.tsx';
import { nameOfShape, usedLists } from './mix-names.ts';
import { mixProblemWords } from './mix-words.ts';
import { mixYield } from './mix-yield.tsx';
import { PasteColumns } from './PasteColumns.tsx';
import { PatternBoard } from './PatternBoard.tsx';
import { PoolButtons } from './PoolButtons.tsx';
import { RecipesRibbon } from './RecipesRibbon.tsx';
import { RulesSentence } from './RulesSentence.tsx';
import { freeName, withoutList } from './recipe-edits.ts';
import { SharedLists } from './SharedLists.tsx';
import { said } from './said.ts';
import { Threshold } from './Threshold.tsx';
import { useCounts } from './use-counts.ts';
import { type Draft, useDrafted } from './use-drafted.ts';
import { useFigures } from './use-figures.ts';
import { useCuts, useMix, useMixActions } from './use-mix.ts';
import { usePoolLists } from './use-pool-lists.ts';

/** So many combinations go on to match variants at once. */
const MOST_VARIED = 100_000;
const noRecipe = emptyRecipe('');
const noFacts = api.noFacts();

/** The recipes: lists and patterns above, what they make below, and what that is worth at the foot. */
export function MixStage() {
  const plan = useOpenPlan();
  const pool = usePool();
  const navigate = useNavigate();
  const { data: mix } = useMix(plan.id);
  const { data: sort } = useSort(plan.id);
  const actions = useMixActions(plan.id);
  const facts = useFacts(plan.id).value ?? noFacts;
  const [params, setParams] = useSearchParams();
  const [draft, setDraft] = useState<Draft>(null);
  const [isRoomy, setRoomy] = useState(false);
  const [panel, setPanel] = useState<'shared' | 'columns' | null>(null);
  const recipes = mix?.recipes ?? [];
  const wanted = Number(params.get('recipe'));
  const row = recipes.find(({ id }) => id === wanted) ?? recipes[0];
  const id = row?.id ?? null;
  const cuts = useCuts(plan.id, id);
  const { recipe, shared } = useDrafted(row?.recipe ?? noRecipe, mix?.shared ?? [], draft);
  const inputs = useMemo(
    () => ({
      shared: new Map(shared.map((list) => [list.id, list])),
      places: facts.places,
      brands: facts.brands,
      offers: facts.offers.map(({ text }) => text),
    }),
    [shared, facts],
  );
  const limits = useKeywordLimits(plan.id);
  const counts = useCounts(recipe, inputs);
  const question = useMemo<MixQuestion>(
    () => ({
      recipe,
      source: row?.source ?? null,
      shared: [...inputs.shared.values()].map(({ id: one, name, text, takes }) => ({
        id: one,
        name,
        text,
        takes,
      })),
      places: inputs.places,
      brands: inputs.brands,
      offers: inputs.offers,
      language: plan.brief.language,
      functionWords: facts.functionWords,
      cuts,
      limits,
      assumptions: facts.assumptions,
    }),
    [recipe, row?.source, inputs, plan.brief.language, facts.functionWords, facts.assumptions, cuts, limits],
  );
  const stamp = `${useStamp(question)}:${pool.figures}`;
  const { data: summary, error } = useWorked(() => pool.worker.mix(question), `mix ${stamp}`);
  const { figures, error: figuresError } = useFigures(pool.worker, summary);
  const poolLists = usePoolLists(plan, facts, pool, row !== undefined && row !== null);
  const view = params.get('view') === 'list' ? 'list' : 'matrix';
  const show = useCallback(
    (next: 'matrix' | 'list') =>
      setParams((old) => withParams(old, { view: next === 'list' ? 'list' : '' }), { replace: true }),
    [setParams],
  );
  const choose = (chosen: number) => {
    setDraft(null);
    setParams({ recipe: String(chosen) });
  };
  useCommands(mixCommands, {
    matrix: () => show('matrix'),
    list: () => show('list'),
    room: () => setRoomy((now) => !now),
  });

  const make = async (body: Recipe, cutsOf: number | null = null) => {
    const made = await actions.done(() =>
      call(api.makeRecipe, { params: { plan: plan.id }, body: { recipe: body, cutsOf } }),
    );
    if (made) choose(made.id);
  };
  const makeOf = (shape: ShapeKey | null) => {
    const names = recipes.map((one) => one.recipe.name);
    const start = emptyRecipe(freeName(shape ? nameOfShape(shape) : 'Recipe', names));
    void make(shape ? withShape(start, shape, facts.places.length > 0) : start);
  };
  const edit = (at: string, value: unknown) =>
    id === null ? Promise.resolve(null) : actions.edit('recipe', id, at, value);
  /** Edits the recipe where no field is there to show the words of a refusal. */
  const editAloud = (...edits: { at: string; after: unknown }[]) =>
    id === null ? Promise.resolve(null) : said(actions.editAll('recipe', id, edits));
  const editList = (list: RecipeList, at: 'text' | 'takes' | 'name', value: unknown) => {
    if (list.kind === 'shared') return actions.edit('shared', list.list, at, value);
    const place = (row?.recipe.lists ?? []).findIndex((one) => one.id === list.id);
    return edit(`lists.${place}.${at}`, value);
  };
  const editText = (list: RecipeList, change: (now: string) => string) => {
    const now = actions.textOf(id ?? 0, list);
    return now === null ? Promise.resolve('The list is gone.') : editList(list, 'text', change(now));
  };
  /** Where the effect is in sight nothing more is said of it. */
  const cut = async (texts: string[], isCut: boolean, isInSight = false) => {
    if (texts.length === 0 || id === null) return;
    for (let at = 0; at < texts.length; at += api.MOST_CUTS)
      await actions.done(
        () =>
          call(api.cutCombinations, {
            params: { plan: plan.id, recipe: id },
            body: { texts: texts.slice(at, at + api.MOST_CUTS), cut: isCut },
          }),
        isInSight
          ? undefined
          : () =>
              `${isCut ? 'Cut' : 'Put back'} ${counted(texts.length, 'combination')}. Ctrl+Z takes it back.`,
      );
  };
  const toVariants = (texts: string[]) => {
    handList(texts);
    void navigate('/variants');
  };
  const allToVariants = async () => {
    const places = await pool.worker.mixList({ text: '', state: 'all', sort: 'made', down: false });
    const rows = await pool.worker.mixPage([...places.subarray(0, MOST_VARIED)]);
    if (places.length > MOST_VARIED)
      toast(`The first ${counted(MOST_VARIED, 'combination')} of ${counted(places.length, 'combination')}.`);
    toVariants(rows.filter(({ isCut }) => !isCut).map(({ text }) => text));
  };

  if (!mix) return <div className="grid flex-1 place-items-center text-faint">Fetching the recipes …</div>;
  const kept = (summary?.made ?? 0) - (summary?.cut ?? 0);
  const overall = summary?.problems.find(({ code }) => code === 'over-cap');
  const nameOf = (list: number) => counts.lists.find((one) => one.id === list)?.name ?? 'a list';
  return (
    <>
      <RecipesRibbon
        recipes={recipes}
        chosen={id}
        madeNow={summary ? kept : null}
        onChoose={choose}
        onMake={makeOf}
        onCopy={(one) =>
          void make(
            {
              ...one.recipe,
              name: freeName(
                `${one.recipe.name} copy`,
                recipes.map((other) => other.recipe.name),
              ),
            },
            one.id,
          )
        }
        onSwitch={(one) => void said(actions.edit('recipe', one.id, 'on', !one.recipe.on))}
        onRename={(one, name) => actions.edit('recipe', one.id, 'name', name)}
        onRemove={(one) =>
          void actions.done(
            () => call(api.removeRecipe, { params: { plan: plan.id, recipe: one.id } }),
            () => `${one.recipe.name} is removed. Ctrl+Z brings it back.`,
          )
        }
        onOrder={(ids) =>
          void actions.done(() => call(api.orderRecipes, { params: { plan: plan.id }, body: { ids } }))
        }
        onShared={() => setPanel('shared')}
      >
        {row && (
          <PoolButtons
            row={row}
            kept={kept}
            isTooMuch={overall !== undefined}
            onVariants={() => void allToVariants()}
            onPool={(inPool) =>
              void actions.done(
                () => call(api.poolRecipe, { params: { plan: plan.id, recipe: row.id }, body: { inPool } }),
                () =>
                  inPool
                    ? `${recipe.name} is in the pool, and the pool follows it. Ctrl+Z takes it out.`
                    : `${recipe.name} is out of the pool. Ctrl+Z puts it back.`,
              )
            }
          />
        )}
      </RecipesRibbon>
      {!row ? (
        <div className="grid flex-1 place-items-center p-8">
          <Empty title="No recipe yet">
            <p className="mb-3">
              A recipe combines word lists into keywords. Begin with a shape; its lists and slots can all be
              changed.
            </p>
            <div className="flex flex-wrap justify-center gap-2">
              {shapes.map(({ key, name }) => (
                <button key={key} type="button" className="btn btn-sm" onClick={() => makeOf(key)}>
                  {name}
                </button>
              ))}
            </div>
          </Empty>
        </div>
      ) : (
        <div className="flex min-h-0 flex-1 flex-col">
          {!isRoomy && (
            <PatternBoard
              key={row.id}
              recipe={recipe}
              counts={counts}
              summary={summary}
              onPatterns={(patterns: Pattern[]) => editAloud({ at: 'patterns', after: patterns })}
              foot={<RulesSentence recipe={recipe} lists={counts.lists} onEdit={edit} />}
              onShape={(shape) => {
                const { lists, patterns } = withShape(row.recipe, shape, facts.places.length > 0);
                void editAloud({ at: 'lists', after: lists }, { at: 'patterns', after: patterns });
              }}
            >
              <ListStrip
                recipe={recipe}
                shared={shared}
                facts={facts}
                themes={sort?.themes ?? []}
                counts={counts}
                summary={summary}
                idle={figures?.idle ?? []}
                pool={poolLists}
                onDraft={(list, text) => setDraft(text === null ? null : { list, text })}
                onLists={(lists) => editAloud({ at: 'lists', after: lists })}
                onList={editList}
                onText={editText}
                onRename={(list, name) => editList(list, 'name', name)}
                onShare={(list) =>
                  void actions.done(
                    () =>
                      call(api.makeWordList, {
                        params: { plan: plan.id },
                        body: {
                          name: freeName(
                            list.name,
                            shared.map(({ name }) => name),
                          ),
                          text: list.text,
                          takes: list.takes,
                          from: { recipe: row.id, list: list.id },
                        },
                      }),
                    () => `${list.name} is shared. Every recipe and plan can use it now.`,
                  )
                }
                onRemove={(list) => {
                  const { lists, patterns, never } = withoutList(row.recipe, list);
                  void editAloud(
                    { at: 'lists', after: lists },
                    { at: 'patterns', after: patterns },
                    { at: 'never', after: never },
                  );
                }}
                onPasteColumns={() => setPanel('columns')}
              />
            </PatternBoard>
          )}
          {overall && (
            <p role="alert" className="shrink-0 border-hair border-b bg-error/10 px-4 py-2 text-error">
              {mixProblemWords(overall, nameOf)}
              {row.source !== null && ' Until then the pool keeps what it has.'}
            </p>
          )}
          {(error || figuresError) && (
            <p role="alert" className="shrink-0 border-hair border-b px-4 py-1.5 text-error">
              {error ?? figuresError}
            </p>
          )}
          <div className="flex h-9 shrink-0 items-center gap-2 px-4 pt-1">
            <fieldset className="join" aria-label="What is made, as">
              {(['matrix', 'list'] as const).map((one) => (
                <button
                  key={one}
                  type="button"
                  aria-pressed={view === one}
                  className={`btn join-item btn-xs font-normal ${view === one ? 'btn-active' : ''}`}
                  onClick={() => show(one)}
                >
                  {one === 'matrix' ? 'Matrix' : 'List'} <span className="key">{one[0]}</span>
                </button>
              ))}
            </fieldset>
            <button
              type="button"
              aria-pressed={isRoomy}
              className={`btn btn-xs font-normal ${isRoomy ? 'btn-active' : ''}`}
              title="Fold lists and patterns away, so that what they make has room"
              onClick={() => setRoomy(!isRoomy)}
            >
              More room <span className="key">w</span>
            </button>
            <Threshold worker={pool.worker} stamp={`${stamp}:${figures?.asked}`} onCut={cut} />
          </div>
          {view === 'matrix' ? (
            <MatrixView
              worker={pool.worker}
              stamp={`${stamp}:${figures?.asked}`}
              counts={counts}
              entries={summary?.lists ?? []}
              used={usedLists(recipe)}
              onCut={(texts, isCut) => cut(texts, isCut, true)}
            />
          ) : (
            <CombinationList
              key={row.id}
              worker={pool.worker}
              stamp={`${stamp}:${figures?.asked}`}
              currency={plan.brief.currency}
              onCut={cut}
              onVariants={toVariants}
            />
          )}
        </div>
      )}
      {row && (
        <Yield terms={mixYield(recipe, counts, summary, figures, plan.brief.currency, dayWords(facts))} />
      )}
      {panel === 'shared' && (
        <SharedLists plan={plan.id} shared={mix.shared} actions={actions} onClose={() => setPanel(null)} />
      )}
      {panel === 'columns' && row && (
        <PasteColumns
          onClose={() => setPanel(null)}
          onTake={(lists) => {
            const first = nextId(row.recipe.lists);
            const names = counts.lists.map(({ name }) => name);
            const fresh = lists.map(({ name, text }, at): RecipeList => {
              const free = freeName(name.slice(0, 100), names);
              names.push(free);
              return { id: first + at, kind: 'own', name: free, text, takes: [] };
            });
            void editAloud({ at: 'lists', after: [...row.recipe.lists, ...fresh] });
            setPanel(null);
          }}
        />
      )}
    </>
  );
}
