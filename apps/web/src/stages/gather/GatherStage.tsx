import { askFigures, type Source, takeEstimatedCpcs } from '@sprig/contracts';
import { FileUp, Gauge, Lightbulb, ListPlus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { call } from '../../data/call.ts';
import { useOpenPlan } from '../../data/plan.ts';
import { runChange } from '../../data/run-change.ts';
import { Only, Where } from '../../kit/allowed.tsx';
import { Empty } from '../../kit/Empty.tsx';
import { counted } from '../../kit/format.ts';
import { handList } from '../../kit/handed-list.ts';
import { lazyPart } from '../../kit/lazy-part.tsx';
import { Part } from '../../kit/Part.tsx';
import { useSelection } from '../../kit/table/selection.ts';
import { usePreload } from '../../kit/use-preload.ts';
import { MatchTypesOf } from '../../plan/MatchTypes.tsx';
import { useResultFigures } from '../../plan/results/use-results.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { useSources } from '../../plan/use-sources.ts';
import { resultHeading } from '../../pool/result-headings.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { PoolTable } from './PoolTable.tsx';
import { PoolYield } from './PoolYield.tsx';
import { SourcesRibbon } from './SourcesRibbon.tsx';
import { useBroughtIn } from './use-brought-in.ts';
import { useCuts } from './use-cuts.ts';
import type { Taking } from './use-given-list.ts';
import { usePoolQuery } from './use-pool-query.ts';

const loadTakeIn = async () => (await import('./TakeIn.tsx')).TakeIn;
const TakeIn = lazyPart('Taking in a list', loadTakeIn, () => (
  <p className="grid flex-1 place-items-center text-faint">Opening the list …</p>
));
/** By then the pool is on the screen. */
const SETTLED_MS = 1_000;
const IdeasView = lazyPart('The ideas', async () => (await import('./ideas/IdeasView.tsx')).IdeasView);
const RewritePanel = lazyPart(
  'Changing texts',
  async () => (await import('./RewritePanel.tsx')).RewritePanel,
);
const SearchesHistogram = lazyPart(
  'The picture of searches',
  async () => (await import('./SearchesHistogram.tsx')).SearchesHistogram,
  () => <div className="h-[73px] shrink-0 border-hair border-b" />,
);

const ProblemsPanel = lazyPart(
  'The lines to look at',
  async () => (await import('./ProblemsPanel.tsx')).ProblemsPanel,
);
const AskOutside = lazyPart('Asking for figures', async () => (await import('./AskOutside.tsx')).AskOutside);

const noSources: Source[] = [];
type Panel = { kind: 'problems'; source: number } | null;

/** The pool: sources, a histogram to brush, and the table. */
export function GatherStage() {
  const plan = useOpenPlan();
  const navigate = useNavigate();
  const pool = usePool();
  const facts = useFacts(plan.id).value;
  const { query, setQuery, keptColumns: fromSheets, setKeptColumns } = usePoolQuery();
  const figures = useResultFigures(plan);
  const keptColumns = useMemo(() => [...fromSheets, ...figures.map(resultHeading)], [fromSheets, figures]);
  const selection = useSelection<number>();
  const [waiting, setWaiting] = useState<Taking[]>([]);
  const [taking, ...rest] = waiting;
  const [params, setParams] = useSearchParams();
  const [panel, setPanel] = useState<Panel>(null);
  const [asking, setAsking] = useState(false);
  const [rewriting, setRewriting] = useState<number[] | null>(null);
  const [typing, setTyping] = useState<number[] | null>(null);
  const { data: sources } = useSources(plan.id);
  const { data: found } = useWorked(
    async () => {
      const headings = [...new Set([...keptColumns, ...query.kept.map(({ heading }) => heading)])];
      const kinds = await pool.worker.loadKeptColumns(plan.id, headings);
      return { ...(await pool.worker.query(query)), kinds };
    },
    `${pool.figures}:${JSON.stringify(query)}:${keptColumns.join()}`,
  );

  usePreload(loadTakeIn, SETTLED_MS);
  useBroughtIn(setWaiting);
  const { cut, putBack } = useCuts(plan.id, pool.worker, selection.clear);
  const toVariants = async (ids: number[]) => {
    if (ids.length === 0) return;
    handList((await pool.worker.page(ids)).map(({ text }) => text));
    void navigate('/variants');
  };

  if (taking)
    return (
      <TakeIn
        key={taking.kind === 'file' ? `${taking.file.name}:${rest.length}` : 'paste'}
        plan={plan}
        taking={taking}
        waiting={rest.length}
        worker={pool.worker}
        onClose={() => setWaiting([])}
        onNext={() => setWaiting(rest)}
      />
    );
  if (params.get('ideas') !== null)
    return <IdeasView plan={plan} start={params.get('ideas') ?? ''} onClose={() => setParams({})} />;

  const isEmpty = pool.ready && pool.length === 0;
  return (
    <>
      <SourcesRibbon
        plan={plan.id}
        sources={sources ?? noSources}
        chosen={query.source}
        onChoose={(source) => setQuery({ source })}
        onProblems={(source) => setPanel({ kind: 'problems', source })}
      >
        <Where access="build">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            onClick={() => setWaiting([{ kind: 'paste', text: '' }])}
          >
            <ListPlus size={15} aria-hidden /> Paste a list
          </button>
          <label className="btn btn-sm">
            <FileUp size={15} aria-hidden /> Bring in files
            <input
              type="file"
              className="sr-only"
              multiple
              accept=".csv,.tsv,.txt,.xlsx,text/plain,text/csv,text/tab-separated-values"
              onChange={(event) => {
                setWaiting(Array.from(event.target.files ?? [], (file) => ({ kind: 'file', file })));
                event.target.value = '';
              }}
            />
          </label>
        </Where>
        <button type="button" className="btn btn-sm" onClick={() => setParams({ ideas: 'gaps' })}>
          <Lightbulb size={15} aria-hidden /> Ideas
        </button>
        <button
          type="button"
          className="btn btn-sm"
          title="Keywords without told figures, to be put to whatever tells them"
          onClick={() => setAsking(true)}
        >
          <Gauge size={15} aria-hidden /> Figures
        </button>
      </SourcesRibbon>
      {isEmpty && sources?.length === 0 ? (
        <EmptyPool onPaste={() => setWaiting([{ kind: 'paste', text: '' }])} />
      ) : (
        <div className="flex min-h-0 flex-1 flex-col">
          {found && (
            <SearchesHistogram
              histogram={found.histogram}
              from={query.from}
              to={query.to}
              onBrush={(from, to) => setQuery({ from, to })}
            />
          )}
          <Part name="The table">
            <PoolTable
              plan={plan}
              pool={pool}
              query={query}
              setQuery={setQuery}
              found={found}
              selection={selection}
              sources={sources ?? noSources}
              keptColumns={keptColumns}
              onKeptColumns={setKeptColumns}
              onCut={cut}
              onPutBack={putBack}
              onAsk={facts?.market === 'stand-in' ? (ids) => void askMarket(plan.id, ids) : null}
              onTake={(ids) => void takeEstimates(plan.id, pool.worker, ids)}
              onRewrite={setRewriting}
              onTypes={setTyping}
              onVariants={(ids) => void toVariants(ids)}
            />
          </Part>
        </div>
      )}
      <PoolYield plan={plan} sources={sources} found={found} learned={pool.learned?.searches ?? null} />
      {asking && <AskOutside pool={pool} onClose={() => setAsking(false)} />}
      {typing && (
        <MatchTypesOf
          plan={plan.id}
          scope={{ keywords: typing }}
          what={counted(typing.length, 'keyword')}
          onClose={() => setTyping(null)}
        />
      )}
      {rewriting && (
        <RewritePanel
          plan={plan}
          pool={pool}
          ids={rewriting}
          onClose={() => setRewriting(null)}
          onDone={selection.clear}
        />
      )}
      {panel?.kind === 'problems' && (
        <ProblemsPanel
          plan={plan.id}
          source={panel.source}
          total={sources?.find(({ id }) => id === panel.source)?.problems ?? 0}
          onClose={() => setPanel(null)}
        />
      )}
    </>
  );
}

/** Keeps the estimated CPCs of keywords as they are: from then on bids without a told CPC follow them. */
async function takeEstimates(plan: number, worker: ReturnType<typeof usePool>['worker'], ids: number[]) {
  const rows = await worker.page(ids);
  const taken = rows.flatMap(({ id, cpc, from }) => (from.cpc === 'estimated' && cpc ? [{ id, cpc }] : []));
  if (taken.length === 0)
    return void toast(
      'None of them has an estimated CPC: they are told, or too little is told to estimate from.',
    );
  await runChange(
    plan,
    () => call(takeEstimatedCpcs, { params: { plan }, body: { taken } }),
    () => `Took ${counted(taken.length, 'estimated CPC')}. Ctrl+Z takes it back.`,
  );
}

/** Asks the stand-in market for figures; null: for all keywords without any. */
async function askMarket(plan: number, ids: number[] | null) {
  await runChange(
    plan,
    () => call(askFigures, { params: { plan }, body: { ids } }),
    ({ alreadyThere }) =>
      `The stand-in market made up figures for ${counted(alreadyThere, 'keyword')}. Ctrl+Z takes it back.`,
  );
}

const EmptyPool = ({ onPaste }: { onPaste: () => void }) => (
  <div className="grid flex-1 place-items-center p-8">
    <Empty title="The pool is empty">
      <p className="mb-3">
        Paste a list of keywords, in any notation, with or without figures: from a spreadsheet, a report, an
        e-mail. <span className="key">Ctrl V</span> works right here.
      </p>
      <Only access="build">
        <button type="button" className="btn btn-primary btn-sm" onClick={onPaste}>
          Paste a list
        </button>
      </Only>
      <p className="mt-3 text-[12.5px]">
        Is there an account already?{' '}
        <Link to="../ship?view=back" className="text-primary underline underline-offset-2">
          Read its sheets
        </Link>
      </p>
    </Empty>
  </div>
);
