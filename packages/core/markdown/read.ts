import type {
  BlockContent,
  DefinitionContent,
  List,
  ListItem,
  Paragraph,
  PhrasingContent,
  RootContent,
  Table,
} from 'mdast';
import { fromMarkdown } from 'mdast-util-from-markdown';
import { gfmTableFromMarkdown } from 'mdast-util-gfm-table';
import { gfmTable } from 'micromark-extension-gfm-table';
import { bodyOf, isTopic, normalise } from '../grammar/index.ts';
import { childNamed, element, type Element, type Node } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';

export interface ReadMarkdown {
  /** Absent where something in the text has no place in the topic. */
  readonly root?: Element;
  /** `markdown.no-place`, each with its line. */
  readonly problems: readonly Problem[];
}

interface Placed {
  readonly position?:
    { readonly start: { readonly line: number; readonly column: number } } | undefined;
}

/**
 * Where a text was written: in this system, which says all that it takes, or elsewhere, by people
 * who know nothing of topics.
 */
type WrittenIn = 'here' | 'elsewhere';

/**
 * Reads Markdown (CommonMark 0.31, tables of GFM 0.29) back into the topic that it was written
 * from.
 * @param before gives kind, id, attributes and facts, which Markdown does not say
 * @param writtenIn from elsewhere deeper headings are taken as paragraphs, and comments and lines
 * across are passed over
 */
export function readMarkdown(
  text: string,
  before: Element,
  writtenIn: WrittenIn = 'here',
): ReadMarkdown {
  const problems: Problem[] = [];
  const reader: Reader = {
    writtenIn,
    noPlace(what, { position }) {
      const message = `${what} has no place in this topic.`;
      const where = position ? { line: position.start.line, column: position.start.column } : {};
      problems.push(problem('error', 'markdown.no-place', message, where));
      return [];
    },
  };
  const nodes = fromMarkdown(text, {
    extensions: [gfmTable()],
    mdastExtensions: [gfmTableFromMarkdown()],
  }).children;
  const [first, second] = nodes;
  const title = first?.type === 'heading' && first.depth === 1 ? first : undefined;
  const lead = title && leadOf(second);
  if (!title) reader.noPlace('A text that does not begin with # and its title', first ?? {});
  const rest = nodes.slice((title ? 1 : 0) + (lead ? 1 : 0));
  const kind = isTopic(before.name) ? before.name : 'topic';
  const parts = kind === 'task' ? taskParts(reader, rest) : bodyParts(reader, rest);
  const prolog = childNamed(before, 'prolog');
  const body = childNamed(before, bodyOf(kind));
  const made = element(before.name, before.attributes, [
    element('title', {}, title ? inlines(reader, title.children) : []),
    ...(lead ? [element('shortdesc', {}, inlines(reader, lead.children))] : []),
    ...(prolog ? [prolog] : []),
    ...(body || parts.length > 0 ? [element(bodyOf(kind), {}, parts)] : []),
  ]);
  return problems.length > 0 ? { problems } : { root: normalise(made), problems };
}

/** The short description: a quotation of one paragraph under the title. */
function leadOf(node: RootContent | undefined): Paragraph | undefined {
  const [only] = node?.type === 'blockquote' && node.children.length === 1 ? node.children : [];
  return only?.type === 'paragraph' ? only : undefined;
}

/** What is known while a text is read. */
interface Reader {
  readonly writtenIn: WrittenIn;
  /** Says that something has no place in the topic. */
  noPlace(what: string, node: Placed): [];
}
type AnyBlock = RootContent | BlockContent | DefinitionContent;

const isComment = (html: string): boolean => /^<!--[\s\S]*-->$/u.test(html.trim());

const inlines = (reader: Reader, nodes: readonly PhrasingContent[]): Node[] => [
  ...element(
    '',
    {},
    nodes.flatMap((node) => inline(reader, node)),
  ).children,
];

function inline(reader: Reader, node: PhrasingContent): Node[] {
  switch (node.type) {
    case 'text':
      return [node.value.replace(/\n/gu, ' ')];
    case 'strong':
      return [element('b', {}, inlines(reader, node.children))];
    case 'emphasis':
      return [element('i', {}, inlines(reader, node.children))];
    case 'inlineCode':
      return [element('codeph', {}, [node.value])];
    case 'link':
      return [element('xref', linkAttributes(node.url), inlines(reader, node.children))];
    case 'image':
      return [imageFrom(node)];
    case 'break':
      return [' '];
    default:
      return reader.noPlace(node.type === 'html' ? 'HTML' : `What is called ${node.type}`, node);
  }
}

const imageFrom = (
  { url, alt }: { url: string; alt?: string | null | undefined },
  placement = {},
): Element => element('image', { href: url, ...placement }, alt ? [element('alt', {}, [alt])] : []);

const linkAttributes = (url: string): Record<string, string> =>
  /^(https?|mailto):/iu.test(url)
    ? { format: 'html', href: url, scope: 'external' }
    : { href: url };

const blocks = (reader: Reader, nodes: readonly AnyBlock[]): Element[] =>
  nodes.flatMap((node) => block(reader, node));

function block(reader: Reader, node: AnyBlock): Element[] {
  if (reader.writtenIn === 'elsewhere') {
    if (node.type === 'heading')
      return [element('p', {}, [element('b', {}, inlines(reader, node.children))])];
    if (node.type === 'thematicBreak' || (node.type === 'html' && isComment(node.value))) return [];
  }
  switch (node.type) {
    case 'paragraph':
      return [paragraph(reader, node)];
    case 'list':
      return [list(reader, node)];
    case 'code': {
      const attributes = node.lang ? { outputclass: `language-${node.lang}` } : {};
      return [element('codeblock', attributes, [node.value])];
    }
    case 'blockquote':
      return [element('lq', {}, blocks(reader, node.children))];
    case 'table':
      return [table(reader, node)];
    case 'heading':
      return reader.noPlace(`A heading of level ${node.depth}`, node);
    case 'html':
      return reader.noPlace('HTML', node);
    case 'thematicBreak':
      return reader.noPlace('A line across', node);
    default:
      return reader.noPlace(`What is called ${node.type}`, node);
  }
}

function paragraph(reader: Reader, { children }: Paragraph): Element {
  const [only] = children;
  return children.length === 1 && only?.type === 'image'
    ? imageFrom(only, { placement: 'break' })
    : element('p', {}, inlines(reader, children));
}

const list = (reader: Reader, { ordered, children }: List): Element =>
  element(
    ordered ? 'ol' : 'ul',
    {},
    children.map(({ children: [first, ...rest] }) =>
      element('li', {}, [
        ...(first?.type === 'paragraph'
          ? inlines(reader, first.children)
          : blocks(reader, first ? [first] : [])),
        ...blocks(reader, rest),
      ]),
    ),
  );

const table = (reader: Reader, { children }: Table): Element =>
  element(
    'simpletable',
    {},
    children.map((row, index) =>
      element(
        index === 0 ? 'sthead' : 'strow',
        {},
        row.children.map((cell) => element('stentry', {}, inlines(reader, cell.children))),
      ),
    ),
  );

/** Headings of level 2 begin sections. */
function bodyParts(reader: Reader, nodes: readonly RootContent[]): Element[] {
  const parts: Element[] = [];
  let section: { title: Element; children: Element[] } | undefined;
  const end = (): void => {
    if (section) parts.push(element('section', {}, [section.title, ...section.children]));
  };
  for (const node of nodes) {
    if (node.type === 'heading' && node.depth === 2) {
      end();
      section = { title: element('title', {}, inlines(reader, node.children)), children: [] };
    } else (section?.children ?? parts).push(...block(reader, node));
  }
  end();
  return parts;
}

/**
 * The first numbered list is the steps; the text before it is about the task, the text after it is
 * its result.
 */
function taskParts(reader: Reader, nodes: readonly RootContent[]): Element[] {
  const at = nodes.findIndex((node) => node.type === 'list' && node.ordered === true);
  const found = nodes[at];
  const part = (name: string, within: readonly RootContent[]): Element[] =>
    within.length === 0 ? [] : [element(name, {}, blocks(reader, within))];
  if (found?.type !== 'list') return part('context', nodes);
  return [
    ...part('context', nodes.slice(0, at)),
    element(
      'steps',
      {},
      found.children.map((item) => step(reader, item)),
    ),
    ...part('result', nodes.slice(at + 1)),
  ];
}

function step(reader: Reader, item: ListItem): Element {
  const [first, ...rest] = item.children;
  const isRead = first === undefined || first.type === 'paragraph';
  const words = isRead
    ? inlines(reader, first?.children ?? [])
    : reader.noPlace('A step that does not begin with its instruction', item);
  const info = rest.length > 0 ? [element('info', {}, blocks(reader, rest))] : [];
  return element('step', {}, [element('cmd', {}, words), ...info]);
}
