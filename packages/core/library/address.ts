import type { Element } from '../markup/index.ts';
import { leadsOutside } from '../rules/index.ts';

/**
 * What a reference leads to. Stored references use `topic:ID`, `topic:ID/element`,
 * `topic:ID/nested-topic/element`, `map:ID`, `asset:ID` and `lens:ID`; file paths exist only in
 * packages that go in or out.
 */
export type Reference =
  | { readonly kind: 'item'; readonly id: string; readonly element?: string }
  | { readonly kind: 'asset'; readonly id: string }
  | { readonly kind: 'lens'; readonly id: string }
  | { readonly kind: 'external'; readonly href: string }
  /** Something that looks like a file of a package but is not in the library. */
  | { readonly kind: 'unknown'; readonly href: string };

/**
 * Reads a reference as it stands in `href`, `conref` or `data`, without the fragment of a file.
 * @param self the item in which it stands, for references that begin with `#`
 */
export function readReference(href: string, self: string): Reference {
  const own = /^(topic|map):([^/]+)(?:\/(.+))?$/u.exec(href);
  if (own)
    return { kind: 'item', id: own[2]!, ...(own[3] === undefined ? {} : { element: own[3] }) };
  const file = /^(asset|lens):([^#]+)/u.exec(href);
  if (file) return { kind: file[1] === 'lens' ? 'lens' : 'asset', id: file[2]! };
  if (href.startsWith('#')) {
    // A dot stands for the topic in which the reference stands.
    const element = href.slice(1).replace(/^\.\/?/u, '');
    return { kind: 'item', id: self, ...(element === '' ? {} : { element }) };
  }
  return leadsOutside(href) ? { kind: 'external', href } : { kind: 'unknown', href };
}

export function writeReference(reference: Reference, kindOf: 'topic' | 'map' = 'topic'): string {
  if (reference.kind === 'asset' || reference.kind === 'lens')
    return `${reference.kind}:${reference.id}`;
  if (reference.kind === 'item') {
    const item = `${kindOf}:${reference.id}`;
    return reference.element === undefined ? item : `${item}/${reference.element}`;
  }
  return reference.href;
}

const referenceAttributes = ['href', 'conref', 'conrefend', 'data', 'longdescref', 'anchorref'];
const ofParameters = [...referenceAttributes, 'value'];

/**
 * The attributes of an element that hold a reference: those of every element, and the value of a
 * parameter that says it is one (DITA 1.3, 3.2.1.10).
 */
export const referenceAttributesOf = ({ name, attributes }: Element): readonly string[] =>
  name === 'param' && attributes['valuetype'] === 'ref' ? ofParameters : referenceAttributes;
