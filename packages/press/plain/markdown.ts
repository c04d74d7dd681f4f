import type { Place, Publication } from '@ukiyo/core/compose';
import type { Problem } from '@ukiyo/core/problems';
import { wordsFor } from '@ukiyo/core/words';
import type { Element as HtmlElement, Nodes, Properties } from 'hast';
import { fromHtml } from 'hast-util-from-html';
import { toHtml } from 'hast-util-to-html';
import { defaultHandlers, toMdast, type Handle, type State } from 'hast-util-to-mdast';
import type {
  BlockContent,
  List,
  ListItem,
  Paragraph,
  PhrasingContent,
  Root,
  RootContent,
} from 'mdast';
import { gfmToMarkdown } from 'mdast-util-gfm';
import { toMarkdown } from 'mdast-util-to-markdown';
import type { AssetSource } from '../shared/assets.ts';
import type { SiteContext } from '../site/context.ts';
import { usualSite } from '../site/index.ts';
import { assetsShown } from '../site/media.ts';
import { layOutPages, standingAt, type Filing } from '../site/pages.ts';
import { articleOf } from '../site/placing.ts';
import { readersOf } from '../site/readers.ts';

/** Where a link within a page may lead: Markdown has no words for ids. */
const markOf = (id: string): PhrasingContent => ({
  type: 'html',
  value: `<a id="${id.replace(/"/gu, '&quot;')}"></a>`,
});
const said = (value: unknown): string => (typeof value === 'string' ? value : '');
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

/** @param wanted ids to which links lead */
function handlersFor(wanted: ReadonlySet<string>): Record<string, Handle> {
  const handlers: Record<string, Handle> = {
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
      url: said(propertiesOf(node).src),
      alt: said(propertiesOf(node).alt),
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
    table: (state, node) => {
      const caption = node.children.find(
        (child) => isElement(child) && child.tagName === 'caption',
      );
      const rest = { ...node, children: node.children.filter((child) => child !== caption) };
      const words = caption && isElement(caption) ? [captioned(phrasing(state, caption))] : [];
      return [
        ...words,
        ...(isPlainTable(rest)
          ? [defaultHandlers['table'](state, rest)].flat()
          : [{ type: 'html', value: toHtml(rest, { collapseEmptyAttributes: true }) }]),
      ] as RootContent[];
    },
  };
  const marked =
    (handle: Handle): Handle =>
    (state, node, parent) => {
      const made = [handle(state, node, parent) ?? []].flat() as RootContent[];
      const id = propertiesOf(node).id;
      if (typeof id !== 'string' || !wanted.has(id)) return made;
      const [first] = made;
      if (first && (first.type === 'heading' || first.type === 'paragraph'))
        return [{ ...first, children: [markOf(id), ...first.children] }, ...made.slice(1)];
      if (first?.type === 'listItem')
        return [
          {
            ...first,
            children: [{ type: 'paragraph', children: [markOf(id)] }, ...first.children],
          },
          ...made.slice(1),
        ];
      return [markOf(id), ...made];
    };
  return Object.fromEntries(
    Object.entries({ ...defaultHandlers, ...handlers }).map(([name, handle]) => [
      name,
      marked(handle),
    ]),
  );
}

const numberOf = (mark: HtmlElement, attribute: 'href'): string => {
  const link = mark.children.find(isElement);
  return said(link && propertiesOf(link)[attribute]).replace(/\D/gu, '');
};
const mediaLink: Handle = (_state, node) => {
  const { src, ariaLabel } = propertiesOf(node);
  const link: Paragraph = {
    type: 'paragraph',
    children: [
      {
        type: 'link',
        url: said(src),
        children: [{ type: 'text', value: said(ariaLabel) || said(src) }],
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

/** Of the footnotes below a page. */
function footnotesOf(html: string, handlers: Record<string, Handle>): RootContent[] {
  const list = fromHtml(html, { fragment: true })
    .children.filter(isElement)[0]
    ?.children.filter(isElement)[0];
  return (list?.children.filter(isElement) ?? []).map((item, at): RootContent => {
    const { children } = toMdast(
      { type: 'root', children: item.children },
      { handlers, document: true },
    ) as Root;
    return {
      type: 'footnoteDefinition',
      identifier: String(at + 1),
      label: String(at + 1),
      children: children as BlockContent[],
    };
  });
}

const written = (root: Root): string =>
  toMarkdown(root, {
    bullet: '-',
    emphasis: '*',
    strong: '*',
    fences: true,
    listItemIndent: 'one',
    rule: '-',
    extensions: [gfmToMarkdown()],
  });

/**
 * Publication → a folder of Markdown: CommonMark 0.31 with tables and footnotes of GFM; tables that
 * it has no words for are HTML. `index.md` has title and contents, `assets/` the images. Problems:
 * `image.unreadable` (the image is left out).
 */
export function markdownFiles(
  publication: Publication,
  source: AssetSource,
  filing?: Filing,
): {
  readonly files: Map<string, string | Uint8Array>;
  readonly problems: readonly Problem[];
  readonly pageCount: number;
} {
  const pages = layOutPages(publication, filing, 'md');
  const { facts, locale } = publication;
  const words = wordsFor(locale);
  const { shown, problems } = assetsShown(publication.assets, source);
  const site: SiteContext = {
    publication,
    pages,
    assets: { find: (id) => shown.get(id) },
    words,
    ...usualSite({}),
    isSite: false,
    address: '',
    readers: readersOf(publication),
  };
  const made = pages.order.map((place) => ({ place, ...articleOf(place, site) }));
  const wanted = new Set(
    made.flatMap(({ article, footnotes }) =>
      [...`${article}${footnotes}`.matchAll(/\shref="[^"#:]*#([^"]+)"/gu)].map(([, id]) => id!),
    ),
  );
  const handlers = handlersFor(wanted);

  const files = new Map<string, string | Uint8Array>();
  const contents = (places: readonly Place[]): List => ({
    type: 'list',
    ordered: false,
    spread: false,
    children: places
      .filter((place) => place.inContents && pages.href(place.anchor) !== undefined)
      .map((place): ListItem => {
        const below = contents(place.children);
        const link: Paragraph = {
          type: 'paragraph',
          children: [
            {
              type: 'link',
              url: pages.href(place.anchor)!,
              children: [{ type: 'text', value: place.label }],
            },
          ],
        };
        return {
          type: 'listItem',
          spread: false,
          children: [link, ...(below.children.length === 0 ? [] : [below])],
        };
      }),
  });
  const lines = [facts.subtitle, facts.description]
    .filter((line) => line !== '')
    .map((value): RootContent => ({ type: 'paragraph', children: [{ type: 'text', value }] }));
  const rights = [facts.rights, facts.edition, facts.bookNumber]
    .filter((part) => part !== '')
    .join(' · ');
  files.set(
    'index.md',
    written({
      type: 'root',
      children: [
        { type: 'heading', depth: 1, children: [{ type: 'text', value: facts.title }] },
        ...lines,
        contents(publication.places),
        ...(rights === ''
          ? []
          : [{ type: 'paragraph' as const, children: [{ type: 'text' as const, value: rights }] }]),
      ],
    }),
  );
  for (const { place, article, related, footnotes } of made) {
    const path = pages.href(place.anchor)!;
    const { children } = toMdast(
      fromHtml(standingAt(path, article + related), { fragment: true }),
      { handlers, document: true },
    ) as Root;
    files.set(
      path,
      written({
        type: 'root',
        children: [...children, ...footnotesOf(standingAt(path, footnotes), handlers)],
      }),
    );
  }
  for (const [id, { href }] of shown) files.set(href, source(id)!.bytes);
  return { files, problems, pageCount: pages.order.length };
}
