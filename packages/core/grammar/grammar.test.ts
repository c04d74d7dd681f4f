import { describe, expect, it } from 'vitest';
import { readXml, type Element } from '../markup/index.ts';
import {
  contentOf,
  definitionOf,
  elementDefinitions,
  attributesOf,
  normalise,
  topicKinds,
  topicTemplate,
  validate,
  writeCanonical,
  labelOf,
  type Expression,
  emptyElement,
  placeFor,
} from './index.ts';

const tree = (xml: string) => normalise(readXml(xml).document!.root);
const codes = (xml: string) => validate(tree(xml)).map((problem) => problem.code);

function names(expression: Expression): string[] {
  if (expression.kind === 'symbol') return [expression.symbol];
  return expression.kind === 'repeat' ? names(expression.part) : expression.parts.flatMap(names);
}

describe('the table', () => {
  it('names only elements that it defines, each once, with label and help', () => {
    const all = elementDefinitions.map((definition) => definition.name);
    expect(new Set(all).size).toBe(all.length);
    for (const { name, label, help } of elementDefinitions) {
      expect(label).not.toBe('');
      expect(help, name).toMatch(/\.$/u);
      for (const child of names(contentOf(name)!))
        if (child !== '#text') expect(definitionOf(child), `${child} in ${name}`).toBeDefined();
      expect(attributesOf(name).length).toBeGreaterThan(20);
    }
  });

  it('has templates that are valid, with guidance in every empty place', () => {
    for (const kind of topicKinds) {
      const template = topicTemplate(kind, 'new');
      expect(validate(template), kind).toEqual([]);
      expect(writeCanonical(template)).toContain('<?guidance ');
    }
    expect(topicTemplate('task', 'new', 'Fit the mast').children[0]).toEqual({
      name: 'title',
      attributes: {},
      children: ['Fit the mast'],
    });
  });
});

describe('validation', () => {
  it('accepts a task as the standard has it', () => {
    expect(
      codes(
        '<task id="t"><title>Fit</title><shortdesc>Why.</shortdesc><taskbody><prereq>Tide ' +
          'low.</prereq><steps><step><note type="warning">Clip on.</note><cmd>Drill.</cmd>' +
          '<info>90 mm</info></step></steps><result><p>Firm.</p></result></taskbody></task>',
      ),
    ).toEqual([]);
  });

  it.each([
    ['<task id="t"><taskbody/></task>', 'grammar.missing'],
    [
      '<task id="t"><title>A</title><taskbody><steps><step><info>x</info></step></steps>' +
        '</taskbody></task>',
      'grammar.missing',
    ],
    ['<task id="t"><title>A</title><taskbody><steps/></taskbody></task>', 'grammar.missing'],
    [
      '<concept id="t"><title>A</title><shortdesc>a</shortdesc><shortdesc>b</shortdesc></concept>',
      'grammar.not-allowed',
    ],
    ['<concept id="t"><title>A</title><conbody>loose</conbody></concept>', 'grammar.text'],
    ['<concept id="t"><title>A<p>b</p></title></concept>', 'grammar.not-allowed'],
    [
      '<concept id="t"><title>A</title><conbody><p id="x"/><p id="x"/></conbody></concept>',
      'grammar.duplicate-id',
    ],
    [
      '<concept id="t"><title>A</title><conbody><p audience=""/></conbody></concept>',
      'grammar.empty-attribute',
    ],
    [
      '<concept id="t"><title>A</title><conbody><note type="shout"/></conbody></concept>',
      'grammar.attribute-value',
    ],
    [
      '<concept id="t"><title>A</title><conbody><p colour="red"/></conbody></concept>',
      'grammar.unknown-attribute',
    ],
    [
      '<concept id="t"><title>A</title><conbody><blink/></conbody></concept>',
      'grammar.unknown-element',
    ],
    [
      '<concept id="t"><title>A</title><conbody><table><tgroup><tbody><row><entry/></row>' +
        '</tbody></tgroup></table></conbody></concept>',
      'grammar.missing-attribute',
    ],
  ])('finds what is wrong in %s', (xml, code) => {
    expect(codes(xml)).toEqual([code]);
  });

  it('says in plain words what is missing and where', () => {
    const [found] = validate(
      tree('<task id="t"><title>A</title><taskbody><steps><step/></steps></taskbody></task>'),
    );
    expect(found).toMatchObject({
      message: '“Step” needs “Instruction”.',
      where: { path: [1, 0, 0] },
    });
  });
});

describe('what can go here', () => {
  const task = tree(
    '<task id="t"><title>A</title><taskbody><context/><steps><step><cmd>Go</cmd></step>' +
      '</steps></taskbody></task>',
  );
  it('finds the last place where a part can stand', () => {
    const body = task.children[1] as Element;
    expect(placeFor(body, 'result')).toBe(2);
    expect(placeFor(body, 'prereq')).toBe(1);
    expect(placeFor(body, 'conbody')).toBeUndefined();
  });
  it('makes elements with what they must have', () => {
    expect(writeCanonical(emptyElement('steps')).replace(/\s*\n\s*/gu, '')).toBe(
      '<steps><step><cmd/></step></steps>',
    );
    for (const { name } of elementDefinitions)
      expect(
        validate(emptyElement(name)).filter(
          ({ code }) => code === 'grammar.missing' || code === 'grammar.not-allowed',
        ),
      ).toEqual([]);
  });
  it('names elements in words', () => expect(labelOf('cmd')).toBe('Instruction'));
});

describe('canonical form', () => {
  it('drops white space that means nothing and keeps what does', () => {
    const messy =
      '<concept id="c">\n <title> A   title </title>\n<conbody><p>One <b>two </b>\n' +
      ' three</p><pre>a\n  b</pre> <p>\n<ul><li> x </li></ul>\n' +
      '</p></conbody></concept>';
    expect(writeCanonical(readXml(messy).document!.root)).toBe(
      '<concept id="c">\n  <title>A title</title>\n  <conbody>\n' +
        '    <p>One <b>two </b> three</p>\n    <pre>a\n  b</pre>\n' +
        '    <p>\n      <ul>\n        <li>x</li>\n      </ul>\n' +
        '    </p>\n  </conbody>\n</concept>\n',
    );
  });
  it('does not change when written and read again', () => {
    const text = writeCanonical(
      tree(
        '<topic id="a"><title>T</title><body><p>a <ph audience="x">b</ph> c<fn> note </fn>' +
          '</p><lq>x<p>y</p>z</lq></body></topic>',
      ),
    );
    expect(writeCanonical(readXml(text).document!.root)).toBe(text);
  });
});
