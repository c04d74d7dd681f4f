import type { Publication, ResolvedElement } from '@ukiyo/core/compose';
import type { When } from '@ukiyo/core/facets';
import { childElements, childNamed, type Node } from '@ukiyo/core/markup';

/** A link at the end of a topic. */
export interface RelatedLink {
  readonly kind: 'link';
  /** Its content is its own words alone; without any, what it leads to says them. */
  readonly element: ResolvedElement;
  /** What is said of what it leads to; empty where nothing is. */
  readonly description: readonly Node[];
}

/** Links that belong together, in the order in which they are to be read. */
export interface LinkList {
  readonly kind: 'list';
  readonly element: ResolvedElement;
  readonly title?: ResolvedElement;
  readonly description: readonly Node[];
  readonly items: readonly (RelatedLink | LinkList)[];
  /** Words after the list. */
  readonly info: readonly Node[];
}

/** The links of a topic itself (DITA 1.3, 3.3.1.7, `related-links`). */
export interface RelatedLinks {
  /** Without an order that counts. */
  readonly loose: readonly RelatedLink[];
  readonly lists: readonly LinkList[];
}

const children = (element: ResolvedElement): readonly ResolvedElement[] =>
  childElements(element) as ResolvedElement[];
const wordsIn = (element: ResolvedElement, name: string): readonly Node[] =>
  childNamed(element, name)?.children ?? [];

const linkOf = (element: ResolvedElement): RelatedLink => ({
  kind: 'link',
  element: { ...element, children: wordsIn(element, 'linktext') },
  description: wordsIn(element, 'desc'),
});

function listOf(element: ResolvedElement): LinkList {
  const title = childNamed(element, 'title') as ResolvedElement | undefined;
  return {
    kind: 'list',
    element,
    ...(title ? { title } : {}),
    description: wordsIn(element, 'desc'),
    items: children(element).flatMap((part): (RelatedLink | LinkList)[] =>
      part.name === 'link' ? [linkOf(part)] : part.name === 'linklist' ? [listOf(part)] : [],
    ),
    info: wordsIn(element, 'linkinfo'),
  };
}

/** The links of a holder and of the pools in it, each with who gets what it stands in. */
function looseIn(holder: ResolvedElement, around: readonly When[]): readonly RelatedLink[] {
  const when = [...around, ...(holder.when ?? [])];
  return children(holder).flatMap((part) => {
    if (part.name === 'linkpool') return looseIn(part, when);
    if (part.name !== 'link') return [];
    const all = [...when, ...(part.when ?? [])];
    return [linkOf(all.length === 0 ? part : { ...part, when: all })];
  });
}

/** @param content the resolved root element of a topic */
export function relatedLinks(content: ResolvedElement): RelatedLinks {
  const holder = childNamed(content, 'related-links') as ResolvedElement | undefined;
  if (!holder) return { loose: [], lists: [] };
  const lists = children(holder).filter(({ name }) => name === 'linklist');
  return { loose: looseIn(holder, []), lists: lists.map(listOf) };
}

/** The anchors to which links of a topic lead every reader: the map need not lead there again. */
export function anchorsLedTo(
  { loose, lists }: RelatedLinks,
  links: Publication['links'],
): ReadonlySet<string> {
  const anchorsOf = (items: readonly (RelatedLink | LinkList)[]): readonly string[] =>
    items.flatMap((item): readonly string[] => {
      const { when, link } = item.element;
      if (when !== undefined) return [];
      if (item.kind === 'list') return anchorsOf(item.items);
      const target = link === undefined ? undefined : links[link];
      return target?.kind === 'target' ? [target.anchor] : [];
    });
  return new Set(anchorsOf([...loose, ...lists]));
}
