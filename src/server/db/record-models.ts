import { DataTypes, type Model, type ModelAttributes, type ModelStatic, type Sequelize } from 'sequelize';
import { type Field, KINDS, RECORD_KINDS, type RecordKind } from '@/core/session';

/** Kinds that have a table of their own; what is said of the song lies in the session's row. */
export type TableKind = Exclude<RecordKind, 'song'>;

/** All kinds that have a table of their own. */
export const TABLE_KINDS = RECORD_KINDS.filter((k): k is TableKind => k !== 'song');

type RecordModel = ModelStatic<Model<Record<string, unknown>>>;

const COLUMNS = {
  text: DataTypes.TEXT,
  integer: DataTypes.INTEGER,
  bigint: DataTypes.BIGINT,
  double: DataTypes.DOUBLE,
  boolean: DataTypes.BOOLEAN,
  uuid: DataTypes.UUID,
  json: DataTypes.JSONB,
} as const;

/** The fields of a kind with their definitions. */
export const fieldsOfKind = (kind: RecordKind): [string, Field<unknown>][] =>
  Object.entries<Field<unknown>>(KINDS[kind].fields);

/** Columns for the fields of a kind. */
export const columnsOf = (kind: RecordKind): ModelAttributes =>
  Object.fromEntries(
    fieldsOfKind(kind).map(([name, { column, schema }]) => [
      name,
      { type: COLUMNS[column], allowNull: schema.spec.nullable },
    ]),
  );

const models = new Map<TableKind, RecordModel>();

/** The table of a kind. Throws RangeError before the database was opened. */
export function recordModel(kind: TableKind): RecordModel {
  const model = models.get(kind);
  if (!model) throw new RangeError('the database is not open');
  return model;
}

/** Declares a table for each kind of record, as the kind says, and how they refer to each other. */
export function initRecordModels(sequelize: Sequelize): void {
  for (const kind of TABLE_KINDS)
    models.set(
      kind,
      sequelize.define(
        kind,
        {
          sessionId: { type: DataTypes.UUID, primaryKey: true },
          id: { type: DataTypes.TEXT, primaryKey: true },
          ...columnsOf(kind),
        },
        { tableName: KINDS[kind].table, underscored: true, timestamps: false },
      ),
    );
  for (const kind of TABLE_KINDS)
    for (const [foreignKey, { refersTo }] of fieldsOfKind(kind))
      if (refersTo)
        recordModel(kind).belongsTo(recordModel(refersTo.kind), {
          as: `${foreignKey}Record`,
          foreignKey,
          constraints: false,
        });
}
