import { readReference } from '../../library/index.ts';
import type { Attributes } from '../../markup/index.ts';
import { readPeerKey } from '../peers.ts';
import type { Gathering } from './gathering.ts';
import { originOf, type Cursor } from './resolved.ts';

const linkElements = new Set(['xref', 'link', 'term', 'abbreviated-form', 'cite']);
/** Elements that are nothing without a target. */
const mustLead = new Set(['xref', 'link']);

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
  if (!linkElements.has(name)) return undefined;
  const { href, keyref } = attributes;
  if (href === undefined && keyref === undefined) return undefined;
  const byKey =
    keyref === undefined
      ? undefined
      : (gathering.keyTarget(keyref) ?? readPeerKey(keyref, gathering.context.peers));
  const reference = byKey ?? (href === undefined ? undefined : readReference(href, cursor.item));
  if (!reference) {
    if (mustLead.has(name))
      gathering.report(
        'error',
        'key.undefined',
        `The link uses the key “${keyref}”, which is not defined in this publication.`,
        originOf(cursor),
      );
    return undefined;
  }
  const key = `${gathering.anchor}~${gathering.links.length + 1}`;
  gathering.links.push({ key, reference, origin: originOf(cursor) });
  return key;
}
