import type {
  BlockContent,
  DefinitionContent,
  List,
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
  const noPlace = (what: string, { position }: Placed): [] => {
    problems.push(
      problem(
        'error',
        'markdown.no-place',
        `${what} has no place in this topic.`,
        position ? { line: position.start.line, column: position.start.column } : {},
      ),
    );
    return [];
  };
  const nodes = fromMarkdown(text, {
    extensions: [gfmTable()],
    mdastExtensions: [gfmTableFromMarkdown()],
  }).children;
  const reader = readerOf(noPlace, writtenIn);
  const [first, second] = nodes;
  const title = first?.type === 'heading' && first.depth === 1 ? first : undefined;
  const lead =
    title &&
    second?.type === 'blockquote' &&
    second.children.length === 1 &&
    second.children[0]?.type === 'paragraph'
      ? second.children[0]
      : undefined;
  if (!title) noPlace('A text that does not begin with # and its title', first ?? {});
  const rest = nodes.slice((title ? 1 : 0) + (lead ? 1 : 0));
  const kind = isTopic(before.name) ? before.name : 'topic';
  const parts = kind === 'task' ? reader.taskParts(rest) : reader.bodyParts(rest);
  const prolog = childNamed(before, 'prolog');
  const body = childNamed(before, bodyOf(kind));
  const made = element(before.name, before.attributes, [
    element('title', {}, title ? reader.inlines(title.children) : []),
    ...(lead ? [element('shortdesc', {}, reader.inlines(lead.children))] : []),
    ...(prolog ? [prolog] : []),
    ...(body || parts.length > 0 ? [element(bodyOf(kind), {}, parts)] : []),
  ]);
  return problems.length > 0 ? { problems } : { root: normalise(made), problems };
}

type NoPlace = (what: string, node: Placed) => [];
type AnyBlock = RootContent | BlockContent | DefinitionContent;

const isComment = (html: string): boolean => /^<!--[\s\S]*-->$/u.test(html.trim());

function readerOf(noPlace: NoPlace, writtenIn: WrittenIn) {
  const inlines = (nodes: readonly PhrasingContent[]): Node[] => [
    ...element('', {}, nodes.flatMap(inline)).children,
  ];
  function inline(node: PhrasingContent): Node[] {
    switch (node.type) {
      case 'text':
        return [node.value.replace(/\n/gu, ' ')];
      case 'strong':
        return [element('b', {}, inlines(node.children))];
      case 'emphasis':
        return [element('i', {}, inlines(node.children))];
      case 'inlineCode':
        return [element('codeph', {}, [node.value])];
      case 'link':
        return [element('xref', linkAttributes(node.url), inlines(node.children))];
      case 'image':
        return [imageFrom(node)];
      case 'break':
        return [' '];
      default:
        return noPlace(node.type === 'html' ? 'HTML' : `What is called ${node.type}`, node);
    }
  }
  const imageFrom = (
    { url, alt }: { url: string; alt?: string | null | undefined },
    placement = {},
  ): Element =>
    element('image', { href: url, ...placement }, alt ? [element('alt', {}, [alt])] : []);
  const linkAttributes = (url: string): Record<string, string> =>
    /^(https?|mailto):/iu.test(url)
      ? { format: 'html', href: url, scope: 'external' }
      : { href: url };

  function block(node: AnyBlock): Element[] {
    if (writtenIn === 'elsewhere') {
      if (node.type === 'heading')
        return [element('p', {}, [element('b', {}, inlines(node.children))])];
      if (node.type === 'thematicBreak' || (node.type === 'html' && isComment(node.value)))
        return [];
    }
    switch (node.type) {
      case 'paragraph': {
        const [only] = node.children;
        if (node.children.length === 1 && only?.type === 'image')
          return [imageFrom(only, { placement: 'break' })];
        return [element('p', {}, inlines(node.children))];
      }
      case 'list':
        return [list(node)];
      case 'code':
        return [
          element('codeblock', node.lang ? { outputclass: `language-${node.lang}` } : {}, [
            node.value,
          ]),
        ];
      case 'blockquote':
        return [element('lq', {}, node.children.flatMap(block))];
      case 'table':
        return [table(node)];
      case 'heading':
        return noPlace(`A heading of level ${node.depth}`, node);
      default:
        return noPlace(
          node.type === 'html'
            ? 'HTML'
            : node.type === 'thematicBreak'
              ? 'A line across'
              : `What is called ${node.type}`,
          node,
        );
    }
  }
  const list = (node: List): Element =>
    element(
      node.ordered ? 'ol' : 'ul',
      {},
      node.children.map(({ children: [first, ...rest] }) =>
        element('li', {}, [
          ...(first?.type === 'paragraph' ? inlines(first.children) : first ? block(first) : []),
          ...rest.flatMap(block),
        ]),
      ),
    );
  const table = (node: Table): Element =>
    element(
      'simpletable',
      {},
      node.children.map((row, index) =>
        element(
          index === 0 ? 'sthead' : 'strow',
          {},
          row.children.map((cell) => element('stentry', {}, inlines(cell.children))),
        ),
      ),
    );

  /** Headings of level 2 begin sections. */
  function bodyParts(nodes: readonly RootContent[]): Element[] {
    const parts: Element[] = [];
    let section: { title: Element; children: Element[] } | undefined;
    const end = (): void => {
      if (section) parts.push(element('section', {}, [section.title, ...section.children]));
    };
    for (const node of nodes) {
      if (node.type === 'heading' && node.depth === 2) {
        end();
        section = { title: element('title', {}, inlines(node.children)), children: [] };
      } else (section?.children ?? parts).push(...block(node));
    }
    end();
    return parts;
  }
  /**
   * The first numbered list is the steps; what stands before it is about the task, what follows is
   * its result.
   */
  function taskParts(nodes: readonly RootContent[]): Element[] {
    const at = nodes.findIndex((node) => node.type === 'list' && node.ordered === true);
    const found = nodes[at];
    const part = (name: string, blocks: readonly RootContent[]): Element[] =>
      blocks.length === 0 ? [] : [element(name, {}, blocks.flatMap(block))];
    if (found?.type !== 'list') return part('context', nodes);
    const steps = found.children.map((item) => {
      const [first, ...rest] = item.children;
      const cmd = element(
        'cmd',
        {},
        first?.type === 'paragraph'
          ? inlines(first.children)
          : first
            ? noPlace('A step that does not begin with its instruction', item)
            : [],
      );
      return element('step', {}, [
        cmd,
        ...(rest.length > 0 ? [element('info', {}, rest.flatMap(block))] : []),
      ]);
    });
    return [
      ...part('context', nodes.slice(0, at)),
      element('steps', {}, steps),
      ...part('result', nodes.slice(at + 1)),
    ];
  }
  return { inlines, bodyParts, taskParts };
}
