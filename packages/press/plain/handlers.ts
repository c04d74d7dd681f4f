import type { Element as HtmlElement, Nodes, Properties } from 'hast';
import { defaultHandlers, type Handle, type State } from 'hast-util-to-mdast';
import type { BlockContent, List, ListItem, Paragraph, PhrasingContent, RootContent } from 'mdast';
import { serializeHtml } from '../html/index.ts';

/** Where a link within a page may lead: Markdown has no words for ids. */
const markOf = (id: string): PhrasingContent => ({
  type: 'html',
  value: `<a id="${id.replace(/"/gu, '&quot;')}"></a>`,
});
export const stringOf = (value: unknown): string => (typeof value === 'string' ? value : '');
const propertiesOf = ({ properties }: HtmlElement): Properties => properties;
const hasClass = (element: HtmlElement, name: string): boolean =>
  ([] as unknown[]).concat(propertiesOf(element).className ?? []).includes(name);
const isElement = (node: Nodes): node is HtmlElement => node.type === 'element';
const blocksIn = new Set([
  'p',
  'ul',
  'ol',
  'dl',
  'pre',
  'div',
  'table',
  'figure',
  'blockquote',
  'section',
]);

function anyIn(element: HtmlElement, test: (inner: HtmlElement) => boolean): boolean {
  return element.children.some((child) => isElement(child) && (test(child) || anyIn(child, test)));
}

/**
 * What tables of GFM have no words for: cells over several columns or rows, and blocks in a cell.
 */
const isPlainTable = (table: HtmlElement): boolean =>
  anyIn(table, ({ tagName }) => tagName === 'thead') &&
  !anyIn(
    table,
    (inner) =>
      ['td', 'th'].includes(inner.tagName) &&
      (propertiesOf(inner).colSpan !== undefined ||
        propertiesOf(inner).rowSpan !== undefined ||
        anyIn(inner, ({ tagName }) => blocksIn.has(tagName) && tagName !== 'p')),
  );

const captioned = (content: readonly PhrasingContent[]): Paragraph => ({
  type: 'paragraph',
  children: [{ type: 'emphasis', children: [...content] }],
});
const phrasing = (state: State, element: HtmlElement): PhrasingContent[] =>
  state.all(element) as PhrasingContent[];

const numberOf = (mark: HtmlElement, attribute: 'href'): string => {
  const link = mark.children.find(isElement);
  return stringOf(link && propertiesOf(link)[attribute]).replace(/\D/gu, '');
};
const mediaLink: Handle = (_state, node) => {
  const { src, ariaLabel } = propertiesOf(node);
  const link: Paragraph = {
    type: 'paragraph',
    children: [
      {
        type: 'link',
        url: stringOf(src),
        children: [{ type: 'text', value: stringOf(ariaLabel) || stringOf(src) }],
      },
    ],
  };
  return link;
};

/** Terms in bold, each with what it means below it, as a list. */
const definitions: Handle = (state, node) => {
  const items: ListItem[] = [];
  for (const child of node.children.filter(isElement)) {
    if (child.tagName === 'dt')
      items.push({
        type: 'listItem',
        spread: false,
        children: [
          { type: 'paragraph', children: [{ type: 'strong', children: phrasing(state, child) }] },
        ],
      });
    else items.at(-1)?.children.push(...(state.toFlow(state.all(child)) as BlockContent[]));
  }
  const list: List = { type: 'list', ordered: false, spread: false, children: items };
  return list;
};

const table: Handle = (state, node) => {
  const caption = node.children.find((child) => isElement(child) && child.tagName === 'caption');
  const rest = { ...node, children: node.children.filter((child) => child !== caption) };
  const words = caption && isElement(caption) ? [captioned(phrasing(state, caption))] : [];
  return [
    ...words,
    ...(isPlainTable(rest)
      ? [defaultHandlers['table'](state, rest)].flat()
      : [{ type: 'html', value: serializeHtml(rest) }]),
  ] as RootContent[];
};

/** How the elements of pages are written in Markdown, where that is not as usual. */
const own: Record<string, Handle> = {
  /** The words of Markdown for what has no emphasis of its own there. */
  dfn: (state, node) => ({ type: 'emphasis', children: phrasing(state, node) }),
  cite: (state, node) => ({ type: 'emphasis', children: phrasing(state, node) }),
  var: (state, node) => ({ type: 'emphasis', children: phrasing(state, node) }),
  kbd: (state, node) => defaultHandlers['code'](state, node),
  samp: (state, node) => defaultHandlers['code'](state, node),
  span: (state, node) =>
    hasClass(node, 'ui') ? { type: 'strong', children: phrasing(state, node) } : state.all(node),
  sup: (state, node) =>
    hasClass(node, 'fn-mark')
      ? {
          type: 'footnoteReference',
          identifier: numberOf(node, 'href'),
          label: numberOf(node, 'href'),
        }
      : state.all(node),
  sub: (state, node) => state.all(node),
  q: (state, node) => [
    { type: 'text', value: '“' },
    ...phrasing(state, node),
    { type: 'text', value: '”' },
  ],
  figcaption: (state, node) => captioned(phrasing(state, node)),
  map: () => undefined,
  img: (state, node) => ({
    type: 'image',
    url: stringOf(propertiesOf(node).src),
    alt: stringOf(propertiesOf(node).alt),
  }),
  video: mediaLink,
  audio: mediaLink,
  dl: definitions,
  summary: (state, node) => state.all(node),
  div: (state, node) =>
    hasClass(node, 'note')
      ? { type: 'blockquote', children: state.toFlow(state.all(node)) }
      : state.toFlow(state.all(node)),
  p: (state, node) =>
    hasClass(node, 'note-word')
      ? { type: 'paragraph', children: [{ type: 'strong', children: phrasing(state, node) }] }
      : defaultHandlers['p'](state, node),
  table,
};
/** With a mark where a link leads to the element. @param wanted ids to which links lead */
const marked =
  (handle: Handle, wanted: ReadonlySet<string>): Handle =>
  (state, node, parent) => {
    const made = [handle(state, node, parent) ?? []].flat() as RootContent[];
    const id = propertiesOf(node).id;
    if (typeof id !== 'string' || !wanted.has(id)) return made;
    const [first] = made;
    if (first && (first.type === 'heading' || first.type === 'paragraph'))
      return [{ ...first, children: [markOf(id), ...first.children] }, ...made.slice(1)];
    if (first?.type === 'listItem')
      return [
        { ...first, children: [{ type: 'paragraph', children: [markOf(id)] }, ...first.children] },
        ...made.slice(1),
      ];
    return [markOf(id), ...made];
  };

/** @param wanted ids to which links lead */
export const handlersFor = (wanted: ReadonlySet<string>): Record<string, Handle> =>
  Object.fromEntries(
    Object.entries({ ...defaultHandlers, ...own }).map(([name, handle]) => [
      name,
      marked(handle, wanted),
    ]),
  );
