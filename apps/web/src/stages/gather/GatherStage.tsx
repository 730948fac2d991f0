import { setCut } from '@sprig/contracts';
import { FileUp, ListPlus } from 'lucide-react';
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../api/call.ts';
import { planKey, useOpenPlan } from '../../api/plan.ts';
import { queryClient } from '../../api/query-client.ts';
import { count, counted, short } from '../../kit/format.ts';
import { inTextField } from '../../kit/keys.ts';
import { Empty, Help } from '../../kit/marks.tsx';
import { useSelection } from '../../kit/selection.ts';
import { Yield } from '../../kit/Yield.tsx';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { NegativesPanel } from './NegativesPanel.tsx';
import { PoolTable } from './PoolTable.tsx';
import { ProblemsPanel } from './ProblemsPanel.tsx';
import { SearchesHistogram } from './SearchesHistogram.tsx';
import { SourcesRibbon, useSources } from './SourcesRibbon.tsx';
import { TakeIn, type Taking } from './TakeIn.tsx';
import { usePoolQuery } from './use-pool-query.ts';

type Panel = { kind: 'negatives' } | { kind: 'problems'; source: number } | null;

/** The pool: sources, a histogram to brush, and the table. */
export function GatherStage() {
  const plan = useOpenPlan();
  const pool = usePool();
  const { query, setQuery } = usePoolQuery();
  const selection = useSelection<number>();
  const [taking, setTaking] = useState<Taking | null>(null);
  const [panel, setPanel] = useState<Panel>(null);
  const { data: sources = [] } = useSources(plan.id);
  const { data: found } = useWorked(
    () => pool.worker.query(query),
    `${pool.revision}:${JSON.stringify(query)}`,
  );

  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      if (inTextField(event.target) || document.querySelector('dialog[open]')) return;
      const text = event.clipboardData?.getData('text/plain') ?? '';
      if (text.trim() !== '') setTaking({ kind: 'paste', text });
    };
    const stop = (event: DragEvent) => event.preventDefault();
    const onDrop = (event: DragEvent) => {
      event.preventDefault();
      const file = event.dataTransfer?.files[0];
      if (file) setTaking({ kind: 'file', file });
    };
    window.addEventListener('paste', onPaste);
    window.addEventListener('dragover', stop);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('paste', onPaste);
      window.removeEventListener('dragover', stop);
      window.removeEventListener('drop', onDrop);
    };
  }, []);

  const cut = useCallback(
    async (ids: number[], isCut: boolean) => {
      if (ids.length === 0) return;
      try {
        await call(setCut, { params: { plan: plan.id }, body: { ids, cut: isCut } });
        await queryClient.invalidateQueries({ queryKey: planKey(plan.id) });
        selection.clear();
        toast(`${isCut ? 'Cut' : 'Put back'} ${counted(ids.length, 'keyword')}. Ctrl+Z takes it back.`);
      } catch (error) {
        toast.error(wordsOf(error));
      }
    },
    [plan.id, selection.clear],
  );

  if (taking)
    return <TakeIn plan={plan} taking={taking} worker={pool.worker} onClose={() => setTaking(null)} />;

  const isEmpty = pool.ready && pool.length === 0;
  const shown = found?.ids.length ?? 0;
  return (
    <>
      <SourcesRibbon
        plan={plan.id}
        sources={sources}
        chosen={query.source}
        onChoose={(source) => setQuery({ source })}
        onProblems={(source) => setPanel({ kind: 'problems', source })}
        onNegatives={() => setPanel({ kind: 'negatives' })}
      >
        <button
          type="button"
          className="btn btn-primary btn-sm"
          onClick={() => setTaking({ kind: 'paste', text: '' })}
        >
          <ListPlus size={15} aria-hidden /> Paste a list
        </button>
        <label className="btn btn-sm">
          <FileUp size={15} aria-hidden /> Bring in a file
          <input
            type="file"
            className="sr-only"
            accept=".csv,.tsv,.txt,text/plain,text/csv,text/tab-separated-values"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) setTaking({ kind: 'file', file });
              event.target.value = '';
            }}
          />
        </label>
      </SourcesRibbon>
      {isEmpty && sources.length === 0 ? (
        <div className="grid flex-1 place-items-center p-8">
          <Empty title="The pool is empty">
            <p className="mb-3">
              Paste a list of keywords, in any notation, with or without figures: from a spreadsheet, a
              report, an e-mail. <span className="key">Ctrl V</span> works right here.
            </p>
            <button
              type="button"
              className="btn btn-primary btn-sm"
              onClick={() => setTaking({ kind: 'paste', text: '' })}
            >
              Paste a list
            </button>
          </Empty>
        </div>
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
          <PoolTable
            plan={plan}
            pool={pool}
            query={query}
            setQuery={setQuery}
            found={found}
            selection={selection}
            sources={sources}
            onCut={cut}
          />
        </div>
      )}
      <Yield
        terms={[
          {
            id: 'sources',
            figure: count(sources.length),
            words: sources.length === 1 ? 'source' : 'sources',
            more: <Contributions sources={sources} />,
          },
          {
            id: 'keywords',
            figure: count(plan.counts.keywords),
            words: plan.counts.keywords === 1 ? 'keyword in' : 'keywords in',
          },
          { id: 'cut', figure: count(plan.counts.cut), words: 'cut' },
          { id: 'shown', figure: count(shown), words: 'shown' },
          {
            id: 'searches',
            figure: found ? short(found.searches) : '–',
            words: 'searches a month',
            more: (
              <Help>
                The sum over the keywords shown. Sources often give close variants one shared figure, so the
                true number is at most this.
              </Help>
            ),
          },
          {
            id: 'groups',
            figure: count(plan.counts.groups),
            words: plan.counts.groups === 1 ? 'ad group' : 'ad groups',
          },
        ]}
      />
      {panel?.kind === 'negatives' && <NegativesPanel plan={plan.id} onClose={() => setPanel(null)} />}
      {panel?.kind === 'problems' && (
        <ProblemsPanel
          plan={plan.id}
          source={panel.source}
          total={sources.find(({ id }) => id === panel.source)?.problems ?? 0}
          onClose={() => setPanel(null)}
        />
      )}
    </>
  );
}

function Contributions({
  sources,
}: {
  sources: { id: number; name: string; keywords: number; onlyHere: number }[];
}) {
  return (
    <table className="w-full">
      <thead className="text-faint">
        <tr>
          <th className="pr-6 text-left font-normal">Source</th>
          <th className="pr-6 text-right font-normal">Keywords</th>
          <th className="text-right font-normal">Only here</th>
        </tr>
      </thead>
      <tbody>
        {sources.map(({ id, name, keywords, onlyHere }) => (
          <tr key={id}>
            <td className="pr-6">{name}</td>
            <td className="pr-6 text-right">{count(keywords)}</td>
            <td className="text-right">{count(onlyHere)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
