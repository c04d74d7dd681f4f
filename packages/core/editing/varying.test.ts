import fc from 'fast-check';
import { EditorState, NodeSelection, TextSelection } from 'prosemirror-state';
import { expect, it } from 'vitest';
import { normalise, topicKinds, validate, writeCanonical } from '../grammar/index.ts';
import { readXml } from '../markup/index.ts';
import { anyElement } from '../testing/index.ts';
import {
  fromEditor,
  toEditor,
  toggleValue,
  valuesOfVarying,
  varyingAt,
  varyingsAt,
} from './index.ts';

const stateOf = (body: string): EditorState =>
  EditorState.create({
    doc: toEditor(
      readXml(`<concept id="c"><title>T</title><conbody>${body}</conbody></concept>`).document!
        .root,
    ),
  });
/** With the words selected. */
function selecting(body: string, words: string): EditorState {
  const state = stateOf(body);
  let from = 0;
  state.doc.descendants((node, position) => {
    const at = node.isText ? node.text!.indexOf(words) : -1;
    if (from === 0 && at !== -1) from = position + at;
  });
  return state.apply(
    state.tr.setSelection(TextSelection.create(state.doc, from, from + words.length)),
  );
}
const caretIn = (body: string, words: string): EditorState => {
  const state = selecting(body, words);
  return state.apply(
    state.tr.setSelection(TextSelection.create(state.doc, state.selection.from + 1)),
  );
};
const set = (state: EditorState, facet: string, value: string): EditorState =>
  state.apply(toggleValue(state, varyingAt(state)!, facet, value));
const bodyOf = (state: EditorState): string =>
  /<conbody>([^]*)<\/conbody>/u
    .exec(writeCanonical(fromEditor(state.doc)))![1]!
    .replace(/\n\s*/gu, '');

it('on the element at the caret, several at once, and taken away again', () => {
  const both = set(set(caretIn('<p>One.</p>', 'One'), 'product', 'q'), 'weather', 'calm');
  expect(bodyOf(both)).toBe('<p product="q" props="weather(calm)">One.</p>');
  expect(valuesOfVarying(varyingAt(both)!, 'weather')).toEqual(['calm']);
  expect(bodyOf(set(set(both, 'product', 'q'), 'weather', 'calm'))).toBe('<p>One.</p>');
});

it('wraps the selected words in a phrase, and unwraps it when it says nothing more', () => {
  const state = selecting('<p>fitted with a pressure sensor</p>', 'pressure');
  expect(varyingAt(state)).toMatchObject({ label: 'The selected words' });
  const one = set(state, 'product', 'q');
  expect(bodyOf(one)).toBe('<p>fitted with a <ph product="q">pressure</ph> sensor</p>');
  expect(varyingAt(one)?.targets).toMatchObject([{ element: 'ph' }]);
  expect(bodyOf(set(one, 'product', 'd'))).toBe(
    '<p>fitted with a <ph product="q d">pressure</ph> sensor</p>',
  );
  expect(bodyOf(set(one, 'product', 'q'))).toBe('<p>fitted with a pressure sensor</p>');
});

it('on several paragraphs together', () => {
  const state = stateOf('<p product="q">One.</p><p>Two.</p><p>Three.</p>');
  const texts: number[] = [];
  state.doc.descendants((node, position) => void (node.isText && texts.push(position)));
  const over = state.apply(
    state.tr.setSelection(TextSelection.create(state.doc, texts[1]! + 1, texts[2]! + 1)),
  );
  expect(valuesOfVarying(varyingAt(over)!, 'product')).toEqual([]);
  const all = set(over, 'product', 'q');
  expect(bodyOf(all)).toBe('<p product="q">One.</p><p product="q">Two.</p><p>Three.</p>');
  expect(bodyOf(set(all, 'product', 'q'))).toBe('<p>One.</p><p>Two.</p><p>Three.</p>');
});

it('on what is around the caret: the cell, its column, its row, the table', () => {
  const table = (cells: string[]): string =>
    '<table><tgroup cols="2">' +
    '<tbody>' +
    cells
      .map(
        (cell, at) =>
          `<row><entry>${at}</entry><entry${cell}>${at === 0 ? 'here' : 'x'}</entry></row>`,
      )
      .join('') +
    '</tbody>' +
    '</tgroup></table>';
  const state = caretIn(table(['', '']), 'here');
  const varyings = varyingsAt(state);
  expect(varyings.map(({ label, targets }) => `${label} ${targets.length}`)).toEqual([
    'Cell 1',
    'Column 2 2',
    'Row 1',
    'Table 1',
    'Concept 1',
  ]);
  const byColumn = state.apply(toggleValue(state, varyings[1]!, 'product', 'q'));
  expect(bodyOf(byColumn)).toBe(table([' product="q"', ' product="q"']));
  const joined = caretIn(
    '<table><tgroup cols="2"><tbody><row><entry>here</entry><entry>a</entry></row><row>' +
      '<entry namest="c1" nameend="c2">b</entry></row></tbody></tgroup></table>',
    'here',
  );
  expect(varyingsAt(joined).map(({ label }) => label)).not.toContain('Column 1');
});

it('on the step, not on its instruction, and on an image that is selected', () => {
  const task = EditorState.create({
    doc: toEditor(
      readXml(
        '<task id="t"><title>T</title><taskbody><steps><step><cmd>Turn.</cmd></step>' +
          '</steps></taskbody></task>',
      ).document!.root,
    ),
  });
  let at = 0;
  task.doc.descendants((node, position) => {
    if (node.isText && node.text === 'Turn.') at = position;
  });
  const inCommand = task.apply(task.tr.setSelection(TextSelection.create(task.doc, at)));
  expect(varyingAt(inCommand)?.targets).toMatchObject([{ element: 'step' }]);
  const withImage = stateOf('<p>See <image href="asset:i"/></p>');
  let image = 0;
  withImage.doc.descendants((node, position) => {
    if (node.type.name === 'image') image = position;
  });
  const selected = withImage.apply(
    withImage.tr.setSelection(NodeSelection.create(withImage.doc, image)),
  );
  expect(bodyOf(set(selected, 'product', 'q'))).toBe(
    '<p>See <image href="asset:i" product="q"/></p>',
  );
});

it('anywhere in any topic without making it invalid, and undone by the same again', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...topicKinds),
      fc.gen(),
      fc.nat(10_000),
      fc.nat(8),
      (kind, gen, at, length) => {
        const root = normalise(gen(anyElement, kind, 4));
        const start = EditorState.create({ doc: toEditor(root) });
        const near = TextSelection.near(start.doc.resolve(at % (start.doc.content.size + 1)));
        fc.pre(near.$from.parent.isTextblock);
        const placed = start.apply(
          start.tr.setSelection(
            TextSelection.create(
              start.doc,
              near.from,
              Math.min(near.$from.end(), near.from + length),
            ),
          ),
        );
        const varying = varyingAt(placed);
        fc.pre(varying !== undefined && valuesOfVarying(varying, 'weather').length === 0);
        const changed = set(placed, 'weather', 'calm');
        changed.doc.check();
        expect(validate(fromEditor(changed.doc)).length).toBeLessThanOrEqual(validate(root).length);
        expect(valuesOfVarying(varyingAt(changed)!, 'weather')).toEqual(['calm']);
        // A phrase that had no attributes before gives its words back too.
        if (!varying.words && varying.targets.every(({ element }) => element !== 'ph'))
          expect(writeCanonical(fromEditor(set(changed, 'weather', 'calm').doc))).toBe(
            writeCanonical(fromEditor(placed.doc)),
          );
      },
    ),
    { numRuns: 200 },
  );
});
