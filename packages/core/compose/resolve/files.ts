import type { When } from '../../facets/index.ts';
import { isA } from '../../grammar/index.ts';
import { readReference } from '../../library/index.ts';
import type { Attributes } from '../../markup/index.ts';
import { webAddress } from '../../rules/index.ts';
import type { Gathering } from './gathering.ts';
import { originOf, type Cursor } from './resolved.ts';

/** A file, and who gets it; everybody, where nothing is said. */
export interface ShownFile {
  readonly href: string;
  readonly when?: When | undefined;
}

/** The attribute that names the file of an element. */
const fileAttribute: Readonly<Record<string, string>> = {
  image: 'href',
  object: 'data',
  param: 'value',
  coderef: 'href',
  mathmlref: 'href',
};

/** The attribute, where the element shows a file. */
function fileAttributeOf(name: string, attributes: Attributes): string | undefined {
  if (name === 'param' && attributes['valuetype'] !== 'ref') return undefined;
  return fileAttribute[isA(name, 'image') ? 'image' : name];
}

/**
 * The files that an element shows: one, or one for each of those readers who get another. One that
 * is not there has the address ''.
 */
export function filesOf(
  name: string,
  attributes: Attributes,
  cursor: Cursor,
  gathering: Gathering,
): readonly ShownFile[] {
  const attribute = fileAttributeOf(name, attributes);
  if (attribute === undefined) return [];
  const { keyref } = attributes;
  const href = attributes[attribute];
  const byKey = keyref === undefined ? undefined : gathering.keyTarget(keyref);
  const reference = byKey ?? (href === undefined ? undefined : readReference(href, cursor.item));
  if (reference?.kind === 'external') {
    if (isA(name, 'image'))
      gathering.report(
        'warning',
        'image.outside',
        `The image “${reference.href}” is on the web. A link stands in its place.`,
        originOf(cursor),
      );
    return [{ href: webAddress(reference.href) ?? '' }];
  }
  const missing = (): string => {
    gathering.report(
      'error',
      'image.missing',
      `The ${isA(name, 'image') ? 'image' : 'file'} “${href ?? keyref ?? ''}” is not in the ` +
        'library. A mark stands in its place.',
      originOf(cursor),
    );
    return '';
  };
  if (reference?.kind !== 'asset') return [{ href: missing() }];
  const shown = (id: string): string => (gathering.isFileThere(id) ? `asset:${id}` : missing());
  const { id, others, when } = gathering.choose(reference.id);
  // Of a video the chosen one alone: what is for others would have to be another player.
  if (!isA(name, 'image')) return [{ href: shown(id) }];
  return [
    ...others.map((other) => ({ href: shown(other.id), when: other.when })),
    { href: shown(id), when },
  ];
}
