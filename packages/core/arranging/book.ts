import { isA, labelOf, mayContain } from '../grammar/index.ts';
import {
  childElements,
  childNamed,
  element,
  isElement,
  lineOf,
  type Element,
  type Node,
} from '../markup/index.ts';
import { accept, fittingName } from './arrange.ts';

/**
 * A map with the parts of a book (DITA 1.3, bookmap): chapters, appendices, and lists that it makes
 * of itself.
 */
export const isBook = ({ name }: Element): boolean => isA(name, 'bookmap');

/** The lists that a book makes of itself, in the order in which they stand. */
export const bookLists = ['toc', 'figurelist', 'tablelist', 'glossarylist', 'indexlist'].map(
  (name) => ({ name, label: labelOf(name) }),
);

const matters = { front: 'frontmatter', back: 'backmatter' } as const;
/** Before the first chapter, or after the last. */
export type Matter = keyof typeof matters;

/** What stands at the top of a book, in the order in which it has to stand. */
const bookOrder = [
  'title',
  'booktitle',
  'bookmeta',
  'frontmatter',
  'chapter',
  'part',
  'appendices',
  'appendix',
  'backmatter',
];
/** The beginning of what is said of a map (DITA 1.3, topicmeta); the rest follows in any order. */
const metaOrder = [
  'navtitle',
  'linktext',
  'searchtitle',
  'shortdesc',
  'author',
  'source',
  'publisher',
  'copyright',
];

/**
 * Children in the order of their names; those that are not named come last, in the order in which
 * they are.
 */
function inOrder(children: readonly Node[], order: readonly string[]): Node[] {
  const rank = (child: Node): number => {
    const at = isElement(child) ? order.indexOf(child.name) : -1;
    return at === -1 ? order.length : at;
  };
  return children
    .filter((child) => typeof child !== 'string' || child.trim() !== '')
    .toSorted((a, b) => rank(a) - rank(b));
}

/** The element with one child of a name changed, made where it is not there, or taken away. */
function withChild(
  holder: Element,
  name: string,
  order: readonly string[],
  change: (child: Element) => Element | undefined,
): Element {
  const known = childNamed(holder, name);
  const next = change(known ?? element(name));
  const children = known
    ? holder.children.flatMap((child) => (child === known ? (next ? [next] : []) : [child]))
    : [...holder.children, ...(next ? [next] : [])];
  return { ...holder, children: inOrder(children, order) };
}

const bare = (one: Element): Element | undefined => (one.children.length > 0 ? one : undefined);

/**
 * A map as a book: what stands at its top becomes chapters, with contents in front.
 * @returns nothing where that would not be valid
 */
export function asBook(map: Element): Element | undefined {
  const book = element('bookmap');
  const kept = map.children.flatMap((child): Node[] => {
    if (!isElement(child)) return [];
    if (child.name === 'title')
      return [element('booktitle', {}, [element('mainbooktitle', {}, child.children)])];
    if (child.name === 'topicmeta')
      return [
        element(
          'bookmeta',
          child.attributes,
          child.children.filter((fact) => isElement(fact) && mayContain('bookmeta', fact.name)),
        ),
      ];
    // A map that only brings variables, or is another publication, is no chapter.
    if (child.name === 'mapref' && child.attributes['processing-role'] === 'resource-only')
      return [element('topicgroup', {}, [child])];
    if (child.name === 'mapref')
      return [
        { ...child, name: 'chapter', attributes: { ...child.attributes, format: 'ditamap' } },
      ];
    const fitting =
      child.name === 'glossref' ||
      child.name === 'keydef' ||
      child.name === 'reltable' ||
      child.name === 'topicgroup'
        ? undefined
        : fittingName(child, book);
    return [fitting ?? (child.name === 'glossref' ? element('topicgroup', {}, [child]) : child)];
  });
  const { title: _inAttribute, ...attributes } = map.attributes;
  const made = withList(
    { ...book, attributes, children: inOrder(kept, bookOrder) },
    'toc',
    'front',
  );
  return accept(map, made, [])?.root;
}

/** Where a list of the book stands; undefined where it has none. */
export function listPlace(book: Element, list: string): Matter | undefined {
  const holds = (matter: Matter): boolean => {
    const lists = childElements(childNamed(book, matters[matter]) ?? element('none')).filter(
      ({ name }) => name === 'booklists',
    );
    return lists.some((holder) => childNamed(holder, list) !== undefined);
  };
  return holds('front') ? 'front' : holds('back') ? 'back' : undefined;
}

/** The book with a list in front, at the back, or without it. */
export function withList(book: Element, list: string, place: Matter | undefined): Element {
  const known = bookLists.map(({ name }) => name);
  return (['front', 'back'] as const).reduce(
    (changed, matter) =>
      withChild(changed, matters[matter], bookOrder, (holder) => {
        const isHere = place === matter;
        if (!isHere && listPlace(changed, list) !== matter) return bare(holder);
        const lists = withChild(holder, 'booklists', ['booklists'], (inner) =>
          bare(withChild(inner, list, known, (one) => (isHere ? one : undefined))),
        );
        return bare(lists);
      }),
    book,
  );
}

export const hasMatter = (book: Element, matter: Matter): boolean =>
  childNamed(book, matters[matter]) !== undefined;
/** The book with a place for topics before the first chapter, or after the last. */
export const withMatter = (book: Element, matter: Matter): Element =>
  withChild(book, matters[matter], bookOrder, (holder) => holder);

/**
 * What can be said of a map, each as one line, with variables as `%%key`; authors and years are
 * parted by commas.
 */
export const mapFacts = [
  { name: 'subtitle', label: 'Subtitle', isOfBooks: true },
  { name: 'series', label: 'Series, or who makes it', isOfBooks: true },
  { name: 'description', label: 'What it is for', isOfBooks: false },
  { name: 'authors', label: 'Authors', isOfBooks: false },
  { name: 'edition', label: 'Edition', isOfBooks: true },
  { name: 'number', label: 'Number under which it is ordered', isOfBooks: true },
  { name: 'years', label: 'Years of the rights', isOfBooks: false },
  { name: 'holder', label: 'Holder of the rights', isOfBooks: false },
] as const;
export type MapFact = (typeof mapFacts)[number]['name'];

const variableMark = '%%';
const namedVariable = /%%([\p{L}\p{N}](?:[\p{L}\p{N}_.-]*[\p{L}\p{N}_])?)/gu;

/**
 * The words as one line in which variables stand by their keys: `%%maker`, as they are typed in a
 * topic.
 */
const lineWithVariables = (holder: Element): string =>
  lineOf({ ...holder, children: withNames(holder.children) });
const withNames = (nodes: readonly Node[]): Node[] =>
  nodes.map((node) => {
    if (!isElement(node)) return node;
    const { keyref } = node.attributes;
    return keyref !== undefined && lineOf(node) === ''
      ? `${variableMark}${keyref}`
      : { ...node, children: withNames(node.children) };
  });
/**
 * The line as content of an element: its variables stay what they are, others are made where they
 * may stand.
 */
function nodesOfLine(line: string, holder: Element): Node[] {
  const known = new Map(
    childElements(holder).flatMap((one) =>
      one.attributes['keyref'] === undefined ? [] : [[one.attributes['keyref'], one] as const],
    ),
  );
  const carrier = ['ph', 'keyword'].find((name) => mayContain(holder.name, name));
  return line.split(namedVariable).flatMap((part, at): Node[] => {
    if (at % 2 === 0) return part === '' ? [] : [part];
    const variable =
      known.get(part) ?? (carrier === undefined ? undefined : element(carrier, { keyref: part }));
    return [variable ?? `${variableMark}${part}`];
  });
}

const metaOf = (map: Element): string => (isBook(map) ? 'bookmeta' : 'topicmeta');
const listed = (value: string): string[] =>
  value
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '');
/**
 * Where each fact that is one line of text stands: in the title of the book, or in what is said of
 * the map.
 */
const linePaths: Partial<Record<MapFact, readonly string[]>> = {
  subtitle: ['booktitle', 'booktitlealt'],
  series: ['booktitle', 'booklibrary'],
  description: ['meta', 'shortdesc'],
  edition: ['meta', 'bookid', 'edition'],
  number: ['meta', 'bookid', 'booknumber'],
  holder: ['meta', 'copyright', 'copyrholder'],
};
const orders: Readonly<Record<string, readonly string[]>> = {
  bookmap: bookOrder,
  map: ['title', 'topicmeta'],
  booktitle: ['booklibrary', 'mainbooktitle', 'booktitlealt'],
  topicmeta: metaOrder,
  bookmeta: metaOrder,
  bookid: ['bookpartno', 'edition', 'isbn', 'booknumber'],
  copyright: ['copyryear', 'copyrholder'],
};

export function mapFact(map: Element, fact: MapFact): string {
  const meta = childNamed(map, metaOf(map));
  if (fact === 'authors')
    return childElements(meta ?? element('none'))
      .flatMap((one) => (one.name === 'author' ? [lineOf(one)] : []))
      .join(', ');
  const rights = meta && childNamed(meta, 'copyright');
  if (fact === 'years')
    return childElements(rights ?? element('none'))
      .flatMap((one) => (one.name === 'copyryear' ? [one.attributes['year'] ?? ''] : []))
      .join(', ');
  let at: Element | undefined = map;
  for (const name of linePaths[fact] ?? [])
    at = at && childNamed(at, name === 'meta' ? metaOf(map) : name);
  return at ? lineWithVariables(at) : '';
}

/** The map with one fact said otherwise; what is said of it beside that stays. */
export function withMapFact(map: Element, fact: MapFact, value: string): Element {
  const orderOf = (holder: Element): readonly string[] => orders[holder.name] ?? [];
  if (fact === 'authors' || fact === 'years') {
    const inMeta = (change: (meta: Element) => Element): Element =>
      withChild(map, metaOf(map), orderOf(map), (meta) => bare(change(meta)));
    const replaced = (holder: Element, name: string, made: readonly Element[]): Element => ({
      ...holder,
      children: inOrder(
        [...holder.children.filter((child) => !isElement(child) || child.name !== name), ...made],
        orderOf(holder),
      ),
    });
    const makeAuthor = (name: string): Element => element('author', {}, [name]);
    if (fact === 'authors')
      return inMeta((meta) => replaced(meta, 'author', listed(value).map(makeAuthor)));
    const years = listed(value).map((year) => element('copyryear', { year }));
    return inMeta((meta) =>
      withChild(meta, 'copyright', orderOf(meta), (rights) =>
        bare(replaced(rights, 'copyryear', years)),
      ),
    );
  }
  const put = (holder: Element, [name, ...rest]: readonly string[]): Element | undefined => {
    if (name === undefined)
      return value.trim() === ''
        ? undefined
        : { ...holder, children: nodesOfLine(value.trim(), holder) };
    return bare(
      withChild(holder, name === 'meta' ? metaOf(map) : name, orderOf(holder), (child) =>
        put(child, rest),
      ),
    );
  };
  return put(map, linePaths[fact] ?? []) ?? map;
}
