import { readReference, type Reference } from '../../library/index.ts';
import type { Element } from '../../markup/index.ts';
import { lookUpKey, type Reading } from '../keys.ts';
import type { Origin } from '../publication.ts';
import { readRelations, type Relation } from '../relations.ts';
import type { MapContext } from './entry.ts';

/** A relationship table where it stands. */
export interface PlacedTable {
  readonly element: Element;
  readonly origin: Origin;
  readonly context: MapContext;
}

/**
 * The relations of a table, when all keys are known.
 * @param undefinedKey called for each key that leads nowhere
 */
export function relationsIn(
  { element, context }: PlacedTable,
  reading: Reading,
  undefinedKey: (key: string) => void,
): readonly Relation[] {
  const { item, branches, scope } = context;
  const targetOf = ({ attributes }: Element): Reference | undefined => {
    const { keyref, href } = attributes;
    const key = keyref?.split('/')[0];
    const definition = key === undefined ? undefined : lookUpKey(scope, key);
    if (key !== undefined && !definition && href === undefined) undefinedKey(key);
    if (definition?.href !== undefined)
      return readReference(definition.href, definition.origin.item);
    return href === undefined || definition ? undefined : readReference(href, item.id);
  };
  return readRelations(element, { branches, targetOf }, reading);
}
