import { useMemo, useState } from 'react';
import { Empty } from '../kit/Empty.tsx';
import { count } from '../kit/format.ts';
import type { Put, TableColumn } from '../kit/table/column.ts';
import type { RowSource } from '../kit/table/row-source.ts';
import { useSelection } from '../kit/table/selection.ts';
import { Table } from '../kit/table/Table.tsx';

type Row = { id: number; name: string; searches: number; note: string };

const columns: TableColumn<Row>[] = [
  { id: 'name', heading: 'Keyword', sortable: true, cell: ({ name }) => name, text: ({ name }) => name },
  {
    id: 'searches',
    heading: 'Searches',
    width: 110,
    right: true,
    sortable: true,
    cell: ({ searches }) => count(searches),
    text: ({ searches }) => String(searches),
  },
  {
    id: 'note',
    heading: 'Note',
    width: 200,
    cell: ({ note }) => note,
    text: ({ note }) => note,
    read: (typed) => ({ value: typed }),
  },
];

const madeOf = (many: number): Map<number, Row> =>
  new Map(
    Array.from({ length: many }, (_, at) => [
      at,
      { id: at, name: `tea no. ${at + 1}`, searches: 9_000 - at, note: '' },
    ]),
  );

/** The table with made-up rows, whose notes can be pasted and filled. */
export function SampleTable({ rows: many }: { rows: number }) {
  const [rows, setRows] = useState(() => madeOf(many));
  const [sort, setSort] = useState({ id: 'searches', down: true });
  const [widths, setWidths] = useState<Record<string, number>>({});
  const selection = useSelection<number>();
  const source = useMemo<RowSource<Row, number>>(() => {
    const all = [...rows.values()].sort((a, b) => (sort.down ? a.id - b.id : b.id - a.id));
    const page = async (keys: number[]) => keys.flatMap((key) => rows.get(key) ?? []);
    return {
      ids: all.map(({ id }) => id),
      version: JSON.stringify([sort, [...rows.values()].filter(({ note }) => note !== '').length]),
      loading: false,
      fetchPage: page,
      fetchAll: page,
      keyOf: ({ id }) => id,
    };
  }, [rows, sort]);
  const put = async (puts: Put<Row>[]) => {
    const next = new Map(rows);
    for (const { row, value } of puts) next.set(row.id, { ...row, note: String(value ?? '') });
    setRows(next);
    return { done: true as const };
  };
  return (
    <div className="flex h-64 flex-col">
      <Table
        label={`Teas, ${many}`}
        columns={columns}
        source={source}
        sort={sort}
        onSort={(id, down) => setSort({ id, down })}
        selection={selection}
        widths={{ of: widths, set: setWidths }}
        filling={{ put }}
        empty={<Empty title="No tea is left by this filter">Take the filter off.</Empty>}
      />
    </div>
  );
}
