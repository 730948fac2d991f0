import {
  type AdRow,
  type AdText,
  adOnly,
  adSorts,
  guardedWords,
  holdTexts,
  letGo,
  orderAds,
  type PlanState,
  pageAds,
} from '@sprig/contracts';
import type { AdField } from '@sprig/core/write';
import { useCallback, useMemo, useState } from 'react';
import { call } from '../../data/call.ts';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { refusalOf, runChange } from '../../data/run-change.ts';
import { useKeyedRows } from '../../data/use-keyed-rows.ts';
import { useAddress } from '../../kit/address.ts';
import { Empty } from '../../kit/Empty.tsx';
import { counted } from '../../kit/format.ts';
import { allOrNone, type Put } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { useSettled } from '../../kit/use-settled.ts';
import { RewriteMany } from '../../plan/RewriteMany.tsx';
import { ResultsMenu } from '../../plan/results/ResultsMenu.tsx';
import { resultColumns } from '../../plan/results/result-columns.tsx';
import { useResultFigures, withResults } from '../../plan/results/use-results.ts';
import { writingRules } from '../../pool/pattern-fits.ts';
import { AdBar, type AdPanel } from './AdBar.tsx';
import { adColumns, usedFields } from './ad-columns.tsx';
import { BulkText } from './BulkText.tsx';
import { limitsOfAds, useMeasure } from './measure.tsx';
import { ReviewSheet } from './ReviewSheet.tsx';
import type { WriteActions } from './use-write-actions.ts';
import type { WritingState } from './use-writing.ts';
import { WriterSheet } from './WriterSheet.tsx';

type Props = { plan: PlanState; writing: WritingState; actions: WriteActions };

/** Every ad of the plan with its lengths, edited in place or in bulk. */
export function AdTable({ plan, writing, actions }: Props) {
  const [params, set] = useAddress();
  const [panel, setPanel] = useState<AdPanel>(null);
  const selection = useSelection<string>();
  const widths = useWidths('ads');
  const filter = params.get('filter') ?? '';
  const typed = useSettled(filter);
  const sort = adSorts.find((one) => one === params.get('sort')) ?? 'searches';
  const down = params.get('down') !== 'no';
  const only = adOnly.find((one) => one === params.get('rows')) ?? 'all';
  const pattern = Number(params.get('of') ?? 0);
  const figures = useResultFigures(plan);
  const hasResults = figures.length > 0;
  const query = { filter: typed, sort, down: down ? ('true' as const) : ('false' as const), only, pattern };
  const page = useCallback(
    async (keys: string[]) => {
      const { ads } = await call(pageAds, { params: { plan: plan.id }, body: { keys } });
      return withResults(plan.id, 'ad', ads, ({ key }) => key, hasResults);
    },
    [plan.id, hasResults],
  );
  const { source, data } = useKeyedRows({
    order: question(orderAds, { params: { plan: plan.id }, query }),
    page,
    stamp: hasResults ? String(plan.revision) : '',
  });
  const { hold, document, input } = writing;
  const patterns = document.value;
  const used = useMemo(() => usedFields(patterns), [patterns]);
  const measure = useMeasure();
  const limits = useMemo(() => limitsOfAds(measure, patterns?.patterns ?? {}), [measure, patterns]);
  const columns = useMemo(
    () => [
      ...adColumns(used, limits, hold, (group) => set({ view: '', group, pattern: '' })),
      ...resultColumns<AdRow>(figures),
    ],
    [used, limits, hold, set, figures],
  );
  const filling = useMemo(
    () => ({
      put: (puts: Put<AdRow>[]) => {
        const texts = puts.map(({ row, column, value }): [string, AdText, string] => [
          row.key,
          column === 'url' ? 'finalUrl' : (column as AdField),
          String(value ?? ''),
        ]);
        const { id } = plan;
        return refusalOf(id, () => call(holdTexts, { params: { plan: id }, body: { texts } })).then(
          allOrNone,
        );
      },
    }),
    [plan],
  );
  const words = useMemo(() => (input ? guardedWords(input.facts) : null), [input]);
  const rules = useMemo(() => (input ? writingRules(input) : null), [input]);
  const chosen = selection.size > 0 ? selection.listIn(source.ids) : [];
  const scope = chosen.length > 0 ? chosen : (data?.keys ?? []);
  const what = counted(scope.length, 'ad');
  const letAllGo = async (keys: string[]) => {
    const rows = await source.fetchAll(keys);
    const places = rows.flatMap(({ key, held }) => held.map((field) => ({ rowKey: key, field })));
    if (places.length === 0) return;
    await runChange(
      plan.id,
      () => call(letGo, { params: { plan: plan.id }, body: { places } }),
      () => `Let ${counted(places.length, 'text')} go.`,
    );
  };
  const patternForGroups = async () => {
    const rows = await source.fetchAll(chosen);
    const first = rows[0];
    const body = first && patterns?.patterns[first.pattern];
    if (!body) return;
    const groups = [...new Set(rows.map(({ group }) => group))];
    const id = await actions.make(
      {
        ...body,
        name: `${body.name} for ${counted(groups.length, 'group')}`,
        labels: [],
        groups: { to: 'groups', themes: [], groups, campaigns: [] },
        split: { ...body.split, by: 'none' },
      },
      first.pattern,
    );
    if (id !== null) set({ view: '', pattern: String(id) });
  };
  return (
    <>
      <AdBar
        filter={filter}
        only={only}
        pattern={pattern}
        patterns={patterns}
        ads={data?.keys.length ?? null}
        what={what}
        isNone={scope.length === 0}
        hasChosen={chosen.length > 0}
        onAddress={set}
        onPanel={setPanel}
        onOneAd={() => void patternForGroups()}
        onLetGo={() => void letAllGo(scope)}
        results={<ResultsMenu plan={plan} by="ad" />}
      />
      <Table
        label="Ads"
        columns={columns}
        source={source}
        sort={{ id: sort, down }}
        onSort={(id, isDown) => set({ sort: id, down: isDown ? '' : 'no' })}
        selection={selection}
        widths={widths}
        filling={filling}
        dim={({ status }) => status === 'paused'}
        actions={{
          b: (keys) => {
            if (selection.size === 0) selection.all(keys);
            setPanel('text');
          },
          r: (keys) => {
            if (selection.size === 0) selection.all(keys);
            setPanel('review');
          },
          h: (keys) => void letAllGo(keys),
        }}
        empty={
          <Empty title={plan.counts.groups === 0 ? 'The ads are being made' : 'No ad is left by this filter'}>
            They show here as soon as they are there.
          </Empty>
        }
      />
      {panel === 'urls' && scope.length > 0 && (
        <RewriteMany
          plan={plan.id}
          scope={{ keys: scope }}
          what={what}
          choices={['urls']}
          onClose={() => setPanel(null)}
        />
      )}
      {(panel === 'text' || panel === 'title' || panel === 'mend') && words && rules && (
        <BulkText
          start={panel}
          words={words}
          what={what}
          rules={rules}
          fields={used}
          limits={limits}
          load={() => source.fetchAll(scope)}
          onHold={actions.texts}
          onClose={() => setPanel(null)}
        />
      )}
      {panel === 'review' && (
        <ReviewSheet
          what={what}
          fields={used}
          onReview={async (state, reason, fields, by) => {
            await actions.review(scope, state, reason, fields, by);
            setPanel(null);
          }}
          onClose={() => setPanel(null)}
        />
      )}
      {panel === 'writer' && (
        <WriterSheet writing={writing} onHold={actions.texts} onClose={() => setPanel(null)} />
      )}
    </>
  );
}
