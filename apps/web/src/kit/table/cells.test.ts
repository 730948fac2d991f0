import { describe, expect, test } from 'vitest';
import { gridOf, headingsIn, isGrid, placeByName, placeFrom } from './cells.ts';
import type { TableColumn } from './column.ts';

type Row = { name: string; bid: string; group: string };
const columns: TableColumn<Row>[] = [
  {
    id: 'name',
    heading: 'Keyword',
    text: ({ name }) => name,
    cell: () => null,
    read: (typed) => (typed === '' ? { words: 'Empty.' } : { value: typed }),
  },
  { id: 'group', heading: 'Ad group', text: ({ group }) => group, cell: () => null },
  {
    id: 'bid',
    heading: 'Bid',
    text: ({ bid }) => bid,
    cell: () => null,
    read: (typed) => (/^[\d.]+$/.test(typed) ? { value: Number(typed) } : { words: 'No amount.' }),
  },
];
const [name, , bid] = columns as [TableColumn<Row>, TableColumn<Row>, TableColumn<Row>];
const rows: Row[] = [
  { name: 'crown', bid: '1.00', group: 'Crowns' },
  { name: 'implant', bid: '2.00', group: 'Implants' },
  { name: 'veneer', bid: '3.00', group: 'Veneers' },
];
const values = (puts: { row: Row; column: string; value: unknown }[]) =>
  puts.map(({ row, column, value }) => [row.name, column, value]);

describe('what was copied in a spreadsheet', () => {
  test.each([
    [
      'a\tb\nc\td\n',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    ['a\r\nb\r\n\r\n', [['a'], ['b']]],
    ['"two\nlines"\t"a ""b"""', [['two\nlines', 'a "b"']]],
    [
      'a\t\n\tb',
      [
        ['a', ''],
        ['', 'b'],
      ],
    ],
    [' 1.20 ', [['1.20']]],
    ['', []],
  ])('%j is read as cells', (text, grid) => {
    expect(gridOf(text)).toEqual(grid);
  });

  test('more than one cell is told from one', () => {
    expect(isGrid('1.20\n')).toBe(false);
    expect(isGrid('crown and bridge')).toBe(false);
    expect(isGrid('1\n2')).toBe(true);
    expect(isGrid('1\t2')).toBe(true);
  });
});

describe('cells by their places', () => {
  test('go to the right and down; what is there already is counted, also written otherwise', () => {
    const { puts, same, refused } = placeFrom([['1.5'], ['2.0'], ['3.00']], { rows, columns: [bid] });
    expect(values(puts)).toEqual([['crown', 'bid', 1.5]]);
    expect([same, refused]).toEqual([2, []]);
  });

  test('one that is no value, has no column or no row is refused with its line, and the others stay', () => {
    const grid = [
      ['x', '9', 'much', 'out'],
      ['9', 'Implants', '9', ''],
      ['veneer', 'Veneers', '3', ''],
      ['below', '', '', ''],
    ];
    const { puts, refused } = placeFrom(grid, { rows, columns });
    expect(values(puts)).toEqual([
      ['crown', 'name', 'x'],
      ['implant', 'name', '9'],
      ['implant', 'bid', 9],
    ]);
    expect(refused.map(({ line, heading, typed }) => [line, heading, typed])).toEqual([
      [1, 'Ad group', '9'],
      [1, 'Bid', 'much'],
      [1, '–', 'out'],
      [2, '–', ''],
      [3, '–', ''],
      [4, 'Keyword', 'below'],
      [4, 'Ad group', ''],
      [4, 'Bid', ''],
      [4, '–', ''],
    ]);
  });

  test('one line goes into all rows, one cell into all marked columns', () => {
    const line = placeFrom([['same', 'Crowns', '7']], { rows: rows.slice(0, 2), columns });
    expect(values(line.puts)).toEqual([
      ['crown', 'name', 'same'],
      ['crown', 'bid', 7],
      ['implant', 'name', 'same'],
      ['implant', 'bid', 7],
    ]);
    const cell = placeFrom([['7']], { rows: rows.slice(1), columns: [bid], width: 1 });
    expect(values(cell.puts)).toEqual([
      ['implant', 'bid', 7],
      ['veneer', 'bid', 7],
    ]);
  });
});

describe('lines that name their rows', () => {
  test('headings are told by the table’s own, each once, with lines below them', () => {
    expect(
      headingsIn(
        [
          ['bid', ' KEYWORD '],
          ['1', 'crown'],
        ],
        columns,
      ),
    ).toEqual([bid, name]);
    expect(headingsIn([['Bid']], columns)).toBeNull();
    expect(
      headingsIn(
        [
          ['Bid', 'Bid'],
          ['1', '2'],
        ],
        columns,
      ),
    ).toBeNull();
    expect(
      headingsIn(
        [
          ['Bid', 'Clicks'],
          ['1', '2'],
        ],
        columns,
      ),
    ).toBeNull();
  });

  test('a heading that the table has not is told, and the others are used', () => {
    const grid = [
      ['Clicks', 'Keyword', 'Bid'],
      ['12', 'crown', '8'],
    ];
    const headings = headingsIn(grid, columns);
    expect(headings).toEqual([undefined, name, bid]);
    const { puts, refused } = placeByName(grid, { rows, headings: headings ?? [], name });
    expect(values(puts)).toEqual([['crown', 'bid', 8]]);
    expect(refused).toMatchObject([{ line: 1, heading: 'Clicks' }]);
  });

  const placed = (lines: string[][], of = rows) => {
    const grid = [['Keyword', 'Ad group', 'Bid'], ...lines];
    return placeByName(grid, { rows: of, headings: columns, name });
  };

  test('in any order, whatever their case; their names are never changed', () => {
    const { puts, same, refused } = placed([
      ['VENEER', 'anything', '8'],
      ['crown', '', '1'],
    ]);
    expect(values(puts)).toEqual([['veneer', 'bid', 8]]);
    expect([same, refused]).toEqual([1, []]);
  });

  test('a line that names no row is refused', () => {
    expect(placed([['brace', '', '8']]).refused).toMatchObject([{ line: 2, typed: 'brace' }]);
  });

  test('of several rows of one name it is the one that the other columns fit', () => {
    const twins = [...rows, { name: 'crown', bid: '4', group: 'Offers' }];
    const { puts } = placed([['crown', 'Offers', '8']], twins);
    expect(puts.map(({ row }) => row.group)).toEqual(['Offers']);
    // Of these two nothing tells which is meant.
    const { refused } = placed([['crown', 'Elsewhere', '8']], twins);
    expect(refused).toMatchObject([{ line: 2, words: expect.stringContaining('2 rows are called that') }]);
  });
});
