import fc from 'fast-check';
import { EditorState, TextSelection } from 'prosemirror-state';
import { describe, expect, it } from 'vitest';
import { fromEditor, pasteBlocks, toEditor } from '../editing/index.ts';
import { normalise, validate, writeCanonical } from '../grammar/index.ts';
import { element, readXml, writeXml, type Element } from '../markup/index.ts';
import { anyElement } from '../testing/index.ts';
import { contentOfHtml } from './index.ts';

const html = (inside: string): Element => readXml(`<body>${inside}</body>`).document!.root;
const written = (inside: string): string =>
  contentOfHtml(html(inside))
    .blocks.map((block) => writeXml(block).trim())
    .join('');

describe('content from web pages and word processors', () => {
  it.each([
    [
      'paragraphs and phrases',
      '<p>A <strong>b</strong> <em>c</em> <code>d</code></p>',
      '<p>A <b>b</b> <i>c</i> <codeph>d</codeph></p>',
    ],
    [
      'headings become sections',
      '<p>x</p><h2>One</h2><p>y</p><h3>Two</h3><ul><li>z</li></ul>',
      '<p>x</p><section><title>One</title><p>y</p></section><section><title>Two</title><ul>' +
        '<li>z</li></ul></section>',
    ],
    [
      'lists in lists',
      '<ul><li>a<ol><li>b</li></ol></li><li><p>c</p><p>d</p></li></ul>',
      '<ul><li><p>a</p><ol><li>b</li></ol></li><li><p>c</p><p>d</p></li></ul>',
    ],
    [
      'links to the web, not within the page',
      '<p><a href="https://tides.example/">t</a> <a href="#x">u</a></p>',
      '<p><xref format="html" href="https://tides.example/" scope="external">t</xref> u</p>',
    ],
    [
      'loose text and wrappers',
      '<div><span style="color:red">red</span><div>two</div></div>',
      '<p>red</p><p>two</p>',
    ],
    [
      'terms and code',
      '<dl><dt>a</dt><dd>b</dd></dl><pre>\nx\n  y\n</pre>',
      '<dl><dlentry><dt>a</dt><dd>b</dd></dlentry></dl><codeblock>x\n  y</codeblock>',
    ],
    [
      'tables with heads and spans',
      '<table><tr><th>A</th><th>B</th></tr><tr><td rowspan="2">1</td><td>2</td></tr><tr>' +
        '<td>3</td></tr><tr><td colspan="2">4</td></tr></table>',
      '<table><tgroup cols="2"><colspec colname="col1"/><colspec colname="col2"/><thead><row>' +
        '<entry>A</entry><entry>B</entry></row></thead><tbody><row>' +
        '<entry morerows="1">1</entry><entry>2</entry></row><row><entry>3</entry></row><row>' +
        '<entry nameend="col2" namest="col1">4</entry></row></tbody></tgroup></table>',
    ],
    [
      'items that a word processor draws itself',
      '<p style="mso-list:l0 level1 lfo1"><span style="mso-list:Ignore">·</span>a</p>' +
        '<p style="mso-list:l0 level2 lfo1"><span style="mso-list:Ignore">o</span>b</p>' +
        '<p style="mso-list:l0 level1 lfo1"><span style="mso-list:Ignore">·</span>c</p><p>d</p>',
      '<ul><li>a<ul><li>b</li></ul></li><li>c</li></ul><p>d</p>',
    ],
  ])('%s', (_what, given, expected) => expect(written(given)).toBe(expected));

  it('leaves out what acts or only looks, and says so', () => {
    const { blocks, dropped } = contentOfHtml(
      html(
        '<script>alert(1)</script><p style="color:red" onclick="x()">a<img src="x"/>' +
          '<iframe src="y"/><a href="javascript:alert(1)">b</a></p>',
      ),
    );
    expect(blocks).toEqual([element('p', {}, ['ab'])]);
    expect([...dropped].sort()).toEqual([
      'active content',
      'images that are not in the library',
      'links to places within the other document',
      'local formatting',
    ]);
  });
});

const names = [
  'p',
  'div',
  'h2',
  'ul',
  'ol',
  'li',
  'table',
  'tr',
  'td',
  'th',
  'b',
  'a',
  'span',
  'pre',
  'dl',
  'dt',
  'dd',
  'blockquote',
  'img',
  'br',
  'script',
];
const tree = fc.letrec((tie) => ({
  node: fc.oneof(
    { depthSize: 'medium' },
    fc.constantFrom('tide', ' quay ', 'a & <b>'),
    fc.record({
      name: fc.constantFrom(...names),
      attributes: fc.constantFrom(
        {},
        { href: 'https://tides.example/' },
        { colspan: '3', rowspan: '2' },
        { style: 'mso-list:l0 level2 lfo1' },
      ),
      children: fc.array(tie('node'), { maxLength: 4 }),
    }),
  ),
})).node as fc.Arbitrary<Element | string>;

describe('pasting', () => {
  it('puts comments for the team before all parts with a title', () => {
    const { blocks } = contentOfHtml(element('body', {}, [element('h2', {}, ['tide'])]));
    const root = element('concept', {}, [
      element('title'),
      element('conbody', {}, [element('p'), element('draft-comment')]),
    ]);
    const state = EditorState.create({ doc: toEditor(root) });
    const placed = state.apply(state.tr.setSelection(TextSelection.near(state.doc.resolve(5))));
    const { doc } = placed.apply(pasteBlocks(placed, blocks).transaction);
    expect(validate(fromEditor(doc))).toEqual([]);
    expect(writeCanonical(fromEditor(doc))).toMatch(/<p>tide<\/p>\s*<draft-comment\/>/u);
  });
  it('anything anywhere leaves a valid topic with all its words', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('concept', 'task', 'reference'),
        fc.gen(),
        fc.array(tree, { minLength: 1, maxLength: 5 }),
        fc.nat(10_000),
        (kind, gen, nodes, at) => {
          const { blocks } = contentOfHtml(element('body', {}, nodes));
          fc.pre(blocks.length > 0);
          const root = normalise(gen(anyElement, kind, 4));
          const state = EditorState.create({ doc: toEditor(root) });
          const placed = state.apply(
            state.tr.setSelection(
              TextSelection.near(state.doc.resolve(at % (state.doc.content.size + 1))),
            ),
          );
          const before = validate(root).filter(({ severity }) => severity === 'error').length;
          const { doc } = placed.apply(pasteBlocks(placed, blocks).transaction);
          doc.check();
          const after = fromEditor(doc);
          expect(
            validate(after).filter(({ severity }) => severity === 'error').length,
          ).toBeLessThanOrEqual(before);
          const words = (text: string): string[] => (text.match(/tide|quay/gu) ?? []).sort();
          const inserted = blocks
            .map((block) => writeXml(block))
            .join(' ')
            .replaceAll('https://tides.example/', '');
          const gained =
            words(writeCanonical(after).replaceAll('https://tides.example/', '')).length -
            words(writeCanonical(root)).length;
          expect(gained).toBe(words(inserted).length);
        },
      ),
      { numRuns: 300 },
    );
  });
});
