import type { Place, Publication } from '@ukiyo/core/compose';
import type { Problem } from '@ukiyo/core/problems';
import { wordsFor } from '@ukiyo/core/words';
import type { Element as HtmlElement } from 'hast';
import { toMdast, type Handle } from 'hast-util-to-mdast';
import type { BlockContent, List, ListItem, Paragraph, Root, RootContent } from 'mdast';
import { gfmToMarkdown } from 'mdast-util-gfm';
import { toMarkdown } from 'mdast-util-to-markdown';
import { elementsIn, htmlNodes, seenFrom, type Html } from '../html/index.ts';
import { withDrawings, type AssetSource } from '../shared/index.ts';
import {
  listedIn,
  articleOf,
  assetsShown,
  layOutPages,
  siteReaders,
  upFrom,
  type Filing,
  type HtmlContext,
} from '../topics/index.ts';
import { usualSite } from '../site/index.ts';
import { handlersFor, stringOf } from './handlers.ts';

/** Nodes of HTML as those of Markdown. */
const converted = (part: Html, handlers: Record<string, Handle>): RootContent[] =>
  (
    toMdast(
      { type: 'root', children: [...htmlNodes(part)] as HtmlElement['children'] },
      { handlers, document: true },
    ) as Root
  ).children;

/** Of the footnotes below a page. */
function footnotesOf(part: Html, handlers: Record<string, Handle>): RootContent[] {
  const items = [...elementsIn(part)].filter(({ properties: { id } }) =>
    /^fn-\d/u.test(stringOf(id)),
  );
  return items.map((item, at) => ({
    type: 'footnoteDefinition',
    identifier: String(at + 1),
    label: String(at + 1),
    children: converted(item.children, handlers) as BlockContent[],
  }));
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
  library: AssetSource,
  filing?: Filing,
): {
  readonly files: Map<string, string | Uint8Array>;
  readonly problems: readonly Problem[];
  readonly pageCount: number;
} {
  const source = withDrawings(publication, library);
  const pages = layOutPages(publication, filing, 'md');
  const { shown, problems } = assetsShown(publication.assets, source);
  const site: HtmlContext = {
    publication,
    pages,
    assets: { find: (id) => shown.get(id) },
    words: wordsFor(publication.locale),
    ...usualSite({}),
    isSite: false,
    address: '',
    readers: siteReaders(publication),
  };
  const made = pages.order.map((place) => ({ place, ...articleOf(place, site) }));
  const handlers = handlersFor(
    targetsIn(made.flatMap(({ article, footnotes }) => [article, footnotes])),
  );
  const files = new Map<string, string | Uint8Array>([['index.md', indexFile(site)]]);
  for (const { place, article, related, footnotes } of made) {
    const path = pages.href(place.anchor)!;
    const seen = (part: Html): Html => seenFrom(part, upFrom(path));
    const children = [
      ...converted(seen([article, related]), handlers),
      ...footnotesOf(seen(footnotes), handlers),
    ];
    files.set(path, written({ type: 'root', children }));
  }
  for (const [id, { href }] of shown) files.set(href, source(id)!.bytes);
  return { files, problems, pageCount: pages.order.length };
}

/** Ids on pages to which links lead. */
const targetsIn = (part: Html): ReadonlySet<string> =>
  new Set(
    [...elementsIn(part)].flatMap(({ properties: { href } }) => {
      const [, id] = /^[^#:]*#(.+)$/u.exec(stringOf(href)) ?? [];
      return id ?? [];
    }),
  );

/** Title, contents and rights. */
function indexFile({ publication: { facts, places }, pages }: HtmlContext): string {
  const paragraph = (value: string): RootContent => ({
    type: 'paragraph',
    children: [{ type: 'text', value }],
  });
  const rights = [facts.rights, facts.edition, facts.bookNumber]
    .filter((part) => part !== '')
    .join(' · ');
  return written({
    type: 'root',
    children: [
      { type: 'heading', depth: 1, children: [{ type: 'text', value: facts.title }] },
      ...[facts.subtitle, facts.description].filter((line) => line !== '').map(paragraph),
      contentsList(places, pages),
      ...(rights === '' ? [] : [paragraph(rights)]),
    ],
  });
}

function contentsList(places: readonly Place[], pages: HtmlContext['pages']): List {
  return {
    type: 'list',
    ordered: false,
    spread: false,
    children: listedIn(places, pages).map((place): ListItem => {
      const below = contentsList(place.children, pages);
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
  };
}
