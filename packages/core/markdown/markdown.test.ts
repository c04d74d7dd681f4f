import spec from 'commonmark-spec';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalise, topicTemplate, validate, writeCanonical } from '../grammar/index.ts';
import { element, readXml, textOf, type Element } from '../markup/index.ts';
import { anyElement } from '../testing/index.ts';
import { readMarkdown, writeMarkdown } from './index.ts';

const tree = (xml: string): Element => normalise(readXml(xml).document!.root);
const written = (xml: string): string => {
  const made = writeMarkdown(tree(xml));
  return 'text' in made ? made.text : `refused: ${made.refusal}`;
};
const concept = (body: string): string =>
  '<concept id="c" audience="operator"><title>The well</title><shortdesc>Still ' +
  `water.</shortdesc><prolog><author>Ada Lind</author></prolog><conbody>${body}</conbody>` +
  '</concept>';

const words = fc
  .stringMatching(/^[a-zA-Zä語*_`<>[\]()#|!~.\- 1]{1,14}$/u)
  .filter((text) => /^\S.*\S$/u.test(text));
const line = fc.array(
  fc.oneof(
    words,
    fc
      .tuple(fc.constantFrom('b', 'i', 'codeph'), words)
      .map(([name, text]) => element(name, {}, [text])),
  ),
  { minLength: 1, maxLength: 4 },
);
const paragraph = line.map((nodes) => element('p', {}, nodes));
const list = fc
  .tuple(fc.constantFrom('ul', 'ol'), fc.array(line, { minLength: 1, maxLength: 3 }))
  .map(([name, items]) =>
    element(
      name,
      {},
      items.map((nodes) => element('li', {}, nodes)),
    ),
  );
/** Concepts with what Markdown has signs for, and words full of those signs. */
const anySimple = fc
  .tuple(
    words,
    fc.array(
      fc.oneof(
        paragraph,
        list,
        words.map((text) => element('codeblock', {}, [text])),
      ),
      { maxLength: 4 },
    ),
  )
  .map(([title, blocks]) =>
    element('concept', { id: 'c' }, [
      element('title', {}, [title]),
      element('conbody', {}, blocks),
    ]),
  );

describe('a topic as Markdown', () => {
  it('keeps its structure in the usual signs', () => {
    const body =
      '<p>A <b>still</b> <i>well</i> with <codeph>GET</codeph> and <xref href="topic:a/b">a ' +
      'link</xref>, <xref format="html" href="https://tides.example/" scope="external">one ' +
      'outside</xref>.</p><ul><li>one<ol><li>deep</li></ol></li><li>two</li></ul>' +
      '<codeblock outputclass="language-json">{ "a": 1 }\n  b</codeblock><section>' +
      '<title>More</title><p>Words.</p><simpletable><sthead><stentry>Port</stentry>' +
      '<stentry>m</stentry></sthead><strow><stentry>Kis</stentry><stentry>3</stentry></strow>' +
      '</simpletable></section>';
    const text = written(concept(body));
    expect(text).toBe(
      '# The well\n\n> Still water.\n\nA **still** *well* with `GET` and [a ' +
        'link](topic:a/b), [one outside](https://tides.example/).\n' +
        '\n- one\n  1. deep\n- two\n\n```json\n{ "a": 1 }\n  b\n' +
        '```\n\n## More\n\nWords.\n\n| Port | m |\n| ---- | - |\n' +
        '| Kis  | 3 |\n',
    );
    expect(writeCanonical(readMarkdown(text, tree(concept(''))).root!)).toBe(
      writeCanonical(tree(concept(body))),
    );
  });
  it('has the steps of a task as a numbered list', () => {
    const task =
      '<task id="t"><title>Fit it</title><taskbody><context><p>At low tide.</p></context>' +
      '<steps><step><cmd>Open the <b>door</b>.</cmd><info><p>It sticks.</p></info></step>' +
      '<step><cmd>Close it.</cmd></step></steps><result><p>Dry.</p></result></taskbody>' +
      '</task>';
    const text = written(task);
    expect(text).toBe(
      '# Fit it\n\nAt low tide.\n\n1. Open the **door**.\n\n   It sticks.\n2. Close it.\n\nDry.\n',
    );
  });
  it.each([
    ['<p>A <uicontrol>button</uicontrol></p>', '“Control” cannot be written in Markdown.'],
    [
      '<p audience="operator">Only some</p>',
      'The attribute “audience” of “Paragraph” cannot be written in Markdown.',
    ],
    ['<note>Mind</note>', '“Note” cannot be written in Markdown.'],
    ['<p>Said<fn>below</fn></p>', '“Footnote” cannot be written in Markdown.'],
    [
      '<table><tgroup cols="1"><tbody><row><entry/></row></tbody></tgroup></table>',
      '“Table” cannot be written in Markdown.',
    ],
    [
      '<simpletable><strow><stentry>without a head</stentry></strow></simpletable>',
      'Something in this topic would not come back from Markdown as it is.',
    ],
  ])('refuses what it cannot say: %s', (body, refusal) =>
    expect(writeMarkdown(tree(concept(body)))).toEqual({ refusal }),
  );

  it('takes a new topic with its guidance as one that has nothing there yet', () =>
    expect(written(writeCanonical(topicTemplate('concept', 'c', 'The well')))).toBe(
      '# The well\n',
    ));
  it('comes back as it was, or is refused, whatever the topic', () => {
    let count = 0;
    fc.assert(
      fc.property(fc.oneof(anySimple, anyElement('concept', 3), anyElement('task', 3)), (found) => {
        const root = normalise(found);
        const made = writeMarkdown(root);
        if (!('text' in made)) {
          expect(made.refusal).toMatch(/Markdown/u);
          return;
        }
        count += 1;
        expect(writeCanonical(readMarkdown(made.text, root).root!)).toBe(writeCanonical(root));
      }),
      { numRuns: 400 },
    );
    expect(count).toBeGreaterThan(60);
  });
});

describe('Markdown as a topic', () => {
  const before = tree('<concept id="c"><title>T</title><conbody/></concept>');
  it('says in which line something has no place', () => {
    expect(
      readMarkdown('# T\n\n<b>x</b>\n\n### Deep\n', before).problems.map(
        ({ message, where }) => `${where.line} ${message}`,
      ),
    ).toEqual([
      '3 HTML has no place in this topic.',
      '3 HTML has no place in this topic.',
      '5 A heading of level 3 has no place in this topic.',
    ]);
    expect(readMarkdown('Words', before).problems[0]!.message).toMatch(/does not begin with #/u);
  });
  it('is a valid topic with every word, or refused, for all examples of CommonMark 0.31', () => {
    expect(spec.tests.length).toBeGreaterThan(600);
    let read = 0;
    for (const { markdown } of spec.tests) {
      const { root, problems } = readMarkdown(`# T\n\n${markdown.replaceAll('→', '\t')}`, before);
      expect(root === undefined).toBe(problems.length > 0);
      if (!root) continue;
      read += 1;
      expect(
        validate(root).filter(
          ({ severity, code }) => severity === 'error' && code !== 'grammar.missing-attribute',
        ),
        markdown,
      ).toEqual([]);
    }
    expect(read).toBeGreaterThan(400);
  });
  it('loses no word', () =>
    expect(
      textOf(readMarkdown('# T\n\n- one\n- two **three**\n\n> four\n\n    five', before).root!),
    ).toMatch(/one.*two three.*four.*five/su));
});
