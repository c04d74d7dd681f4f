import { childNamed, findOutermost, isElement, lineOf, type Element } from '../markup/index.ts';

/** What is known of a topic besides its text, by what it is; each with its values in order. */
export type Metadata = Readonly<Partial<Record<MetadataName, readonly string[]>>>;

type MetadataName =
  'author' | 'publisher' | 'rights' | 'created' | 'modified' | 'audience' | 'subject' | 'keyword';

/** Of these there is one at most: the first that is found, the nearest. */
const single = new Set<string>(['publisher', 'created', 'modified']);
/** Elements that only hold others. */
const holders = new Set(['metadata', 'critdates', 'keywords']);

type Reader = readonly [name: MetadataName, valueOf: (element: Element) => string];
const readers: Readonly<Record<string, Reader>> = {
  author: ['author', lineOf],
  authorinformation: ['author', lineOf],
  publisher: ['publisher', lineOf],
  publisherinformation: ['publisher', publisherOf],
  copyright: ['rights', copyrightOf],
  created: ['created', ({ attributes }) => attributes['date'] ?? ''],
  revised: ['modified', ({ attributes }) => attributes['modified'] ?? ''],
  audience: ['audience', audienceOf],
  category: ['subject', lineOf],
  keyword: ['keyword', lineOf],
};

function copyrightOf(copyright: Element): string {
  const years = findOutermost(copyright, ({ name }) => name === 'copyryear').map(
    ({ attributes }) => attributes['year'] ?? '',
  );
  const holder = findOutermost(copyright, ({ name }) => name === 'copyrholder').map(lineOf);
  return ['©', years.join(', '), ...holder].filter((part) => part !== '').join(' ');
}

/** Places and dates of publishing stand beside the name. */
function publisherOf(publisher: Element): string {
  const named = childNamed(publisher, 'organization', 'person');
  return lineOf(named ?? publisher);
}

function audienceOf(audience: Element): string {
  const { name, type, othertype } = audience.attributes;
  return name ?? othertype ?? type ?? lineOf(audience);
}

/** What of `topicmeta`, `bookmeta` or `prolog` says something. */
export const metadataIn = (holder: Pick<Element, 'children'>): readonly Element[] =>
  holder.children.filter(
    (child): child is Element =>
      isElement(child) && (holders.has(child.name) || child.name in readers),
  );

/**
 * What entries below have as well (DITA 1.3, 2.2.4.3 “Cascading of metadata elements”, from
 * memory): all but keywords.
 */
export const inheritedMetadata = (elements: readonly Element[]): readonly Element[] =>
  elements.flatMap((element) => {
    if (element.name === 'keywords') return [];
    return holders.has(element.name)
      ? [{ ...element, children: inheritedMetadata(metadataIn(element)) }]
      : [element];
  });

/** What is for some readers only is not said: a page has one head. */
const isForAll = (element: Element): boolean => !('when' in element);

/**
 * Reads what elements say.
 * @param elements from `metadataIn`, filtered; nearer ones before those from farther around
 */
function readMetadata(elements: readonly Element[]): Metadata {
  const found: Partial<Record<MetadataName, string[]>> = {};
  const read = (element: Element): void => {
    if (!isForAll(element)) return;
    if (holders.has(element.name)) return metadataIn(element).forEach(read);
    const reader = readers[element.name];
    if (!reader) return;
    const [name, valueOf] = reader;
    const value = valueOf(element);
    const values = (found[name] ??= []);
    if (value !== '' && !values.includes(value)) values.push(value);
  };
  elements.forEach(read);
  return found;
}

/**
 * What topic and map say together (DITA 1.3, 2.2.4.4 “Reconciling topic and map metadata
 * elements”, from memory): values are added up; of what there is once, the map's goes before the
 * topic's unless it says `lockmeta="no"`.
 */
export function reconciled(
  topic: readonly Element[],
  map: readonly Element[],
  isMapFirst: boolean,
): Metadata {
  const [own, outer] = [readMetadata(topic), readMetadata(map)];
  const names = [...new Set([...Object.keys(own), ...Object.keys(outer)])] as MetadataName[];
  return Object.fromEntries(
    names.flatMap((name) => {
      const [first, second] = single.has(name) && isMapFirst ? [outer, own] : [own, outer];
      const values = [...new Set([...(first[name] ?? []), ...(second[name] ?? [])])];
      if (values.length === 0) return [];
      return [[name, single.has(name) ? values.slice(0, 1) : values]];
    }),
  );
}
