import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { migrations } from './migrations.ts';
import { defineModels, type Models } from './models.ts';

export interface Database {
  readonly sequelize: Sequelize;
  readonly models: Models;
}

/** Opens the database. Nothing is connected before the first query. */
export function openDatabase(url: string, connections = 10): Database {
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    logging: false,
    pool: { max: connections, min: 0, idle: 10_000 },
  });
  return { sequelize, models: defineModels(sequelize) };
}

/** Brings the schema up to date; returns the names of the migrations that ran. */
export async function migrate({ sequelize }: Database): Promise<string[]> {
  const umzug = new Umzug({
    migrations: migrations.map(({ name, sql }) => ({
      name,
      up: async () => void (await sequelize.query(sql)),
    })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  return (await umzug.up()).map(({ name }) => name);
}
