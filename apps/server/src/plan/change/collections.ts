import {
  type Column,
  columnsOf,
  type InputName,
  inputNames,
  type TableRow,
  tableOf,
} from '../../db/tables/index.ts';

/**
 * The inputs of a plan: every table that people's decisions are kept in. A change logs what it does to these and
 * to nothing else. What is referred to comes before what refers to it.
 */
export type CollectionName = InputName;
export const collectionNames: readonly CollectionName[] = inputNames;

/** A row of an input table. */
export type InputRow<N extends CollectionName> = Omit<TableRow<N>, Asides>;
/** Columns that the change itself keeps. */
type Asides = 'changed_revision';

export type Collection = { key: readonly string[]; columns: readonly Column[] };

const collections = new Map<CollectionName, Collection>(
  inputNames.map((name) => {
    const table = tableOf(name);
    return [name, { key: table.key, columns: columnsOf(table, ({ isAside }) => !isAside) }];
  }),
);
export const collectionOf = (name: CollectionName): Collection => collections.get(name) as Collection;

/** The column that scopes a collection's rows. */
export const scopeOf = (name: CollectionName): 'plan_id' | 'workspace_id' =>
  tableOf(name).scope === 'workspace' ? 'workspace_id' : 'plan_id';
