import { allPlaces, type Publication } from '@ukiyo/core/compose';
import { composeTexts, concept, mapText } from '@ukiyo/core/testing';
import { wordsFor } from '@ukiyo/core/words';
import { fromHtml } from 'hast-util-from-html';
import { micromark } from 'micromark';
import { gfm, gfmHtml } from 'micromark-extension-gfm';
import { describe, expect, it } from 'vitest';
import { serializeHtml } from '../html/index.ts';
import { usualSite } from '../site/index.ts';
import { articleOf, layOutPages, siteReaders } from '../topics/index.ts';
import { composeDemo, demoAssets } from '../testing/demo.ts';
import { markdownFiles } from '../index.ts';

interface Tree {
  readonly type: string;
  readonly value?: string;
  readonly tagName?: string;
  readonly properties?: Readonly<Record<string, unknown>>;
  readonly children?: readonly Tree[];
}
/**
 * The words of a page, without the marks of footnotes and what is around them: those are counted in
 * words of the reader.
 */
function wordsOfHtml(html: string): string[] {
  const said = ({
    type,
    value = '',
    tagName = '',
    properties = {},
    children = [],
  }: Tree): string => {
    if (type === 'text') return value;
    if (
      type === 'comment' ||
      tagName === 'map' ||
      properties['dataFootnoteBackref'] !== undefined ||
      properties['dataFootnoteRef'] !== undefined ||
      properties['id'] === 'footnote-label'
    )
      return '';
    if (['video', 'audio'].includes(tagName))
      return [properties['ariaLabel'], properties['src'], ''].find(
        (one) => typeof one === 'string',
      ) as string;
    if (Array.isArray(properties['className']) && properties['className'].includes('fn-mark'))
      return '';
    const inner = children.map(said).join('');
    return /^(?:[abiqsu]|em|strong|code|span|kbd|samp|var|dfn|cite|su[bp]|del)$/u.test(tagName)
      ? inner
      : ` ${inner} `;
  };
  return said(fromHtml(html, { fragment: true }) as Tree)
    .replace(/[“”]/gu, '')
    .split(/\s+/u)
    .filter((word) => word !== '');
}
/**
 * Read by micromark (npm, MIT; CommonMark 0.31 and GFM). HTML is let through: tables with merged
 * cells are written so.
 */
const read = (markdown: string): string =>
  micromark(markdown, {
    allowDangerousHtml: true,
    extensions: [gfm()],
    htmlExtensions: [gfmHtml()],
  });
const decoded = (content: string | Uint8Array | undefined): string =>
  typeof content === 'string' ? content : new TextDecoder().decode(content);

function expectSameWords(publication: Publication, assets = demoAssets): number {
  const { files } = markdownFiles(publication, assets);
  const pages = layOutPages(publication, {}, 'md');
  const site = {
    publication,
    pages,
    assets: { find: (id: string) => (assets(id) ? { href: id, mediaType: '' } : undefined) },
    words: wordsFor(publication.locale),
    ...usualSite({}),
    isSite: false,
    address: '',
    readers: siteReaders(publication),
  };
  for (const place of pages.order) {
    const { article, related, footnotes } = articleOf(place, site);
    expect(wordsOfHtml(read(decoded(files.get(pages.href(place.anchor)!)))), place.label).toEqual(
      wordsOfHtml(serializeHtml([article, related, footnotes])),
    );
  }
  return pages.order.length;
}

describe('a folder of Markdown', () => {
  const help = composeDemo('help', 'installer-tern-q');
  const { files, problems, pageCount } = markdownFiles(help, demoAssets);

  it('says, read again, what the topics say: every page of the demo', () => {
    expect(expectSameWords(help)).toBeGreaterThan(60);
    expect(problems).toEqual([]);
    expect(pageCount).toBe([...files.keys()].filter((path) => path.endsWith('.md')).length - 1);
  });
  it('leads to files and places that are there', () => {
    let links = 0;
    for (const [path, content] of files) {
      if (!path.endsWith('.md')) continue;
      for (const [, href] of read(decoded(content)).matchAll(/\s(?:href|src)="([^"]+)"/gu)) {
        if (/^(?:https?:|mailto:|tel:|#user-content-)/u.test(href!)) continue;
        const [file, id] = href!.split('#');
        const target = decoded(files.get(file === '' ? path : file!));
        expect(files.has(file === '' ? path : file!), `${path}: ${href}`).toBe(true);
        if (id !== undefined) expect(target, `${path}: ${href}`).toContain(`<a id="${id}"></a>`);
        links += 1;
      }
    }
    expect(links).toBeGreaterThan(100);
  });
  it('begins with contents that lead to every page that contents name', () => {
    const index = decoded(files.get('index.md'));
    for (const { label, inContents, isChunked } of allPlaces(help.places))
      if (inContents && !isChunked)
        expect(wordsOfHtml(read(index)).join(' ')).toContain(
          label.replace(/[“”]/gu, '').replace(/\s+/gu, ' '),
        );
  });
  it('keeps what looks like Markdown or markup as the words it is', () => {
    const publication = composeTexts([
      mapText('<title>A *map* &lt;b&gt;</title><topicref href="topic:one"/>'),
      concept(
        'one',
        '<p># not a heading</p><p>1. no list, *no* emphasis, `no` code, [no](link), ' +
          '&lt;b&gt; no markup, | no cell | ~~no~~ 2 &amp;amp; 3</p><p>- no item<fn>a ' +
          '*note*</fn></p><ul><li><p>a</p><note type="warning">W</note></li></ul><table>' +
          '<tgroup cols="2"><thead><row><entry>h|1</entry><entry>h2</entry></row></thead>' +
          '<tbody><row><entry>a|b</entry><entry>c</entry></row></tbody></tgroup></table><dl>' +
          '<dlentry><dt>t</dt><dd>d</dd></dlentry></dl>',
      ),
    ]);
    expectSameWords(publication, () => undefined);
    const text = decoded(markdownFiles(publication, () => undefined).files.get('one.md'));
    expect(text).toContain('\\# not a heading');
    expect(text).toContain('| h\\|1');
    expect(read(text)).not.toMatch(/<b>|<em>no|<del>/u);
  });
  it('calls its files after ids, titles or numbers, never one as another', () => {
    const publication = composeTexts([
      mapText(
        '<topicref href="topic:one"/><topicref href="topic:two"/><topicref href="topic:three"/>',
      ),
      concept('one', '', 'Ünder/../the *same* name?'),
      concept('two', '', 'Ünder/../the *same* name?'),
      concept('three', '', '潮位'),
    ]);
    const names = (naming: 'ids' | 'titles' | 'numbers') => [
      ...markdownFiles(publication, () => undefined, { naming }).files.keys(),
    ];
    expect(names('ids')).toEqual(['index.md', 'one.md', 'two.md', 'three.md']);
    expect(names('titles')).toEqual([
      'index.md',
      'under-the-same-name.md',
      'under-the-same-name-2.md',
      'three.md',
    ]);
    expect(names('numbers')).toEqual([
      'index.md',
      '1-under-the-same-name.md',
      '2-under-the-same-name.md',
      '3-three.md',
    ]);
  });
});
