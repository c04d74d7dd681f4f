import { bodyOf, isTopic } from '../grammar/index.ts';
import {
  childElements,
  childNamed,
  element,
  isElement,
  lineOf,
  type Element,
  type Node,
} from '../markup/index.ts';

/** What is said about a topic in its prolog, as a form shows it. */
export interface TopicFacts {
  readonly authors: readonly string[];
  /** Types of readers. */
  readonly audience: readonly string[];
  readonly keywords: readonly string[];
  /** Entries of the index that lead to the topic as a whole; sub-entries follow after ` › `. */
  readonly indexEntries: readonly string[];
  /** As YYYY-MM-DD. */
  readonly created: string;
  /** As YYYY-MM-DD, of each change. */
  readonly revised: readonly string[];
  /** Ids by which an application opens the topic. */
  readonly contextIds: readonly string[];
  readonly own: readonly { readonly name: string; readonly content: string }[];
}

const within = ' › ';
const deep = (parent: Element | undefined, ...path: string[]): Element[] =>
  path.reduce<Element[]>(
    (found, name) =>
      found.flatMap((one) => childElements(one).filter((child) => child.name === name)),
    parent ? [parent] : [],
  );

function entryOf(indexterm: Element): string {
  const inner = childElements(indexterm).filter(({ name }) => name === 'indexterm');
  const own = lineOf({
    ...indexterm,
    children: indexterm.children.filter(
      (child) => !isElement(child) || !child.name.startsWith('index'),
    ),
  });
  return [own, ...inner.map(entryOf)].join(within);
}

/** The facts that have names of the team's own, with the first value of each. */
export const ownFacts = (root: Element): Record<string, string> =>
  Object.fromEntries(
    readTopicFacts(root)
      .own.filter(({ name, content }) => name !== '' && content !== '')
      .reverse()
      .map(({ name, content }) => [name, content]),
  );

/** The ids by which applications open what these facts are about (DITA 1.3, resourceid). */
export const contextIdsIn = (facts: readonly Node[]): string[] =>
  facts
    .flatMap((node) =>
      isElement(node) && node.name === 'resourceid'
        ? (node.attributes['appid'] ?? '').split(/\s+/u)
        : [],
    )
    .filter((id) => id !== '');

export function readTopicFacts(root: Element): TopicFacts {
  const prolog = childNamed(root, 'prolog');
  const attribute = (elements: readonly Element[], name: string): string[] =>
    elements.flatMap(({ attributes }) => attributes[name] ?? []);
  return {
    authors: deep(prolog, 'author').map(lineOf),
    audience: attribute(deep(prolog, 'metadata', 'audience'), 'type'),
    keywords: deep(prolog, 'metadata', 'keywords', 'keyword').map(lineOf),
    indexEntries: deep(prolog, 'metadata', 'keywords', 'indexterm').map(entryOf),
    created: attribute(deep(prolog, 'critdates', 'created'), 'date')[0] ?? '',
    revised: attribute(deep(prolog, 'critdates', 'revised'), 'modified'),
    contextIds: attribute(deep(prolog, 'resourceid'), 'appid'),
    own: deep(prolog, 'metadata', 'othermeta').map(({ attributes }) => ({
      name: attributes['name'] ?? '',
      content: attributes['content'] ?? '',
    })),
  };
}

/**
 * The order of parts (DITA 1.3, prolog and critdates); what is not named keeps its place behind
 * them.
 */
const datesOrder = ['created', 'revised'];
const prologOrder = [
  'author',
  'source',
  'publisher',
  'copyright',
  'critdates',
  'permissions',
  'metadata',
  'resourceid',
  'ux-window',
];

function inOrder(children: readonly Node[], order: readonly string[]): Node[] {
  let last = 0;
  const ranked = children.map((child) => {
    const rank = isElement(child) ? order.indexOf(child.name) : last;
    last = rank === -1 ? order.length : rank;
    return { child, rank: last };
  });
  return ranked.sort((a, b) => a.rank - b.rank).map(({ child }) => child);
}

/** How an element says a value. */
interface Form {
  readonly read: (one: Element) => string;
  readonly make: (value: string) => Element;
}

/**
 * The children with those of a name made to say the values: what says one already is kept as it is,
 * with all it carries.
 */
function withValues(
  children: readonly Node[],
  name: string,
  values: readonly string[],
  { read, make }: Form,
): Node[] {
  const isOne = (child: Node): child is Element => isElement(child) && child.name === name;
  const known = children.filter(isOne);
  const wanted = values.map((value) => known.find((one) => read(one) === value) ?? make(value));
  const first = children.findIndex(isOne);
  const others = children.filter((child) => !isOne(child));
  const at =
    first === -1 ? others.length : children.slice(0, first).filter((child) => !isOne(child)).length;
  return [...others.slice(0, at), ...wanted, ...others.slice(at)];
}

/** Changes one part of a parent, made if it is not there; one that is then empty is left out. */
function changedPart(parent: Element, name: string, change: (part: Element) => Element): Element {
  const known = childNamed(parent, name);
  const changed = change(known ?? element(name));
  const isEmpty = changed.children.length === 0 && Object.keys(changed.attributes).length === 0;
  const children = known
    ? parent.children.flatMap((child) => (child !== known ? [child] : isEmpty ? [] : [changed]))
    : isEmpty
      ? parent.children
      : [...parent.children, changed];
  return { ...parent, children };
}

const named = (name: string, attribute: string): Form => ({
  read: (one: Element): string => one.attributes[attribute] ?? '',
  make: (value: string): Element => element(name, { [attribute]: value }),
});
const worded = (name: string): Form => ({
  read: (one: Element): string => lineOf(one),
  make: (value: string): Element => element(name, {}, [value]),
});
const entryFrom = (entry: string): Element => {
  const [own = '', ...inner] = entry.split(/\s*›\s*/u);
  return element('indexterm', {}, [
    own,
    ...(inner.length > 0 ? [entryFrom(inner.join(within))] : []),
  ]);
};

/** The topic with these facts in its prolog. What the form does not show stays as it is. */
export function writeFacts(root: Element, facts: TopicFacts): Element {
  const set = (parent: Element, name: string, values: readonly string[], form: Form): Element => ({
    ...parent,
    children: withValues(
      parent.children,
      name,
      values.filter((value) => value.trim() !== ''),
      form,
    ),
  });
  const filled = (prolog: Element): Element => {
    const authored = set(prolog, 'author', facts.authors, worded('author'));
    const dated = changedPart(authored, 'critdates', (dates) => {
      const made = set(
        dates,
        'created',
        facts.created === '' ? [] : [facts.created],
        named('created', 'date'),
      );
      const changed = set(made, 'revised', facts.revised, named('revised', 'modified'));
      return { ...changed, children: inOrder(changed.children, datesOrder) };
    });
    const described = changedPart(dated, 'metadata', (metadata) => {
      const audience = set(metadata, 'audience', facts.audience, named('audience', 'type'));
      const keywords = changedPart(audience, 'keywords', (words) =>
        set(
          set(words, 'keyword', facts.keywords, worded('keyword')),
          'indexterm',
          facts.indexEntries,
          { read: entryOf, make: entryFrom },
        ),
      );
      const separator = '\u0000';
      return set(
        keywords,
        'othermeta',
        facts.own
          .filter(({ name }) => name !== '')
          .map(({ name, content }) => `${name}${separator}${content}`),
        {
          read: ({ attributes }) =>
            `${attributes['name'] ?? ''}${separator}${attributes['content'] ?? ''}`,
          make: (value) =>
            element('othermeta', {
              name: value.split(separator)[0]!,
              content: value.split(separator)[1]!,
            }),
        },
      );
    });
    const opened = set(described, 'resourceid', facts.contextIds, named('resourceid', 'appid'));
    return { ...opened, children: inOrder(opened.children, prologOrder) };
  };
  return withProlog(root, filled);
}

/**
 * The topic with its prolog changed, made at its place if there is none; one that is then empty is
 * left out.
 */
export function withProlog(root: Element, change: (prolog: Element) => Element): Element {
  if (childNamed(root, 'prolog')) return changedPart(root, 'prolog', change);
  const prolog = change(element('prolog'));
  if (prolog.children.length === 0) return root;
  const before = root.children.findIndex(
    (child) =>
      isElement(child) &&
      isTopic(root.name) &&
      [
        bodyOf(root.name),
        'related-links',
        'topic',
        'concept',
        'task',
        'reference',
        'troubleshooting',
      ].includes(child.name),
  );
  return {
    ...root,
    children:
      before === -1 ? [...root.children, prolog] : root.children.toSpliced(before, 0, prolog),
  };
}

/**
 * The words of the short description as a form can change them; undefined where it holds more than
 * words, or stands in an abstract.
 */
export function plainShortDescription(root: Element): string | undefined {
  if (childNamed(root, 'abstract')) return undefined;
  const shortdesc = childNamed(root, 'shortdesc');
  return !shortdesc ||
    shortdesc.children.every((child) => typeof child === 'string' || !isElement(child))
    ? shortdesc
      ? lineOf(shortdesc)
      : ''
    : undefined;
}

/**
 * The topic with these words as its short description, behind its title; without any when there are
 * none.
 */
export function withShortDescription(root: Element, words: string): Element {
  const known = childNamed(root, 'shortdesc');
  if (known)
    return {
      ...root,
      children: root.children.flatMap((child) =>
        child !== known ? [child] : words === '' ? [] : [{ ...known, children: [words] }],
      ),
    };
  if (words === '') return root;
  const after = root.children.findLastIndex(
    (child) => isElement(child) && (child.name === 'title' || child.name === 'titlealts'),
  );
  return {
    ...root,
    children: root.children.toSpliced(after + 1, 0, element('shortdesc', {}, [words])),
  };
}
