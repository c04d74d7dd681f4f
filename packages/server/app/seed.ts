import { randomUUID } from 'node:crypto';
import { cp, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Agreements, type Role } from '@ukiyo/contracts';
import { readFolder } from '@ukiyo/intake';
import type { Services } from './services.ts';

export const demoPassword = 'lanternfish';

/** The people of the demo, one for each role. */
export const demoPeople: readonly {
  readonly name: string;
  readonly email: string;
  readonly role: Role;
}[] = [
  { name: 'Ada Lind', email: 'ada@brinewell.example', role: 'administrator' },
  { name: 'Teo Marsh', email: 'teo@brinewell.example', role: 'publisher' },
  { name: 'Noor Haddad', email: 'noor@brinewell.example', role: 'writer' },
  { name: 'Ines Kroll', email: 'ines@brinewell.example', role: 'reviewer' },
  { name: 'Yuki Arai', email: 'yuki@brinewell.example', role: 'translator' },
  { name: 'Mira Sol', email: 'mira@brinewell.example', role: 'reader' },
];

/** Fills an empty database with the demo library, through the same door as any other package. */
export async function seedDemo(services: Services, folder: string): Promise<boolean> {
  if ((await services.people.count()) > 0) return false;
  for (const person of demoPeople)
    await services.people.create({ ...person, password: demoPassword });
  const project = (
    await services.database.models.projects.create({
      id: randomUUID(),
      name: 'Tern stations',
      locale: 'en',
    })
  ).get();
  const files = await readFolder(join(folder, 'library'));
  await services.agreements.save(
    project.id,
    Agreements.parse(JSON.parse(await readFile(join(folder, 'agreements.json'), 'utf8'))),
  );
  await services.packages.take(project.id, files, demoPeople[0]!.name);
  await cp(join(folder, 'sources'), join(services.settings.dataFolder, 'sources'), {
    recursive: true,
    force: false,
  });
  return true;
}

/**
 * The first administrator and an empty project, for a library without the demo. The password is
 * shown once.
 */
export async function seedEmpty(
  services: Services,
): Promise<{ email: string; password: string } | undefined> {
  if ((await services.people.count()) > 0) return undefined;
  const email = 'admin@localhost';
  const password = randomUUID();
  await services.people.create({ name: 'Administrator', email, password, role: 'administrator' });
  await services.database.models.projects.create({
    id: randomUUID(),
    name: 'Library',
    locale: 'en',
  });
  return { email, password };
}
