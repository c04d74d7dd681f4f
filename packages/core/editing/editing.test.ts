import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { EditorState, TextSelection } from 'prosemirror-state';
import { describe, expect, it } from 'vitest';
import {
  elementDefinitions,
  isInline,
  normalise,
  topicKinds,
  topicTemplate,
  writeCanonical,
} from '../grammar/index.ts';
import { readXml, type Element } from '../markup/index.ts';
import { choicesAt, editorSchema, fromEditor, special, toEditor } from './index.ts';

const tree = (xml: string) => normalise(readXml(xml).document!.root);
const roundTrip = (xml: string): string => {
  const document = toEditor(tree(xml));
  document.check();
  return writeCanonical(fromEditor(document));
};
const concept = (body: string): string =>
  `<concept id="c"><title>T</title><conbody>${body}</conbody></concept>`;

const demo = join(import.meta.dirname, '../../../demo/library/topics');
const files = readdirSync(demo, { recursive: true, encoding: 'utf8' }).filter((name) =>
  name.endsWith('.dita'),
);

describe('topics in the editor', () => {
  it.each(files)('keeps %s to the letter', (name) => {
    const xml = readFileSync(join(demo, name), 'utf8');
    const document = toEditor(tree(xml));
    document.check();
    let closed = 0;
    document.descendants(
      (node) =>
        void (closed +=
          node.type.name === special.rawBlock &&
          !['prolog', 'colspec', 'area'].includes((node.attrs['node'] as Element).name)
            ? 1
            : 0),
    );
    expect(closed).toBe(0);
    expect(writeCanonical(fromEditor(document))).toBe(writeCanonical(readXml(xml).document!.root));
  });
  it('show an empty borrower as the element that it is, and write no content', () => {
    const xml = concept(
      '<table conref="topic:l/t"/><ul conkeyref="k/u"/><section conref="topic:l/s"/>',
    );
    const document = toEditor(tree(xml));
    document.check();
    expect(document.firstChild!.lastChild!.content.content.map(({ type }) => type.name)).toEqual([
      'table',
      'ul',
      'section',
    ]);
    expect(roundTrip(xml)).toBe(writeCanonical(tree(xml)));
    // What was written stays, though nobody reads it.
    const own = concept('<ul conref="topic:l/u"><li>kept</li></ul>');
    expect(roundTrip(own)).toBe(writeCanonical(tree(own)));
  });
  it.each([
    [
      'marks that nest either way',
      concept('<p>a <b>b <i>c</i></b> <i>d <b>e</b></i> <b>f</b><b>g</b></p>'),
    ],
    [
      'variables, links and index entries',
      concept(
        '<p><ph keyref="k"/> <xref href="topic:x"/> <xref href="topic:x">words</xref>' +
          '<indexterm>a<indexterm>b</indexterm></indexterm></p>',
      ),
    ],
    [
      'text beside blocks',
      concept('<ul><li>one<ul><li>two</li></ul>three</li><li><p>four</p></li><li/></ul>'),
    ],
    ['a paragraph that holds a list', concept('<p>Text<ul><li>a</li></ul>more</p>')],
    [
      'comments, instructions and unknown elements',
      concept('<!-- x --><p>a<!-- y --><?z w?></p><gadget>kept</gadget>'),
    ],
    [
      'what stands at a wrong place',
      '<task id="t"><title>A</title><taskbody><result>R</result><steps><step><info>no ' +
        'command</info></step></steps></taskbody></task>',
    ],
    ['a topic without what it needs', '<task id="t"><taskbody><steps/></taskbody></task>'],
    [
      'spans of a table',
      concept(
        '<table><tgroup cols="2"><colspec colname="a"/><colspec colname="b"/><tbody><row>' +
          '<entry namest="a" nameend="b">x</entry></row><row><entry morerows="1">y</entry>' +
          '<entry/></row><row><entry>z</entry></row></tbody></tgroup></table>',
      ),
    ],
    ['preformatted text', concept('<codeblock>  a\n\n   b <b>c</b>\n</codeblock>')],
  ])('keeps %s', (_what, xml) => {
    expect(roundTrip(xml)).toBe(writeCanonical(readXml(xml).document!.root));
  });
});

describe('topics in the editor', () => {
  it('keeps guidance while nothing is typed and drops it afterwards', () => {
    for (const kind of topicKinds) {
      const template = topicTemplate(kind, 'x');
      expect(fromEditor(toEditor(template))).toEqual(template);
    }
    const document = toEditor(topicTemplate('concept', 'x'));
    const typed = document.replace(
      2,
      2,
      toEditor(tree('<concept id="x"><title>Now</title></concept>')).slice(2, 5, false),
    );
    expect(fromEditor(typed).children[0]).toMatchObject({ name: 'title', children: ['Now'] });
  });
  it('has a node, a mark or a closed form for every element that can stand in a topic', () => {
    const known = new Set(
      [...Object.values(editorSchema.nodes), ...Object.values(editorSchema.marks)].map(
        (type) => type.spec.element,
      ),
    );
    const blocks = elementDefinitions.filter(({ name }) =>
      [
        'step',
        'note',
        'entry',
        'fig',
        'dlentry',
        'cause',
        'propdesc',
        'chrow',
        'glossdef',
      ].includes(name),
    );
    expect(blocks.every(({ name }) => known.has(name))).toBe(true);
    expect(
      elementDefinitions.filter(({ name }) => isInline(name) && known.has(name)).length,
    ).toBeGreaterThan(25);
  });
});

describe('what can go here', () => {
  const document = toEditor(
    tree(
      '<task id="t"><title>A</title><taskbody><steps><step><cmd>Go</cmd></step></steps>' +
        '</taskbody></task>',
    ),
  );
  let inCommand = 0;
  document.descendants(
    (node, position) => void (node.type.name === 'cmd' && (inCommand = position + 2)),
  );
  const state = EditorState.create({
    doc: document,
    selection: TextSelection.create(document, inCommand),
  });
  const choices = choicesAt(state).filter(({ kind }) => kind === 'insert');

  it('offers what keeps every open element valid, nearest first', () => {
    const elements = choices.map(({ element }) => element);
    expect(elements.slice(0, 3)).toEqual(['info', 'choices', 'choicetable']);
    expect(elements).toContain('result');
    expect(elements).not.toContain('prereq');
    expect(elements.indexOf('step')).toBeLessThan(elements.indexOf('result'));
  });
  it('gives a valid document for each choice', () => {
    expect(choices.length).toBeGreaterThan(10);
    for (const choice of choices) state.apply(choice.apply(state)).doc.check();
  });
});
