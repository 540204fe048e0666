import {
  type QueryInterface,
  type QueryInterfaceIndexOptions,
  QueryTypes,
  type Transaction,
} from 'sequelize';

/** Columns of a table, as Sequelize describes them. */
export type Columns = Parameters<QueryInterface['createTable']>[1];

/** The schema in the hands of one step: all it does is in that step's transaction. */
export class SchemaWriter {
  constructor(
    private readonly query: QueryInterface,
    private readonly transaction: Transaction,
  ) {}

  async run(sql: string, replacements?: Record<string, unknown>): Promise<void> {
    await this.query.sequelize.query(sql, {
      transaction: this.transaction,
      ...(replacements ? { replacements } : {}),
    });
  }

  select<T extends object>(sql: string, replacements: Record<string, unknown> = {}): Promise<T[]> {
    return this.query.sequelize.query<T>(sql, {
      type: QueryTypes.SELECT,
      transaction: this.transaction,
      replacements,
    });
  }

  createTable(name: string, columns: Columns): Promise<void> {
    return this.query.createTable(name, columns, { transaction: this.transaction });
  }

  dropTable(name: string): Promise<void> {
    return this.query.dropTable(name, { transaction: this.transaction });
  }

  addIndex(table: string, columns: string[], options: QueryInterfaceIndexOptions = {}): Promise<void> {
    return this.query.addIndex(table, columns, { ...options, transaction: this.transaction });
  }
}
