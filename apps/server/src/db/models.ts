import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize';
import {
  allTables,
  type ColumnSpec,
  type ColumnType,
  scopeColumns,
  type Table,
  type TableName,
} from './tables/index.ts';

const TYPES: Record<ColumnType, () => DataTypes.DataType> = {
  int2: () => DataTypes.SMALLINT,
  int4: () => DataTypes.INTEGER,
  int8: () => DataTypes.BIGINT,
  text: () => DataTypes.TEXT,
  bool: () => DataTypes.BOOLEAN,
  jsonb: () => DataTypes.JSONB,
  'int2[]': () => DataTypes.ARRAY(DataTypes.SMALLINT),
  'int4[]': () => DataTypes.ARRAY(DataTypes.INTEGER),
  'text[]': () => DataTypes.ARRAY(DataTypes.TEXT),
  timestamptz: () => DataTypes.DATE,
  date: () => DataTypes.DATEONLY,
  uuid: () => DataTypes.UUID,
  bytea: () => DataTypes.BLOB,
};

/** A row with the columns of its scope. */
type Stored = Model<Record<string, unknown>, Record<string, unknown>>;

const attribute = ({ type, isNullable }: ColumnSpec, isKey: boolean) => ({
  type: TYPES[type](),
  allowNull: isNullable,
  primaryKey: isKey,
});

function define(database: Sequelize, table: Table): void {
  const { name, scope, identity, key, columns } = table;
  const holder = scope === 'plan' ? 'plan_id' : 'workspace_id';
  const place = scopeColumns(table).map((column) => [
    column,
    { type: DataTypes.INTEGER, allowNull: false, primaryKey: identity === 'scoped' && column === holder },
  ]);
  const own = Object.entries(columns).map(([column, spec]) => [
    column,
    attribute(spec, identity !== 'none' && key.includes(column)),
  ]);
  const model = database.define<Stored>(name, Object.fromEntries([...place, ...own]), {
    tableName: name,
    timestamps: false,
    underscored: false,
    scopes: {
      of: (place: Record<string, number>) => ({ where: place }),
    },
  });
  // It would put an id in where a table has no key.
  if (identity === 'none') model.removeAttribute('id');
}

/** Says which rows belong together, for reading them in one go. Of rows of a plan the plan has to be the same. */
function associate(database: Sequelize): void {
  for (const { name, scope, refers } of allTables) {
    const model = database.model(name);
    const belongsTo = (other: string, foreignKey: string) =>
      model.belongsTo(database.model(other), {
        foreignKey,
        as: `${foreignKey} of ${other}`,
        constraints: false,
      });
    if (scope === 'plan') belongsTo('plans', 'plan_id');
    if (scope !== 'none') belongsTo('workspaces', 'workspace_id');
    for (const [column, other] of Object.entries(refers)) belongsTo(other, column);
  }
}

/** The model of a table on a connection pool; all of them are defined when the first is asked for. */
export function modelOf(database: Sequelize, name: TableName): ModelStatic<Stored> {
  if (!database.isDefined(name)) {
    for (const table of allTables) define(database, table);
    associate(database);
  }
  return database.model(name) as ModelStatic<Stored>;
}
