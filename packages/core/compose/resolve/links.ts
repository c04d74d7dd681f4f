import { isA } from '../../grammar/index.ts';
import { readReference } from '../../library/index.ts';
import type { Attributes } from '../../markup/index.ts';
import { readPeerKey } from '../peers.ts';
import type { Gathering } from './gathering.ts';
import { originOf, type Cursor } from './resolved.ts';

const linkElements = new Set([
  'xref',
  'link',
  'term',
  'abbreviated-form',
  'cite',
  'lq',
  'longquoteref',
  'longdescref',
]);
/** Elements that are nothing without a target or words. */
export const mustLead = (name: string): boolean => name === 'xref' || name === 'link';

/** Phrases and keywords lead where their keys lead, if that can be read. */
const isKeyedPhrase = (name: string): boolean => isA(name, 'ph') || isA(name, 'keyword');

/**
 * Notes the link of an element, by its key first (DITA 1.3, 2.4.4.5 “Processing key references”).
 * @returns its name in the publication; undefined where it leads nowhere
 */
export function linkOf(
  name: string,
  attributes: Attributes,
  cursor: Cursor,
  gathering: Gathering,
): string | undefined {
  const { keyref } = attributes;
  const isPhrase = !linkElements.has(name);
  if (isPhrase && (keyref === undefined || !isKeyedPhrase(name))) return undefined;
  const href = isPhrase ? undefined : attributes['href'];
  if (href === undefined && keyref === undefined) return undefined;
  const byKey =
    keyref === undefined
      ? undefined
      : (gathering.keyTarget(keyref) ?? readPeerKey(keyref, gathering.context.peers));
  const isDefined = keyref !== undefined && gathering.isDefined(keyref);
  // The address beside a key stands in for a key that is not defined.
  const reference =
    byKey ?? (href === undefined || isDefined ? undefined : readReference(href, cursor.item));
  if (isPhrase && reference?.kind !== 'item' && reference?.kind !== 'external') return undefined;
  if (!reference) {
    if (mustLead(name) && !isDefined)
      gathering.report(
        'error',
        'key.undefined',
        `The link uses the key “${keyref}”, which is not defined in this publication.`,
        originOf(cursor),
      );
    return undefined;
  }
  if (reference.kind === 'asset') gathering.isFileThere(reference.id);
  const key = `${gathering.anchor}~${gathering.links.length + 1}`;
  gathering.links.push({
    key,
    reference,
    ...(byKey && keyref !== undefined ? { byKey: keyref } : {}),
    ...(name === 'abbreviated-form' ? { isOptional: true as const } : {}),
    origin: originOf(cursor),
  });
  return key;
}
