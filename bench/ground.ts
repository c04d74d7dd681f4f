import { makeServices, seedEmpty, upgrade } from '@ukiyo/server';
import type { StoredItem } from '@ukiyo/core/library';
import { freshGround, type Ground } from '../e2e/serving.ts';
import { measure } from './measure.ts';
import { syntheticLibrary } from './synthetic.ts';

export interface LibraryGround {
  readonly ground: Ground;
  readonly account: { readonly email: string; readonly password: string };
  readonly project: string;
  /** Seconds that the package took to be imported. */
  readonly importing: number;
}

/**
 * A new database with a synthetic library.
 * @param size topics
 * @param more items beside those of the synthetic library
 */
export async function libraryGround(
  name: string,
  size: number,
  more: readonly StoredItem[] = [],
): Promise<LibraryGround> {
  const ground = await freshGround(name);
  const services = makeServices(ground);
  await upgrade(services);
  const account = (await seedEmpty(services))!;
  const project = (await services.database.models.projects.findOne())!.get().id;
  const encoder = new TextEncoder();
  const files = new Map(
    [...syntheticLibrary(size).items, ...more].map(({ id, kind, text }): [string, Uint8Array] => [
      `${kind === 'map' ? '' : 'topics/'}${id}.${kind === 'map' ? 'ditamap' : 'dita'}`,
      encoder.encode(text),
    ]),
  );
  const { wall } = await measure(() => services.packages.take(project, files, 'Bench'));
  await services.database.sequelize.close();
  return { ground, account, project, importing: wall };
}
