/**
 * Video and sound in a topic.
 * In: an `object` element (DITA 1.3, 3.2.1.9), as written or resolved; out: what is played, and
 * back.
 */
import {
  childElements,
  childNamed,
  element,
  isElement,
  lineOf,
  type Element,
} from '../markup/index.ts';

export interface Media {
  /** A file of the library (`asset:ID`) or an address of the web. */
  readonly source: string;
  /** What it shows or says, for those who cannot see or hear it, and for print. */
  readonly description: string;
  /**
   * The image that is shown before it plays and in print: a file of the library; empty for none.
   */
  readonly poster: string;
  readonly kind: 'video' | 'audio';
}

const posterName = 'poster';
const isPoster = (part: Element): boolean =>
  part.name === 'param' && part.attributes['name'] === posterName;
const soundEnding = /\.(mp3|ogg|oga|wav|m4a|aac|flac)(?:$|[?#])/iu;

/** Undefined for embedded content that is neither video nor sound, as far as it says. */
export function readMedia(object: Element): Media | undefined {
  const { href, data, type = '' } = object.attributes;
  const source = href ?? data ?? '';
  if (type !== '' && !/^(video|audio)\//u.test(type)) return undefined;
  const poster = childElements(object).find(isPoster)?.attributes;
  const description = childNamed(object, 'desc');
  return {
    source,
    description: description ? lineOf(description) : '',
    poster: poster?.['href'] ?? poster?.['value'] ?? '',
    kind:
      type.startsWith('audio/') || (type === '' && soundEnding.test(source)) ? 'audio' : 'video',
  };
}

/**
 * @param mediaType of the file, where it is known
 * @param before what it was: attributes and parts that are none of this stay
 */
export function writeMedia(
  { source, description, poster }: Media,
  mediaType: string | undefined,
  before?: Element,
): Element {
  const { data: _data, type: _type, ...attributes } = before?.attributes ?? {};
  const others = (before?.children ?? []).filter(
    (child) => !isElement(child) || (child.name !== 'desc' && !isPoster(child)),
  );
  return element(
    'object',
    { ...attributes, data: source, ...(mediaType === undefined ? {} : { type: mediaType }) },
    [
      ...(description === '' ? [] : [element('desc', {}, [description])]),
      ...others,
      ...(poster === ''
        ? []
        : [element('param', { name: posterName, value: poster, valuetype: 'ref' })]),
    ],
  );
}
export {
  attachmentEnding,
  attachmentTypeOf,
  isAttachment,
  isReadableText,
  isTextType,
  linesOfText,
} from './attachments.ts';
