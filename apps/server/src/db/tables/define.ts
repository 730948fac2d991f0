/** What PostgreSQL calls a column's type, and what a value of it is here. */
export type ColumnValues = {
  int2: number;
  int4: number;
  /** Micros and counts, far below 2^53. */
  int8: number;
  text: string;
  bool: boolean;
  jsonb: unknown;
  'int2[]': readonly number[];
  'int4[]': readonly number[];
  'text[]': readonly string[];
  timestamptz: Date | string;
  /** `YYYY-MM-DD`. */
  date: string;
  uuid: string;
  bytea: Buffer;
};
export type ColumnType = keyof ColumnValues;
export type Column = { name: string; type: ColumnType };

/** One column of a table. `Value` is what a row holds there. */
export type ColumnSpec<Value = unknown> = {
  type: ColumnType;
  isNullable: boolean;
  /** The database gives a value where a row brings none. */
  hasDefault: boolean;
  /** Kept with the row, but no decision of a person: a change does not log it. */
  isAside: boolean;
  /** A duplicate of the plan begins without it. */
  isNotCopied: boolean;
  /** Made anew when a plan file is opened. */
  isNotInFile: boolean;
  /** Of plan files: missing in those of an older version, whose rows have nothing there. */
  isLaterInFile: boolean;
  readonly value?: Value;
};

const column = <T extends ColumnType>(type: T): ColumnSpec<ColumnValues[T]> => ({
  type,
  isNullable: false,
  hasDefault: false,
  isAside: false,
  isNotCopied: false,
  isNotInFile: false,
  isLaterInFile: false,
});

export const small = column('int2');
export const int = column('int4');
export const amount = column('int8');
export const text = column('text');
export const flag = column('bool');
export const json = column('jsonb');
export const places = column('int2[]');
export const ints = column('int4[]');
export const texts = column('text[]');
export const moment = column('timestamptz');
export const day = column('date');
export const uuid = column('uuid');
export const bytes = column('bytea');

/** A column whose values are of a narrower type: they are checked before they are written. */
export const holding = <V>(spec: ColumnSpec): ColumnSpec<V> => spec as ColumnSpec<V>;
export const optional = <V>(spec: ColumnSpec<V>): ColumnSpec<V | null> => ({ ...spec, isNullable: true });
export const given = <V>(spec: ColumnSpec<V>): ColumnSpec<V> => ({ ...spec, hasDefault: true });
export const aside = <V>(spec: ColumnSpec<V>): ColumnSpec<V> => ({ ...spec, isAside: true });
export const notCopied = <V>(spec: ColumnSpec<V>): ColumnSpec<V> => ({ ...spec, isNotCopied: true });
export const notInFile = <V>(spec: ColumnSpec<V>): ColumnSpec<V> => ({ ...spec, isNotInFile: true });
export const laterInFile = <V>(spec: ColumnSpec<V>): ColumnSpec<V> => ({ ...spec, isLaterInFile: true });

/**
 * - `input`: what people decide; every change of it is logged, and a duplicate or a plan file has it
 * - `derived`: made by the rebuild from the inputs
 * - `record`: what happened, and what is on its way
 */
export type Holds = 'input' | 'derived' | 'record';

/** What tells a row: its scope and its key, a key of its own whatever the scope, or nothing. */
export type Identity = 'scoped' | 'own' | 'none';

/** Whose a row is: its columns `plan_id` and `workspace_id` come first in the table, and are not named among the others. */
export type Scope = 'plan' | 'workspace' | 'none';

export type Columns = Record<string, ColumnSpec>;
export type Table<Name extends string = string, C extends Columns = Columns, H extends Holds = Holds> = {
  name: Name;
  /** What it was called in changes that were logged, and in plan files, of older versions. */
  former: string | null;
  holds: H;
  scope: Scope;
  identity: Identity;
  key: readonly string[];
  columns: C;
  /** A duplicate of the plan begins without its rows. */
  isNotCopied: boolean;
  /** Columns that name a row of another table, of the same scope where both have one. A plan's and a workspace's own are implied. */
  refers: Readonly<Record<string, string>>;
};

type Options<C extends Columns> = {
  former?: string;
  scope?: Scope;
  identity?: Identity;
  key: readonly (keyof C & string)[];
  columns: C;
  refers?: Readonly<Record<string, string>>;
  isNotCopied?: boolean;
};

/** The one definition of a table: its model, what a change logs, what is copied, COPY columns and plan files follow from it. */
export const table = <Name extends string, H extends Holds, C extends Columns>(
  name: Name,
  holds: H,
  { former, scope = 'plan', identity = 'scoped', key, columns, refers = {}, isNotCopied = false }: Options<C>,
): Table<Name, C, H> => ({
  name,
  former: former ?? null,
  holds,
  scope,
  identity,
  key,
  columns,
  refers,
  isNotCopied,
});

/** A table of inputs of which each row is one document. */
export const documents = <Name extends string, Body = unknown>(
  name: Name,
  body: ColumnSpec<Body> = json as ColumnSpec<Body>,
) => table(name, 'input', { key: ['id'], columns: { id: int, body } });

/** A row without the columns of its scope. */
export type RowOf<T> =
  T extends Table<string, infer C>
    ? { [Name in keyof C]: C[Name] extends ColumnSpec<infer Value> ? Value : never }
    : never;

/** The columns that place a row, in the order of COPY. */
export const scopeColumns = ({ scope }: Table): string[] =>
  scope === 'plan' ? ['plan_id', 'workspace_id'] : scope === 'workspace' ? ['workspace_id'] : [];

/** The columns of a table that `keeps`, in their order. */
export const columnsOf = (
  { columns }: Table,
  keeps: (spec: ColumnSpec, name: string) => boolean = () => true,
): Column[] =>
  Object.entries(columns).flatMap(([name, spec]) => (keeps(spec, name) ? [{ name, type: spec.type }] : []));

/** Some of a table's columns, in the order that is asked. */
export const pick = <C extends Columns>(
  { columns }: Table<string, C>,
  names: readonly (keyof C & string)[],
): Column[] => names.map((name) => ({ name, type: (columns[name] as ColumnSpec).type }));

/** `id int4, text text`: how a record of these columns is declared. */
export const shapeOf = (columns: readonly Column[]): string =>
  columns.map(({ name, type }) => `${name} ${type}`).join(', ');

export const namesOf = (columns: readonly Column[]): string => columns.map(({ name }) => name).join(', ');
