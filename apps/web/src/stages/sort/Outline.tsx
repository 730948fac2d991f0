import type { PlanState, SortSettings } from '@sprig/contracts';
import { sentenceOf } from '@sprig/core/sort';
import { useMemo } from 'react';
import { useWidths } from '../../data/me.ts';
import { count } from '../../kit/format.ts';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import type { TableColumn } from '../../kit/table/column.ts';
import type { RowSource } from '../../kit/table/row-source.ts';
import type { Selection } from '../../kit/table/selection.ts';
import { Table } from '../../kit/table/Table.tsx';
import { ResultsMenu } from '../../plan/results/ResultsMenu.tsx';
import { resultColumns } from '../../plan/results/result-columns.tsx';
import { useResultFigures, type WithResults, withResults } from '../../plan/results/use-results.ts';
import { RuleEdit } from './RuleEdit.tsx';
import { share, shareOf } from './sort-words.ts';
import { groundOf } from './ThemeMap.tsx';
import { allOf, flagsOf, flagWords, type ThemeNode, type ThemeTree } from './theme-tree.ts';
import type { SortActions } from './use-sort-actions.ts';

type Props = {
  plan: PlanState;
  tree: ThemeTree;
  open: ThemeNode | null;
  settings: SortSettings;
  searches: number;
  version: string;
  selection: Selection<number>;
  actions: SortActions;
  keys: Record<string, (ids: number[]) => void>;
};

type Node = ThemeNode & WithResults;

/** The themes as a list with their rules, to be read, renamed, ordered and changed from the keyboard. */
export function Outline({ plan, tree, open, settings, searches, version, selection, actions, keys }: Props) {
  const widths = useWidths('outline');
  const nodes = useMemo(() => allOf(open?.children ?? tree.roots), [tree, open]);
  const figures = useResultFigures(plan);
  const hasResults = figures.length > 0;
  const source = useMemo<RowSource<Node, number>>(() => {
    const fetchPage = (ids: number[]) =>
      withResults(
        plan.id,
        'theme',
        ids.flatMap((id) => tree.byId.get(id) ?? []),
        ({ id }) => String(id),
        hasResults,
      );
    return {
      ids: nodes.map(({ id }) => id),
      version: hasResults ? `${version}:${plan.revision}` : version,
      loading: false,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ id }) => id,
    };
  }, [nodes, tree, version, plan.id, plan.revision, hasResults]);
  const columns = useMemo<TableColumn<Node>[]>(() => {
    const base = open ? open.depth + 1 : 0;
    return [
      {
        id: 'name',
        heading: 'Theme',
        width: 280,
        text: ({ name, depth }) => `${'  '.repeat(depth - base)}${name}`,
        cell: (node) => (
          <span className="flex items-center gap-1.5" style={{ paddingLeft: (node.depth - base) * 18 }}>
            <span
              aria-hidden
              className="size-2.5 shrink-0 rounded-[3px]"
              style={{ background: groundOf(node) }}
            />
            <InlineEdit
              label={`name of ${node.name}`}
              shown={node.name}
              text={node.name}
              onKeep={(typed) => actions.edit(node, 'name', typed.trim())}
            />
          </span>
        ),
      },
      {
        id: 'rule',
        heading: 'Rule',
        text: ({ sift }) => (sift ? sentenceOf(sift) : ''),
        cell: (node) => <RuleEdit node={node} actions={actions} />,
      },
      {
        id: 'own',
        heading: 'Own',
        width: 70,
        right: true,
        hint: 'Keywords that no sub-theme has: those of its ad group',
        text: ({ sum }) => String(sum.own.keywords),
        cell: ({ sum }) => (sum.own.keywords === 0 ? '–' : count(sum.own.keywords)),
      },
      {
        id: 'all',
        heading: 'Keywords',
        width: 90,
        right: true,
        text: ({ sum }) => String(sum.all.keywords),
        cell: ({ sum }) => count(sum.all.keywords),
      },
      {
        id: 'searches',
        heading: 'Searches',
        width: 150,
        right: true,
        text: ({ sum }) => String(sum.all.searches),
        cell: ({ sum }) => (
          <span>
            {count(sum.all.searches)}{' '}
            <span className="text-faint">{shareOf(sum.all.searches, searches)}</span>
          </span>
        ),
      },
      {
        id: 'tightness',
        heading: 'Tight',
        width: 70,
        right: true,
        hint: 'How much its own keywords speak of the same',
        text: ({ sum }) => (sum.own.keywords === 0 ? '' : sum.tightness.toFixed(2)),
        cell: ({ sum }) => (sum.own.keywords === 0 ? '–' : share(sum.tightness)),
      },
      {
        id: 'flags',
        heading: 'To see to',
        width: 120,
        text: (node) => flagsOf(node, settings).join(' '),
        cell: (node) => (
          <span className="text-warning">
            {flagsOf(node, settings)
              .map((flag) => flagWords[flag].name)
              .join(', ')}
          </span>
        ),
      },
      ...resultColumns<Node>(figures),
    ];
  }, [open, settings, searches, actions, figures]);
  return (
    <>
      {plan.counts.reports > 0 && (
        <div className="flex h-9 shrink-0 items-center justify-end px-4">
          <ResultsMenu plan={plan} by="theme" />
        </div>
      )}
      <Table
        label="Outline of themes"
        columns={columns}
        source={source}
        selection={selection}
        widths={widths}
        actions={keys}
        empty={<p className="text-faint">No theme in here. Take a suggestion, or sift and save.</p>}
      />
    </>
  );
}
