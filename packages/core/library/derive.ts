import { conditionsOf, valuesUsed, type ValueUse } from '../facets/index.ts';
import { isInline, isTopic } from '../grammar/index.ts';
import {
  childNamed,
  isElement,
  lineOf,
  walk,
  type Attributes,
  type Element,
  type Node,
} from '../markup/index.ts';
import { countProblems, type Path, type ProblemCounts } from '../problems/index.ts';
import { wordsOf } from '../language/index.ts';
import { baseOf } from './alternates.ts';
import { checkItem, type Agreed } from './check.ts';
import { ownFacts } from './topic-facts.ts';
import { readReference, referenceAttributesOf, type Reference } from './address.ts';
import { nestedTopicAround } from './ids.ts';
import { usesIn, type Use } from './uses.ts';

export interface Link {
  readonly path: Path;
  readonly attribute: string;
  readonly target: Reference;
}

/**
 * Every reference in a tree that leads to something in or outside the library, in document order.
 */
export function linksOf(root: Element, self: string): Link[] {
  const links: Link[] = [];
  walk(root, (found, path) => {
    for (const attribute of referenceAttributesOf(found)) {
      const value = found.attributes[attribute];
      if (value === undefined || value === '') continue;
      links.push({ path: [...path], attribute, target: readReference(value, self) });
    }
  });
  return links;
}

/** The title of a topic or map, on one line. */
export function titleOf(root: Element): string {
  const title = childNamed(root, 'title', 'glossterm', 'booktitle');
  const main = title && (childNamed(title, 'mainbooktitle') ?? title);
  return main ? lineOf(main) : (root.attributes['title'] ?? '');
}

export function shortDescriptionOf(root: Element): string {
  const shortdesc = shortDescriptionIn(root);
  return shortdesc ? lineOf(shortdesc) : '';
}
/** The element that says it. */
export function shortDescriptionIn(root: Element): Element | undefined {
  const abstract = childNamed(root, 'abstract');
  return (
    childNamed(root, 'shortdesc', 'glossdef') ?? (abstract && childNamed(abstract, 'shortdesc'))
  );
}

const unread = new Set([
  'prolog',
  'draft-comment',
  'required-cleanup',
  'data',
  'sort-as',
  'foreign',
  'unknown',
  'mathml',
  'svg-container',
  'indexterm',
  'topicmeta',
]);

/** A part of a topic that a link can lead to. */
export interface LinkPlace {
  /** As a reference names it: with the nested topic in which it stands. */
  readonly id: string;
  /** The element's name. */
  readonly element: string;
  /** Its title, or the beginning of what it says. */
  readonly title: string;
}

const placeWords = 60;

/**
 * The parts of a topic that have an id, in document order, with what they are called; words of a
 * line are left out.
 */
export function linkTargets(root: Element): LinkPlace[] {
  const places: LinkPlace[] = [];
  walk(root, (found, path) => {
    const { id } = found.attributes;
    if (id === undefined || path.length === 0 || isInline(found.name)) return;
    const title = childNamed(found, 'title', 'cmd');
    const words = title ? lineOf(title) : readableText(found);
    const around = isTopic(found.name) ? undefined : nestedTopicAround(root, path);
    const topic = around?.attributes['id'];
    places.push({
      id: topic === undefined ? id : `${topic}/${id}`,
      element: found.name,
      title: words.length > placeWords ? `${words.slice(0, placeWords)}…` : words,
    });
  });
  return places;
}

/** Runs of white space, but not the single spaces that are right already. */
const untidySpace = /[ ]{2,}|\s*[^\S ]\s*/gu;

/** What a reader reads, with a space between blocks; titles of nested topics included. */
export function readableText(root: Element): string {
  let words = '';
  let parted = false;
  const add = (node: Node): void => {
    if (typeof node === 'string') {
      if (parted && words !== '') words += ' ';
      parted = false;
      words += node;
    } else if (isElement(node) && !unread.has(node.name)) {
      const block = !isInline(node.name);
      parted ||= block;
      node.children.forEach(add);
      parted ||= block;
    }
  };
  add(root);
  return words.replace(untidySpace, ' ').trim();
}

/** Trees are immutable: what was counted once holds for as long as the part is there. */
const counted = new WeakMap<Element, number>();
const isReadBlock = (node: Node): node is Element =>
  isElement(node) && !isInline(node.name) && !unread.has(node.name);

/** How many words are to be read; parts that are the same as before are not counted again. */
export function countWords(part: Element): number {
  const known = counted.get(part);
  if (known !== undefined) return known;
  const blocks = part.children.filter(isReadBlock);
  // Words do not reach over the borders of blocks.
  const own =
    blocks.length === 0
      ? part
      : { ...part, children: part.children.map((child) => (isReadBlock(child) ? ' ' : child)) };
  const count =
    wordsOf(readableText(own)).length + blocks.reduce((sum, block) => sum + countWords(block), 0);
  counted.set(part, count);
  return count;
}

export interface Derived {
  /** The root element's name. */
  readonly type: string;
  readonly title: string;
  readonly shortDescription: string;
  readonly text: string;
  readonly wordCount: number;
  /** The attributes of the root by which all of it varies. */
  readonly conditions: Attributes;
  /** The facts that the team agreed on, as this text says them. */
  readonly facts: Readonly<Record<string, string>>;
  /** The topic for which it stands in. */
  readonly alternateOf: string | undefined;
  /** What it uses, of the library and of keys. */
  readonly uses: readonly Use[];
  /** Facet values that are set in it, with how often. */
  readonly facetValues: readonly ValueUse[];
  readonly problems: ProblemCounts;
}

/** Everything that is kept beside a text and can be made again from it. */
export function derive(root: Element, self: string, agreed: Agreed = {}): Derived {
  const text = readableText(root);
  return {
    type: root.name,
    title: titleOf(root),
    shortDescription: isTopic(root.name) ? shortDescriptionOf(root) : '',
    text,
    wordCount: countWords(root),
    conditions: conditionsOf(root),
    facts: ownFacts(root),
    alternateOf: baseOf(root, self),
    uses: usesIn(root, self),
    facetValues: valuesUsed(root),
    problems: countProblems(checkItem(root, agreed)),
  };
}
