import { EditorState, NodeSelection, TextSelection } from 'prosemirror-state';
import { describe, expect, it } from 'vitest';
import { attributeOf, normalise, writeCanonical } from '../grammar/index.ts';
import { readXml } from '../markup/index.ts';
import {
  attributeFields,
  fromEditor,
  openElements,
  refusalOf,
  toEditor,
  withAttributes,
} from './index.ts';

const source =
  '<concept id="c"><title>T</title><conbody><ul id="list" audience="operator">' +
  '<li outputclass="x" gadget="y">See <xref href="topic:a">the <b>big</b> one</xref> and ' +
  '<term>it</term>.</li></ul><p id="p"/></conbody></concept>';
const doc = toEditor(normalise(readXml(source).document!.root));
const at = (text: string, offset = 1): EditorState => {
  let place = 0;
  doc.descendants(
    (node, position) =>
      void (
        node.isText &&
        node.text!.includes(text) &&
        place === 0 &&
        (place = position + node.text!.indexOf(text) + offset)
      ),
  );
  return EditorState.create({ doc, selection: TextSelection.create(doc, place) });
};
const text = (state: EditorState): string =>
  writeCanonical(fromEditor(state.doc)).replace(/\s*\n\s*/gu, '');

describe('open elements', () => {
  it('are those around the caret, blocks and named words, from the topic inward', () => {
    expect(openElements(at('See')).map(({ element }) => element)).toEqual([
      'concept',
      'conbody',
      'ul',
      'li',
    ]);
    const inside = openElements(at('big'));
    expect(
      inside
        .map(({ element }) => element)
        .slice(4)
        .sort(),
    ).toEqual(['b', 'xref']);
    expect(inside.find(({ element }) => element === 'ul')?.attributes).toEqual({
      id: 'list',
      audience: 'operator',
    });
  });
  it('have the names of selected words, when all of them carry them', () => {
    const start = at('it', 0).selection.from;
    const selected = (from: number, to: number): string[] =>
      openElements(EditorState.create({ doc, selection: TextSelection.create(doc, from, to) })).map(
        ({ element }) => element,
      );
    expect(selected(start, start + 2).at(-1)).toBe('term');
    expect(selected(start - 2, start + 2).at(-1)).toBe('li');
  });
  it('end with a selected one', () => {
    let list = 0;
    doc.descendants((node, position) => void (node.type.name === 'ul' && (list = position)));
    expect(
      openElements(EditorState.create({ doc, selection: NodeSelection.create(doc, list) })).at(-1),
    ).toMatchObject({ element: 'ul', position: list });
  });
});

describe('attributes', () => {
  const open = (state: EditorState, element: string) =>
    openElements(state).find((one) => one.element === element)!;
  it('are set on a block that is not the innermost', () => {
    const state = at('See');
    const list = open(state, 'ul');
    expect(
      text(state.apply(withAttributes(state, list, { ...list.attributes, id: 'other' }))),
    ).toContain('<ul id="other" audience="operator">');
  });
  it('are set on all of the named words, also where other names cross them', () => {
    const state = at('big');
    expect(
      text(state.apply(withAttributes(state, open(state, 'xref'), { href: 'topic:b' }))),
    ).toContain('See <xref href="topic:b">the <b>big</b> one</xref> and');
  });
  it('are gone when they are cleared, never empty; only alternative text may be', () => {
    const state = at('See');
    const list = open(state, 'ul');
    expect(
      text(state.apply(withAttributes(state, list, { ...list.attributes, audience: '' }))),
    ).toContain('<ul id="list">');
    expect(
      state.apply(withAttributes(state, list, { alt: '' })).doc.nodeAt(list.position)?.attrs[
        'attributes'
      ],
    ).toEqual({ alt: '' });
  });
  it('are offered as fields: those that are set, unknown ones too, then the others', () => {
    const { set, more } = attributeFields(open(at('See'), 'li'));
    expect(set.map(({ name }) => name)).toEqual(['outputclass', 'gadget']);
    const names = more.map(({ name }) => name);
    expect(names).toContain('id');
    expect(names).not.toContain('audience');
    expect(names).not.toContain('xtrf');
  });
  it('refuse what they cannot be, and an id that is taken', () => {
    const state = at('See');
    const list = open(state, 'ul');
    const refusal = (name: string, value: string): string | undefined =>
      refusalOf(state, list, attributeOf('ul', name)!, value);
    expect(refusal('id', 'p')).toBe('Another element of this topic has this id.');
    expect(refusal('id', 'list')).toBeUndefined();
    expect(refusal('id', '1a')).toContain('begins with a letter');
    expect(refusal('translate', 'maybe')).toBe('It can be yes, no.');
    expect(refusal('translate', '')).toBeUndefined();
    expect(refusal('xml:lang', 'de-AT')).toBeUndefined();
    expect(refusalOf(state, list, { ...attributeOf('ul', 'id')!, required: true }, '')).toContain(
      'needs this',
    );
  });
});
