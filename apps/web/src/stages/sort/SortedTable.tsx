import type { StageOf } from '@sprig/core/sort';
import type { FunnelStage } from '@sprig/core/text';
import { type ReactNode, useMemo } from 'react';
import { useWidths } from '../../data/me.ts';
import { Figured, MoneyFigured } from '../../kit/Figured.tsx';
import { copiedFigure, copiedMoney } from '../../kit/figured-text.ts';
import { Tie } from '../../kit/Tie.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import type { Selection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { stageWords } from '../../plan/rule-choices.ts';
import type { PoolRow } from '../../pool/pool-store.ts';
import type { usePool } from '../../pool/use-pool.ts';
import { DRAGGED } from './ThemeMap.tsx';
import { pathTo, type ThemeTree } from './theme-tree.ts';

export type SortedRow = PoolRow & { theme: number; stage: StageOf };

type Props = {
  worker: ReturnType<typeof usePool>['worker'];
  ids: Uint32Array;
  version: string;
  busy: boolean;
  tree: ThemeTree;
  /** The theme in which each keyword is held, for those that are. */
  held: ReadonlyMap<number, number | null>;
  currency: string;
  selection: Selection<number>;
  actions: Record<string, (keys: number[]) => void>;
  onLetGo: (keywords: number[]) => void;
  empty: ReactNode;
};

/** The keywords of what is looked at, with the theme and the stage of each. */
export function SortedTable(props: Props) {
  const widths = useWidths('sorted');
  const { worker, ids, version, busy, tree, held, currency, selection, actions, onLetGo, empty } = props;
  const source = useMemo<RowSource<SortedRow, number>>(() => {
    const fetchPage = (keys: number[]) => worker.sortedPage(keys);
    return { ids, version, loading: busy, fetchPage, fetchAll: fetchPage, keyOf: ({ id }) => id };
  }, [ids, version, busy, worker]);
  const columns = useMemo<TableColumn<SortedRow>[]>(() => {
    const nameOf = (theme: number) =>
      pathTo(tree, theme)
        .map(({ name }) => name)
        .join(' › ');
    return [
      {
        id: 'text',
        heading: 'Keyword',
        text: ({ text }) => text,
        cell: ({ id, text }) => (
          // biome-ignore lint/a11y/noStaticElementInteractions: dragged onto the map; the keyboard moves by m
          <span
            className="px-1"
            draggable
            onDragStart={(event) => event.dataTransfer.setData(DRAGGED, `keyword:${id}`)}
          >
            {text}
          </span>
        ),
      },
      {
        id: 'theme',
        heading: 'Theme',
        width: 300,
        text: ({ theme }) => nameOf(theme),
        cell: ({ id, theme }) => (
          <span className="inline-flex max-w-full items-center gap-1">
            <span className={`truncate ${theme === 0 ? 'text-faint' : ''}`}>
              {nameOf(theme) || 'unplaced'}
            </span>
            {typeof held.get(id) === 'number' && (
              <Tie rule="where its words put it" onLetGo={() => onLetGo([id])} />
            )}
          </span>
        ),
      },
      {
        id: 'stage',
        heading: 'Stage',
        width: 110,
        text: ({ stage }) => (stage ? stageWords[stage.stage] : ''),
        cell: ({ stage }) => (
          <span
            className={stage ? '' : 'text-faint'}
            title={
              stage
                ? `Told by ${stage.from === 'hand' ? 'hand' : `its ${stage.from}`}`
                : 'Neither its words nor its theme tell'
            }
          >
            {stage ? stageWords[stage.stage] : '–'}
            {stage?.from === 'hand' && ' ·'}
          </span>
        ),
      },
      {
        id: 'searches',
        heading: 'Searches a month',
        width: 140,
        right: true,
        text: ({ searches, from }) => copiedFigure(searches, from.searches),
        cell: ({ searches, searchesAbout, from }) => (
          <Figured value={searches} from={from.searches} about={searchesAbout} />
        ),
      },
      {
        id: 'cpc',
        heading: 'CPC',
        width: 90,
        right: true,
        text: ({ cpc, from }) => copiedMoney(cpc, from.cpc, currency),
        cell: ({ cpc, cpcAbout, from }) => (
          <MoneyFigured value={cpc} from={from.cpc} about={cpcAbout} currency={currency} />
        ),
      },
    ];
  }, [tree, held, currency, onLetGo]);
  return (
    <Table
      label="Keywords"
      columns={columns}
      source={source}
      selection={selection}
      widths={widths}
      actions={actions}
      empty={empty}
    />
  );
}

/** The keys by which a stage is set. */
export const stageKeys: Readonly<Record<string, FunnelStage>> = { e: 'early', v: 'comparing', r: 'ready' };
