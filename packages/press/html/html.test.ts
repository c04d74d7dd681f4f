import { fromHtml } from 'hast-util-from-html';
import { toHtml } from 'hast-util-to-html';
import type { Nodes, Root } from 'hast';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  elementsIn,
  isEmpty,
  join,
  htmlNodes,
  seenFrom,
  tag,
  text,
  withHtmlAttribute,
} from './index.ts';
import { serializeHtml, serializePage, serializeXml, type Html } from './index.ts';

/** The same without where it stood in the text, and without texts side by side. */
function plain(node: Nodes): unknown {
  if (node.type === 'text') return node.value;
  if (!('children' in node)) return node.type;
  const children = node.children.map(plain);
  return node.type === 'element' ? [node.tagName, { ...node.properties }, children] : children;
}
const rootOf = (part: Html): Root => ({
  type: 'root',
  children: [...htmlNodes(part)] as Root['children'],
});

const words = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 12 });
/** Parts of a page as renderers make them: no text beside another, which a parser would join. */
const { part } = fc.letrec<{ part: Html; phrase: Html }>((tie) => ({
  phrase: fc.oneof(
    { maxDepth: 3 },
    words.map(text),
    fc
      .tuple(fc.constantFrom('b', 'span', 'code'), words, tie('phrase'))
      .map(([name, label, inside]) => tag(name, { class: 'a b', title: label }, inside)),
    words.map((alt) => tag('img', { src: 'a.png', alt, width: 3 })),
  ),
  part: fc
    .tuple(
      fc.constantFrom('section', 'div', 'blockquote'),
      fc.array(tie('phrase'), { maxLength: 3 }),
    )
    .map(([name, inside]) =>
      tag(name, { id: 'x', hidden: true }, ...inside.map((one) => tag('p', {}, one))),
    ),
}));

describe('the tree of a page', () => {
  it('is read from what is written, by the parser of HTML: the same tree', () => {
    let checked = 0;
    fc.assert(
      fc.property(part, (made) => {
        checked += 1;
        const read = fromHtml(serializeHtml(made), { fragment: true });
        // CR and NUL are no characters of a page; parsers make others of them.
        fc.pre(!/[\r\0]/u.test(JSON.stringify(made)));
        expect(plain(read)).toEqual(plain(rootOf(made)));
      }),
      { numRuns: 300 },
    );
    expect(checked).toBeGreaterThan(100);
  });
  it('is written as the serialiser of hast writes it, but for which characters are escaped', () => {
    const made = tag(
      'section',
      { class: 'a b', 'data-at': '1.0', 'aria-label': 'x', tabindex: 0, hidden: true },
      tag('a', { href: 'a.html#b', rel: 'noopener', hreflang: 'de' }, text('Quay')),
      tag('table', {}, tag('tr', {}, tag('td', { colspan: 2 }, text('1')))),
      tag('area', { shape: 'rect', coords: '1,2,3,4' }),
      tag('input', { type: 'search', autocomplete: 'off' }),
    );
    expect(serializeHtml(made)).toBe(toHtml(rootOf(made), { tightCommaSeparatedLists: true }));
  });
  it('has no empty texts, and knows what is empty', () => {
    expect([text(''), [], [[], text('')]].every(isEmpty)).toBe(true);
    expect(isEmpty([[], text(' ')])).toBe(false);
    expect(serializeHtml(join([text('a'), text('b')], [text(' '), tag('br'), text(' ')]))).toBe(
      'a <br> b',
    );
  });
  it('gets an attribute on its first element alone', () => {
    const both = [tag('p', { id: 'x' }), tag('p')];
    expect(serializeHtml(withHtmlAttribute(both, 'data-at', '1.2'))).toBe(
      '<p data-at="1.2" id="x"></p><p></p>',
    );
    expect(withHtmlAttribute(text('a'), 'data-at', '1')).toEqual(text('a'));
  });
  it('leads from another folder to the same places', () => {
    const links = [
      'a.html',
      '#b',
      'https://quay.example/',
      'mailto:a@quay.example',
      '/x',
      'assets/a',
    ];
    const made = links.map((href) => tag('li', {}, tag('a', { href })));
    expect(
      [...elementsIn(seenFrom(made, '../'))].flatMap(({ properties }) => properties['href'] ?? []),
    ).toEqual(['../a.html', ...links.slice(1, 5), '../assets/a']);
    expect(seenFrom(made, '')).toBe(made);
  });
  it('is written as XML for e-books: every element ends, every attribute has a value', () => {
    const made = [
      tag('video', { controls: true, src: 'a.webm' }),
      tag('br'),
      tag('span', { 'epub:type': 'toc' }, text('a & b < c')),
      tag('meta', { property: 'dcterms:modified' }, text('now')),
    ];
    expect(serializeXml(made)).toBe(
      '<video controls="" src="a.webm"></video><br/>' +
        '<span epub:type="toc">a &amp; b &lt; c</span><meta property="dcterms:modified">now</meta>',
    );
  });
  it('keeps styles as they are, and hides no character that turns the direction of text', () => {
    expect(serializePage(tag('style', {}, text('a > b { content: "&"; }')))).toBe(
      '<!doctype html>\n<style>a > b { content: "&"; }</style>\n',
    );
    expect(serializeHtml(text('a\u202Eb\u0000c'))).toBe('abc');
    expect(serializeHtml(tag('p', { title: 'a\u202E"b\n<c' }))).toBe(
      '<p title="a&quot;b &lt;c"></p>',
    );
  });
});
