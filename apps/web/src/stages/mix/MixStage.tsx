import type { Pattern } from '@sprig/core/mix';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { useOpenPlan } from '../../data/plan.ts';
import { useAddress } from '../../kit/address.ts';
import { Only } from '../../kit/allowed.tsx';
import { useCommands } from '../../kit/commands.ts';
import { counted } from '../../kit/format.ts';
import { handList } from '../../kit/handed-list.ts';
import { Yield } from '../../kit/Yield.tsx';
import { dayWords } from '../../plan/day-words.ts';
import { CombinationList } from './CombinationList.tsx';
import { mixCommands } from './commands.ts';
import { ListStrip } from './ListStrip.tsx';
import { MadeAs } from './MadeAs.tsx';
import { MatrixView } from './MatrixView.tsx';
import { usedLists } from './mix-names.ts';
import { mixProblemWords } from './mix-words.ts';
import { mixYield } from './mix-yield.tsx';
import { NoRecipe } from './NoRecipe.tsx';
import { PasteColumns } from './PasteColumns.tsx';
import { PatternBoard } from './PatternBoard.tsx';
import { PoolButtons } from './PoolButtons.tsx';
import { RecipesRibbon } from './RecipesRibbon.tsx';
import { RulesSentence } from './RulesSentence.tsx';
import { SharedLists } from './SharedLists.tsx';
import { said } from './said.ts';
import { useRecipe } from './use-recipe.ts';
import { useRecipeEdits } from './use-recipe-edits.ts';

/** So many combinations go on to match variants at once. */
const MOST_VARIED = 100_000;

/** The recipes: lists and patterns above, what they make below, and what that is worth at the foot. */
export function MixStage() {
  const plan = useOpenPlan();
  const navigate = useNavigate();
  const [params, set] = useAddress({ replace: true });
  const [isRoomy, setRoomy] = useState(false);
  const [panel, setPanel] = useState<'shared' | 'columns' | null>(null);
  const chosen = useRecipe(plan);
  const { mix, row, id, recipe, facts, shared, counts, summary, figures, stamp, pool, trouble } = chosen;
  const edits = useRecipeEdits(plan.id, chosen);
  const { actions, cut, editAloud } = edits;
  const view = params.get('view') === 'list' ? 'list' : 'matrix';
  const show = (next: 'matrix' | 'list') => set({ view: next === 'list' ? 'list' : '' });
  useCommands(mixCommands, {
    matrix: () => show('matrix'),
    list: () => show('list'),
    room: () => setRoomy((now) => !now),
  });
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
        recipes={chosen.recipes}
        chosen={id}
        madeNow={summary ? kept : null}
        onChoose={chosen.choose}
        onMake={edits.makeOf}
        usual={edits.usual}
        onBegin={edits.begin}
        onCopy={edits.copy}
        onSwitch={(one) => void said(actions.edit('recipe', one.id, 'on', !one.recipe.on))}
        onRename={(one, name) => actions.edit('recipe', one.id, 'name', name)}
        onRemove={edits.remove}
        onOrder={edits.order}
        onShared={() => setPanel('shared')}
      >
        {row && (
          <PoolButtons
            row={row}
            kept={kept}
            isTooMuch={overall !== undefined}
            onVariants={() => void allToVariants()}
            onPool={(inPool) => edits.pool(row, inPool)}
          />
        )}
      </RecipesRibbon>
      {!row && <NoRecipe usual={edits.usual} onMake={edits.makeOf} />}
      {row && (
        <div className="flex min-h-0 flex-1 flex-col">
          {!isRoomy && (
            <Only access="build">
              <PatternBoard
                key={row.id}
                recipe={recipe}
                counts={counts}
                summary={summary}
                onPatterns={(patterns: Pattern[]) => editAloud({ at: 'patterns', after: patterns })}
                foot={<RulesSentence recipe={recipe} lists={counts.lists} onEdit={edits.edit} />}
                onShape={(shape) => edits.shape(row.recipe, shape)}
              >
                <ListStrip
                  recipe={recipe}
                  shared={shared}
                  facts={facts}
                  themes={chosen.themes}
                  counts={counts}
                  summary={summary}
                  idle={figures?.idle ?? []}
                  pool={chosen.poolLists}
                  onDraft={(list, text) => chosen.setDraft(text === null ? null : { list, text })}
                  onLists={(lists) => editAloud({ at: 'lists', after: lists })}
                  onList={edits.editList}
                  onText={edits.editText}
                  onRename={(list, name) => edits.editList(list, 'name', name)}
                  onShare={(list) => edits.share(row.id, list)}
                  onRemove={(list) => edits.removeList(row.recipe, list)}
                  onPasteColumns={() => setPanel('columns')}
                />
              </PatternBoard>
            </Only>
          )}
          {overall && (
            <p role="alert" className="shrink-0 border-hair border-b bg-error/10 px-4 py-2 text-error">
              {mixProblemWords(overall, nameOf)}
              {row.source !== null && ' Until then the pool keeps what it has.'}
            </p>
          )}
          {trouble && (
            <p role="alert" className="shrink-0 border-hair border-b px-4 py-1.5 text-error">
              {trouble}
            </p>
          )}
          <MadeAs
            view={view}
            onView={show}
            isRoomy={isRoomy}
            onRoomy={setRoomy}
            worker={pool.worker}
            stamp={stamp}
            onCut={cut}
          />
          {view === 'matrix' ? (
            <MatrixView
              worker={pool.worker}
              stamp={stamp}
              counts={counts}
              entries={summary?.lists ?? []}
              used={usedLists(recipe)}
              onCut={(texts, isCut) => cut(texts, isCut, true)}
            />
          ) : (
            <CombinationList
              key={row.id}
              worker={pool.worker}
              stamp={stamp}
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
          onTake={(columns) => {
            edits.takeColumns(row.recipe, columns);
            setPanel(null);
          }}
        />
      )}
    </>
  );
}
