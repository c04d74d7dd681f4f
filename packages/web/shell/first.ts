import { Edition } from '@ukiyo/contracts';
import { shippedLooks, shippedSheets } from '@ukiyo/core/styles';
import { z } from 'zod';
import { ask } from '../parts/api.ts';
import { firstItem } from '../parts/itemList.ts';
import { useSession } from '../parts/session.ts';
import { useSources } from '../parts/sources.ts';

/**
 * What a stage opens where its address names nothing, as parts of the address; nothing where there
 * is none, or where it cannot be known now.
 */
type First = Promise<Readonly<Record<string, string>> | undefined>;

const named = (one: { readonly id: string } | undefined) => one && { id: one.id };

/** A publication rather than a part of one. */
export async function firstMap(): First {
  const found = await firstItem({ kind: 'map', type: 'bookmap' })
    .then((book) => book ?? firstItem({ kind: 'map' }))
    .catch(() => undefined);
  return named(found);
}
export async function firstEdition(): First {
  const editions = await ask(`${useSession().base}/editions`, z.array(Edition)).catch(() => []);
  return named(editions[0]);
}
/** One that is linked, where there is one. */
export async function firstSource(): First {
  const sources = useSources();
  await sources.load().catch(() => undefined);
  const found = sources.list.find(({ isLinked }) => isLinked) ?? sources.list[0];
  return found && { id: found.folder };
}
export async function firstSheet(): First {
  return { kind: 'sheets', id: Object.keys(shippedSheets)[0]! };
}
export async function firstLook(): First {
  return { id: Object.keys(shippedLooks)[0]! };
}
