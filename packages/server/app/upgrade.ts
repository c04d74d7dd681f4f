import { migrate } from '../data/database.ts';
import type { Services } from './services.ts';

/** Migrations after which something new is derived from every text. */
const countedAnew = [
  '0005-facet-uses',
  '0007-uses',
  '0008-conditions',
  '0009-alternates',
  '0011-facts',
];

/** Brings a database of any earlier version up to date. */
export async function upgrade({ database, items }: Services): Promise<void> {
  const ran = await migrate(database);
  if (!ran.some((name) => countedAnew.includes(name))) return;
  for (const project of await database.models.projects.findAll({ attributes: ['id'] }))
    await items.recount(project.get().id);
}
