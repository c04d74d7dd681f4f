import {
  childElements,
  element,
  isElement,
  lineOf,
  textOf,
  type Element,
  type Node,
} from '../markup/index.ts';
import { tableOfHtml } from './table.ts';

export interface HtmlContent {
  /** Paragraphs, lists, tables … and sections for what stood under headings. */
  readonly blocks: readonly Element[];
  /** What was left out, in plain words, each once. */
  readonly dropped: readonly string[];
}

const phrases: Readonly<Record<string, string>> = {
  b: 'b',
  strong: 'b',
  i: 'i',
  em: 'i',
  u: 'u',
  sub: 'sub',
  sup: 'sup',
  code: 'codeph',
  kbd: 'userinput',
  samp: 'systemoutput',
  var: 'varname',
  cite: 'cite',
  q: 'q',
  s: 'line-through',
  del: 'line-through',
  tt: 'tt',
};
const containers = new Set([
  'html',
  'body',
  'div',
  'section',
  'article',
  'main',
  'header',
  'footer',
  'aside',
  'nav',
  'center',
  'form',
  'fieldset',
  'figure',
  'details',
  'font',
  'o:p',
  'label',
]);
const unread = new Set([
  'head',
  'script',
  'style',
  'meta',
  'link',
  'title',
  'noscript',
  'template',
  'xml',
  'object',
  'applet',
  'svg',
  'math',
  'canvas',
  'iframe',
  'button',
  'input',
  'select',
  'textarea',
]);
const acting = new Set(['script', 'iframe', 'object', 'applet', 'canvas']);
const blocky = new Set([
  ...containers,
  'p',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'ul',
  'ol',
  'li',
  'dl',
  'dt',
  'dd',
  'table',
  'pre',
  'blockquote',
  'hr',
  'address',
  'figcaption',
  'summary',
  'caption',
  'tbody',
  'thead',
  'tr',
  'td',
  'th',
]);
const deepest = 60;

const nameOf = ({ name }: Element): string => name.toLowerCase();
const isBlocky = (node: Node): node is Element =>
  isElement(node) &&
  (blocky.has(nameOf(node)) || (!unread.has(nameOf(node)) && node.children.some(isBlocky)));
const hasWords = (nodes: readonly Node[]): boolean =>
  nodes.some((node) => textOf(node).trim() !== '' || (isElement(node) && node.name === 'image'));

/** What runs of text and inline elements of HTML say in a line. */
function inlines(nodes: readonly Node[], dropped: Set<string>, depth = 0): Node[] {
  if (depth > deepest) return [nodes.map(textOf).join('')];
  return nodes.flatMap((node): Node[] => {
    if (typeof node === 'string') return [node.replace(/[ \t\n\r]+/gu, ' ')];
    if (!isElement(node)) return [];
    const name = nameOf(node);
    if (unread.has(name)) {
      if (acting.has(name)) dropped.add('active content');
      return [];
    }
    if (name === 'br') return [' '];
    if (name === 'img') {
      const { src = '', alt = '' } = node.attributes;
      // The image is in the library already.
      if (/^asset:[^\s/]+$/u.test(src))
        return [
          element(
            'image',
            { href: src },
            alt.trim() === '' ? [] : [element('alt', {}, [alt.trim()])],
          ),
        ];
      dropped.add('images that are not in the library');
      return [];
    }
    const inner = inlines(node.children, dropped, depth + 1);
    if (name === 'a') return linkOf(node.attributes['href'], inner, dropped);
    if (node.attributes['style'] !== undefined || name === 'font') dropped.add('local formatting');
    const phrase = phrases[name];
    return phrase === undefined || !hasWords(inner) ? inner : [element(phrase, {}, inner)];
  });
}

function linkOf(href: string | undefined, inner: Node[], dropped: Set<string>): Node[] {
  if (href === undefined || !hasWords(inner)) return inner;
  if (!/^(https?:\/\/|mailto:)\S+$/iu.test(href)) {
    dropped.add('links to places within the other document');
    return inner;
  }
  return [
    element('xref', { href, format: 'html', scope: 'external' }, [inner.map(textOf).join('')]),
  ];
}

/** Without white space at its ends. */
function trimmed(nodes: readonly Node[]): readonly Node[] {
  const { children } = element('', {}, nodes);
  const first = children[0];
  const last = children.at(-1);
  const begun = typeof first === 'string' ? [first.trimStart(), ...children.slice(1)] : children;
  const ended =
    typeof last === 'string' ? [...begun.slice(0, -1), (begun.at(-1) as string).trimEnd()] : begun;
  return element('', {}, ended).children;
}

/** The level of a paragraph that a word processor shows as an item of a list. */
const listLevel = ({ attributes }: Element): number =>
  Number(/mso-list:[^;]*level(\d)/u.exec(attributes['style'] ?? '')?.[1] ?? 0);

/** Runs of such paragraphs as lists in lists. */
function officeList(items: readonly Element[], dropped: Set<string>): Element {
  const build = (from: number, level: number): { list: Element; next: number } => {
    const entries: Element[] = [];
    let at = from;
    while (at < items.length && listLevel(items[at]!) >= level) {
      if (listLevel(items[at]!) > level && entries.length > 0) {
        const { list, next } = build(at, listLevel(items[at]!));
        const last = entries.pop()!;
        entries.push({ ...last, children: [...last.children, list] });
        at = next;
      } else {
        // The sign before the words is drawn by the word processor.
        const words = items[at]!.children.filter(
          (child) =>
            !isElement(child) || !/mso-list:\s*ignore/iu.test(child.attributes['style'] ?? ''),
        );
        entries.push(element('li', {}, trimmed(inlines(words, dropped))));
        at += 1;
      }
    }
    const isNumbered = /^[^\p{L}]*(\d+|[a-z])[.)]/u.test(lineOf(items[from]!));
    return { list: element(isNumbered ? 'ol' : 'ul', {}, entries), next: at };
  };
  return build(0, listLevel(items[0]!)).list;
}

function blocks(nodes: readonly Node[], dropped: Set<string>, depth = 0): Element[] {
  const out: Element[] = [];
  let run: Node[] = [];
  let items: Element[] = [];
  const endRun = (): void => {
    const words = trimmed(inlines(run, dropped));
    if (hasWords(words)) out.push(element('p', {}, words));
    run = [];
  };
  const endList = (): void => {
    if (items.length > 0) out.push(officeList(items, dropped));
    items = [];
  };
  for (const node of nodes) {
    if (!isBlocky(node) || depth > deepest) {
      if (typeof node !== 'string' || node.trim() !== '' || run.length > 0) run.push(node);
      continue;
    }
    endRun();
    if (listLevel(node) > 0) {
      items.push(node);
      continue;
    }
    endList();
    out.push(...block(node, dropped, depth + 1));
  }
  endRun();
  endList();
  return out;
}

/** Headings within something else are paragraphs there. */
const untitled = (found: readonly Element[]): Element[] =>
  found.map((one) => (one.name === 'title' ? element('p', {}, one.children) : one));

/** An item or cell: words stand in it directly when it holds nothing else. */
function flow(name: string, node: Element, dropped: Set<string>, depth: number): Element {
  const inner = untitled(blocks(node.children, dropped, depth));
  const [only] = inner;
  return element(name, {}, inner.length === 1 && only!.name === 'p' ? only!.children : inner);
}

function block(node: Element, dropped: Set<string>, depth: number): Element[] {
  const name = nameOf(node);
  if (node.attributes['style'] !== undefined || node.attributes['align'] !== undefined)
    dropped.add('local formatting');
  switch (name) {
    case 'ul':
    case 'ol': {
      const items = childElements(node).filter((child) => !unread.has(nameOf(child)));
      return items.length === 0
        ? []
        : [
            element(
              name,
              {},
              items.map((item) => flow('li', item, dropped, depth)),
            ),
          ];
    }
    case 'dl': {
      const entries: Element[] = [];
      for (const part of childElements(node)) {
        const last = entries.at(-1);
        if (nameOf(part) === 'dt')
          entries.push(
            element('dlentry', {}, [element('dt', {}, trimmed(inlines(part.children, dropped)))]),
          );
        else if (nameOf(part) === 'dd' && last)
          entries[entries.length - 1] = {
            ...last,
            children: [...last.children, flow('dd', part, dropped, depth)],
          };
      }
      const whole = entries.filter(({ children }) => children.length > 1);
      return whole.length === 0 ? [] : [element('dl', {}, whole)];
    }
    case 'table':
      return tableOfHtml(node, (cell, attributes) => ({
        ...flow('entry', cell, dropped, depth),
        attributes,
      }));
    case 'pre':
      return [element('codeblock', {}, [textOf(node).replace(/^\n|\n$/gu, '')])];
    case 'blockquote':
      return [element('lq', {}, untitled(blocks(node.children, dropped, depth)))];
    case 'hr':
      return [];
    case 'h1':
    case 'h2':
    case 'h3':
    case 'h4':
    case 'h5':
    case 'h6': {
      const words = trimmed(inlines(node.children, dropped)).filter(
        (child) => !isElement(child) || child.name !== 'xref',
      );
      return hasWords(words) ? [element('title', {}, words)] : [];
    }
    default:
      return blocks(node.children, dropped, depth);
  }
}

/** What follows a heading belongs to its section. */
function sectioned(found: readonly Element[]): Element[] {
  const out: Element[] = [];
  for (const one of found) {
    const last = out.at(-1);
    if (one.name === 'title') out.push(element('section', {}, [one]));
    else if (last?.name === 'section')
      out[out.length - 1] = { ...last, children: [...last.children, one] };
    else out.push(one);
  }
  return out;
}

/** @param root as a browser has read it, with the names and attributes of HTML */
export function contentOfHtml(root: Element): HtmlContent {
  const dropped = new Set<string>();
  const found = blocks([root], dropped);
  return { blocks: sectioned(found), dropped: [...dropped] };
}
