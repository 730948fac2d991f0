import {
  type AdQuery,
  type AdRow,
  type AdText,
  adOnly,
  adSorts,
  guardedWords,
  holdTexts,
  letGo,
  lineWords,
  orderAds,
  type PlanState,
  pageAds,
  type ReviewState,
} from '@sprig/contracts';
import { kindOfKey } from '@sprig/core/build';
import { lengthOf } from '@sprig/core/text';
import { type AdField, type AdForm, type AdLimits, adFields, headlines, readSite } from '@sprig/core/write';
import { useCallback, useDeferredValue, useMemo, useState } from 'react';
import { call } from '../../data/call.ts';
import { useWidths } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { refusalOf, runChange } from '../../data/run-change.ts';
import { useKeyedRows } from '../../data/use-keyed-rows.ts';
import { useAddress } from '../../kit/address.ts';
import { Empty } from '../../kit/Empty.tsx';
import { FilterField } from '../../kit/FilterField.tsx';
import { count, counted } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { Menu } from '../../kit/Menu.tsx';
import { allOrNone, type Put, type TableColumn } from '../../kit/table/column.ts';
import { useSelection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { writingRules } from '../../pool/pattern-fits.ts';
import { type BulkStart, BulkText } from './BulkText.tsx';
import { fieldName } from './field-names.ts';
import { limitsBy, useMeasure } from './measure.tsx';
import { ReviewSheet } from './ReviewSheet.tsx';
import type { WriteActions } from './use-write-actions.ts';
import type { WritingState } from './use-writing.ts';
import { WriterSheet } from './WriterSheet.tsx';

const onlyWords: Record<AdQuery['only'], string> = {
  all: 'all',
  misfit: 'that do not fit',
  held: 'written by hand',
  problems: 'with objections',
  ready: 'ready',
  review: 'in review',
  limited: 'limited',
  refused: 'refused',
};
const stateWords: Record<ReviewState, string> = {
  ready: 'ready',
  review: 'in review',
  limited: 'limited',
  refused: 'refused',
};

const stateClass: Record<ReviewState, string> = {
  ready: 'text-faint',
  review: 'text-warning',
  limited: 'text-warning',
  refused: 'text-error',
};
const widthOf = (field: AdField): number => {
  if (field.startsWith('description')) return 330;
  return field.startsWith('path') ? 120 : 210;
};

type Props = { plan: PlanState; writing: WritingState; actions: WriteActions };
type Panel = BulkStart | 'review' | 'writer' | null;

/** Every ad of the plan with its lengths, edited in place or in bulk. */
export function AdTable({ plan, writing, actions }: Props) {
  const [params, set] = useAddress();
  const [panel, setPanel] = useState<Panel>(null);
  const selection = useSelection<string>();
  const widths = useWidths('ads');
  const filter = params.get('filter') ?? '';
  const typed = useDeferredValue(filter);
  const sort = adSorts.find((one) => one === params.get('sort')) ?? 'searches';
  const down = params.get('down') !== 'no';
  const only = adOnly.find((one) => one === params.get('rows')) ?? 'all';
  const pattern = Number(params.get('of') ?? 0);
  const query = { filter: typed, sort, down: down ? ('true' as const) : ('false' as const), only, pattern };
  const page = useCallback(
    async (keys: string[]) => (await call(pageAds, { params: { plan: plan.id }, body: { keys } })).ads,
    [plan.id],
  );
  const { source, data } = useKeyedRows({
    order: question(orderAds, { params: { plan: plan.id }, query }),
    page,
  });
  const { hold, document } = writing;
  const patterns = document.value;
  const used = useMemo(() => usedFields(patterns), [patterns]);
  const measure = useMeasure();
  const limits = useMemo(() => limitsBy(measure), [measure]);
  const columns = useMemo(
    () => adColumns(used, limits, hold, (group) => set({ view: '', group, pattern: '' })),
    [used, limits, hold, set],
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
  const { input } = writing;
  const words = useMemo(() => (input ? guardedWords(input.facts) : null), [input]);
  const rules = useMemo(() => (input ? writingRules(input) : null), [input]);
  const chosen = selection.size > 0 ? selection.listIn(source.ids) : [];
  const everything = data?.keys ?? [];
  const scope = chosen.length > 0 ? chosen : everything;
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
        groups: { to: 'groups', themes: [], groups },
        split: { ...body.split, by: 'none' },
      },
      first.pattern,
    );
    if (id !== null) set({ view: '', pattern: String(id) });
  };
  return (
    <>
      <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-2 px-4 py-1">
        <FilterField
          label="Filter ads"
          placeholder="Filter texts, groups, labels"
          value={filter}
          onChange={(next) => set({ filter: next })}
        />
        <select
          className="plain-field chip"
          aria-label="Which ads"
          value={only}
          onChange={({ target }) => set({ rows: target.value === 'all' ? '' : target.value })}
        >
          {adOnly.map((one) => (
            <option key={one} value={one}>
              {onlyWords[one]}
            </option>
          ))}
        </select>
        <select
          className="plain-field chip"
          aria-label="Of which pattern"
          value={pattern}
          onChange={({ target }) => set({ of: target.value === '0' ? '' : target.value })}
        >
          <option value={0}>of all patterns</option>
          {patterns?.order.map((id) => (
            <option key={id} value={id}>
              {patterns.patterns[id]?.name}
            </option>
          ))}
        </select>
        <span className="text-faint">{data ? counted(data.keys.length, 'ad') : '…'}</span>
        <span className="ml-auto flex items-center gap-1">
          <button
            type="button"
            className="btn btn-sm"
            disabled={scope.length === 0}
            onClick={() => setPanel('text')}
          >
            Texts of {what} <span className="key">b</span>
          </button>
          <button
            type="button"
            className="btn btn-sm"
            disabled={scope.length === 0}
            onClick={() => setPanel('review')}
          >
            Review <span className="key">r</span>
          </button>
          <Menu
            label={`More for ${what}`}
            className="btn btn-sm"
            width={300}
            items={[
              {
                words: 'Sheet for a writer, and back',
                hint: 'groups with empty columns',
                run: () => setPanel('writer'),
              },
              {
                words: 'One ad for these groups',
                hint: 'a pattern of their own',
                disabled: chosen.length === 0,
                run: () => void patternForGroups(),
              },
              { words: 'Headlines in Title Case', run: () => setPanel('title') },
              {
                words: 'Mend what editors object to',
                hint: 'where that is certain',
                run: () => setPanel('mend'),
              },
              { words: 'Let what is written by hand go', run: () => void letAllGo(scope) },
            ]}
          >
            More
          </Menu>
        </span>
      </div>
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
      {(panel === 'text' || panel === 'title' || panel === 'mend') && words && rules && (
        <BulkText
          start={panel}
          words={words}
          what={what}
          rules={rules}
          fields={used}
          load={() => source.fetchAll(scope)}
          onHold={actions.texts}
          onClose={() => setPanel(null)}
        />
      )}
      {panel === 'review' && (
        <ReviewSheet
          what={what}
          fields={used}
          onReview={async (state, reason, fields) => {
            await actions.review(scope, state, reason, fields);
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

/** The fields that any pattern has a line for, in the order they are read. */
function usedFields(patterns: WritingState['document']['value']): AdField[] {
  const bodies = Object.values(patterns?.patterns ?? {});
  const used = adFields.filter((field) => bodies.some((body) => body.fields[field].lines.length > 0));
  return used.length > 0 ? used : [headlines[0] as AdField];
}

function adColumns(
  used: readonly AdField[],
  limits: Record<AdForm, AdLimits>,
  hold: WritingState['hold'],
  onGroup: (group: string) => void,
): TableColumn<AdRow>[] {
  const text = (field: AdField): TableColumn<AdRow> => ({
    id: field,
    heading: fieldName(field),
    width: widthOf(field),
    text: ({ texts }) => texts[field] ?? '',
    read: (typed, { form }) => {
      if (limits[form][field] === undefined)
        return { words: `Ads of this form have no ${fieldName(field)}.` };
      const words = lineWords(typed);
      return words === null ? { value: typed } : { words };
    },
    cell: (row) => {
      const said = row.texts[field] ?? '';
      const limit = limits[row.form][field]?.limit;
      const length = lengthOf(said);
      if (limit === undefined) return <span className="text-faint">–</span>;
      return (
        <span className="flex w-full items-center gap-1">
          <span className="min-w-0 flex-1">
            <InlineEdit
              label={`${fieldName(field)} of ${row.groupName}`}
              shown={said || <span className="text-faint">–</span>}
              text={said}
              onKeep={(typed) => hold(row.key, field, typed)}
            />
          </span>
          {row.held.includes(field) && <span title="Written by hand">⋈</span>}
          <span className={`shrink-0 text-[11px] ${length > limit ? 'text-error' : 'text-faint'}`}>
            {said === '' ? '' : length}
          </span>
        </span>
      );
    },
  });
  return [
    {
      id: 'group',
      heading: 'Ad group',
      width: 190,
      sortable: true,
      text: ({ groupName }) => groupName,
      cell: ({ group, groupName }) => (
        <button
          type="button"
          tabIndex={-1}
          className="truncate hover:underline"
          onClick={() => onGroup(group)}
        >
          {groupName}
        </button>
      ),
    },
    {
      id: 'campaign',
      heading: 'Campaign',
      width: 110,
      text: ({ campaignName }) => campaignName,
      cell: ({ campaignName }) => <span className="text-faint">{campaignName}</span>,
    },
    {
      id: 'pattern',
      heading: 'Ad',
      width: 150,
      sortable: true,
      text: (row) => adName(row),
      cell: ({ patternName, labels, form }) => (
        <span title={`${form}${labels.length > 0 ? `: ${labels.join(', ')}` : ''}`}>
          {patternName}
          {labels.length > 0 && <span className="text-faint"> · {labels.at(-1)}</span>}
        </span>
      ),
    },
    ...used.map(text),
    {
      id: 'url',
      heading: 'Final URL',
      width: 220,
      text: ({ finalUrl }) => finalUrl,
      read: (typed) =>
        readSite(typed).status === 'problem'
          ? { words: 'This is no web address that ads may lead to. Write it like https://site.example/hire.' }
          : { value: typed },
      cell: (row) => (
        <InlineEdit
          label={`Final URL of ${row.groupName}`}
          shown={row.finalUrl || <span className="text-error">none</span>}
          text={row.finalUrl}
          onKeep={(typed) => hold(row.key, 'finalUrl', typed)}
        />
      ),
    },
    {
      id: 'relevance',
      heading: 'Relevance',
      width: 90,
      right: true,
      sortable: true,
      hint: 'How much of its keywords the ad says: 0 to 1',
      text: ({ relevance }) => relevance.toFixed(2),
      cell: ({ relevance }) => relevance.toFixed(2),
    },
    {
      id: 'problems',
      heading: 'Objections',
      width: 90,
      right: true,
      text: ({ problems }) => String(problems),
      cell: ({ problems }) => (problems > 0 ? <span className="text-warning">{count(problems)}</span> : '–'),
    },
    {
      id: 'review',
      heading: 'Review',
      width: 100,
      text: ({ review, reason }) => (reason === '' ? stateWords[review] : `${stateWords[review]}: ${reason}`),
      cell: ({ review, reason }) => (
        <span title={reason} className={stateClass[review]}>
          {stateWords[review]}
        </span>
      ),
    },
    {
      id: 'searches',
      heading: 'Searches',
      width: 90,
      right: true,
      sortable: true,
      text: ({ searches }) => String(searches ?? ''),
      cell: ({ searches }) => count(searches),
    },
  ];
}

/** As a sheet names an ad: its pattern's name, with `(b)` for the second version of a split test. */
const adName = ({ key, patternName }: Pick<AdRow, 'key' | 'patternName'>): string =>
  kindOfKey(key) === 'ad' && key.endsWith('b') ? `${patternName} (b)` : patternName;
