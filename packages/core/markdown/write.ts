import type {
  BlockContent,
  DefinitionContent,
  ListItem,
  PhrasingContent,
  Root,
  RootContent,
  TableCell,
  TableRow,
} from 'mdast';
import { gfmTableToMarkdown } from 'mdast-util-gfm-table';
import { toMarkdown } from 'mdast-util-to-markdown';
import { bodyOf, guidanceTarget, isTopic, labelOf, writeCanonical } from '../grammar/index.ts';
import {
  childElements,
  childNamed,
  isElement,
  isInstruction,
  lineOf,
  textOf,
  type Element,
  type Node,
} from '../markup/index.ts';
import { readMarkdown } from './read.ts';

/** What Markdown has no words for. */
class Inexpressible extends Error {}
const refuse = (what: string): never => {
  throw new Inexpressible(what);
};
const nameOf = (node: Node): string =>
  isElement(node)
    ? `“${labelOf(node.name)}”`
    : typeof node === 'string'
      ? 'text here'
      : 'comments and instructions';

export type WrittenMarkdown =
  | { readonly text: string }
  | { /** What cannot be written, as one sentence. */ readonly refusal: string };

/**
 * A topic as Markdown (CommonMark 0.31, tables of GFM 0.29), where that loses nothing: what is
 * written is read again and has to be the same topic. Kind, id, attributes of the root and facts
 * stay with the topic.
 */
export function writeMarkdown(root: Element): WrittenMarkdown {
  const content = withoutGuidance(root);
  try {
    const text = toMarkdown(documentOf(content), {
      bullet: '-',
      emphasis: '*',
      strong: '*',
      fences: true,
      listItemIndent: 'one',
      extensions: [gfmTableToMarkdown()],
    });
    const back = readMarkdown(text, root);
    if (back.root && writeCanonical(back.root) === writeCanonical(content)) return { text };
    return { refusal: 'Something in this topic would not come back from Markdown as it is.' };
  } catch (error) {
    if (error instanceof Inexpressible)
      return { refusal: `${error.message} cannot be written in Markdown.` };
    throw error;
  }
}

/** Guidance is no content: a part that holds nothing else is not there yet. */
function withoutGuidance(parent: Element): Element {
  const children = parent.children.flatMap((child): Node[] =>
    !isElement(child)
      ? [child]
      : child.children.length > 0 && child.children.every(isGuidance)
        ? []
        : [withoutGuidance(child)],
  );
  return { ...parent, children };
}
const isGuidance = (node: Node): boolean =>
  typeof node === 'object' && isInstruction(node) && node.target === guidanceTarget;

function documentOf(root: Element): Root {
  if (!isTopic(root.name) || !['concept', 'task', 'reference', 'topic'].includes(root.name))
    return refuse(`A topic of the kind “${labelOf(root.name)}”`);
  const body = bodyOf(root.name);
  const parts = childElements(root).flatMap((part): RootContent[] => {
    if (part.name === 'title') return [{ type: 'heading', depth: 1, children: inlines(part) }];
    if (part.name === 'shortdesc')
      return [{ type: 'blockquote', children: [{ type: 'paragraph', children: inlines(part) }] }];
    if (part.name === 'prolog') return [];
    if (part.name === body) return plain(part).flatMap(root.name === 'task' ? taskPart : bodyPart);
    return refuse(nameOf(part));
  });
  return { type: 'root', children: parts };
}

/** The element children of one that says nothing by attributes of its own. */
function plain(parent: Element): Element[] {
  withoutAttributes(parent);
  return parent.children
    .filter((child) => typeof child !== 'string' || child.trim() !== '')
    .map((child) => (isElement(child) ? child : refuse(nameOf(child))));
}
function withoutAttributes({ name, attributes }: Element, ...known: string[]): void {
  const [more] = Object.keys(attributes).filter((attribute) => !known.includes(attribute));
  if (more !== undefined) refuse(`The attribute “${more}” of “${labelOf(name)}”`);
}

function taskPart(part: Element): RootContent[] {
  if (part.name === 'context' || part.name === 'result') return plain(part).map(block);
  if (part.name !== 'steps') return refuse(nameOf(part));
  const items = plain(part).map((step): ListItem => {
    if (step.name !== 'step') return refuse(nameOf(step));
    const children = plain(step).flatMap((one): (BlockContent | DefinitionContent)[] => {
      if (one.name === 'cmd') return [{ type: 'paragraph', children: inlines(one) }];
      return one.name === 'info' ? plain(one).map(block) : refuse(nameOf(one));
    });
    return { type: 'listItem', spread: false, children };
  });
  return [{ type: 'list', ordered: true, spread: false, children: items }];
}

function bodyPart(part: Element): RootContent[] {
  if (part.name !== 'section') return [block(part)];
  const title = childNamed(part, 'title') ?? refuse('A section without a title');
  return [
    { type: 'heading', depth: 2, children: inlines(title) },
    ...plain(part)
      .filter((one) => one !== title)
      .map(block),
  ];
}

function block(part: Element): BlockContent {
  switch (part.name) {
    case 'p':
      return { type: 'paragraph', children: inlines(part) };
    case 'ul':
    case 'ol':
      return {
        type: 'list',
        ordered: part.name === 'ol',
        spread: false,
        children: plain(part).map(item),
      };
    case 'codeblock':
      withoutAttributes(part, 'outputclass');
      if (part.children.some(isElement)) return refuse('Names inside a code block');
      return {
        type: 'code',
        lang: part.attributes['outputclass']?.replace(/^language-/u, '') ?? null,
        value: textOf(part),
      };
    case 'lq':
      return { type: 'blockquote', children: plain(part).map(block) };
    case 'simpletable':
      return { type: 'table', children: plain(part).map(tableRow) };
    case 'image':
      withoutAttributes(part, 'href', 'placement');
      return { type: 'paragraph', children: [imageOf(part)] };
    default:
      return refuse(nameOf(part));
  }
}

function item(li: Element): ListItem {
  withoutAttributes(li);
  const firstBlock = li.children.findIndex(
    (child) => isElement(child) && ['p', 'ul', 'ol', 'codeblock', 'lq'].includes(child.name),
  );
  const line = firstBlock === -1 ? li.children : li.children.slice(0, firstBlock);
  const rest = firstBlock === -1 ? [] : li.children.slice(firstBlock);
  return {
    type: 'listItem',
    spread: false,
    children: [
      ...(line.length > 0 ? [{ type: 'paragraph' as const, children: line.flatMap(inline) }] : []),
      ...rest.map((child) => (isElement(child) ? block(child) : refuse(nameOf(child)))),
    ],
  };
}

function tableRow(row: Element): TableRow {
  return {
    type: 'tableRow',
    children: plain(row).map((cell): TableCell => {
      withoutAttributes(cell);
      return { type: 'tableCell', children: cell.children.flatMap(inline) };
    }),
  };
}

function inlines(parent: Element): PhrasingContent[] {
  withoutAttributes(parent);
  return parent.children.flatMap(inline);
}
function inline(node: Node): PhrasingContent[] {
  if (typeof node === 'string') return [{ type: 'text', value: node }];
  if (!isElement(node)) return refuse(nameOf(node));
  switch (node.name) {
    case 'b':
      return [{ type: 'strong', children: inlines(node) }];
    case 'i':
      return [{ type: 'emphasis', children: inlines(node) }];
    case 'codeph':
      withoutAttributes(node);
      return node.children.some(isElement)
        ? refuse('Names inside code')
        : [{ type: 'inlineCode', value: textOf(node) }];
    case 'xref':
      withoutAttributes(node, 'href', 'format', 'scope');
      return [
        {
          type: 'link',
          url: node.attributes['href'] ?? '',
          children: node.children.flatMap(inline),
        },
      ];
    case 'image':
      withoutAttributes(node, 'href');
      return [imageOf(node)];
    default:
      return refuse(nameOf(node));
  }
}

function imageOf(image: Element): PhrasingContent {
  const alt = childNamed(image, 'alt');
  return { type: 'image', url: image.attributes['href'] ?? '', alt: alt ? lineOf(alt) : '' };
}
