import fc from 'fast-check';
import { EditorState } from 'prosemirror-state';
import { describe, expect, it } from 'vitest';
import { normalise, validate, writeCanonical } from '../grammar/index.ts';
import { readXml, textOf } from '../markup/index.ts';
import { anyElement } from '../testing/index.ts';
import { dropPlaces, fromEditor, moveElementTo, structureGuard, toEditor } from './index.ts';

const stateOf = (inside: string): EditorState =>
  EditorState.create({
    doc: toEditor(
      normalise(
        readXml(`<concept id="c"><title>T</title><conbody>${inside}</conbody></concept>`).document!
          .root,
      ),
    ),
  });
/** Where the block begins whose text is exactly this. */
function blockOf({ doc }: EditorState, text: string, element?: string): number {
  let found = -1;
  doc.descendants((node, position) => {
    if (
      node.isBlock &&
      node.textContent === text &&
      node.type.name !== 'txt' &&
      (element === undefined || node.type.spec.element === element)
    )
      found = position;
  });
  return found;
}
const short = (state: EditorState): string =>
  /<conbody>(.*)<\/conbody>/su
    .exec(writeCanonical(fromEditor(state.doc)))![1]!
    .replace(/\s*\n\s*/gu, '');

describe('an element that is taken somewhere by hand', () => {
  it('goes between others, also into another parent', () => {
    const state = stateOf('<p>a</p><p>b</p><section><title>S</title><p>c</p></section>');
    const end = blockOf(state, 'c') + 3;
    expect(short(state.apply(moveElementTo(state, blockOf(state, 'a'), end)!))).toBe(
      '<p>b</p><section><title>S</title><p>c</p><p>a</p></section>',
    );
  });
  it('goes from list to list', () => {
    const state = stateOf('<ul><li>a</li><li>b</li></ul><ol><li>c</li></ol>');
    const places = dropPlaces(state, blockOf(state, 'a', 'li'), blockOf(state, 'c', 'li') + 2);
    expect(short(state.apply(moveElementTo(state, blockOf(state, 'a', 'li'), places[0]!)!))).toBe(
      '<ul><li>b</li></ul><ol><li>a</li><li>c</li></ol>',
    );
  });
  it('stays where its parent needs it, and out of what may not hold it', () => {
    const state = stateOf(
      '<ul><li>only</li></ul><ol><li>c</li></ol><section><title>S</title></section>',
    );
    expect(dropPlaces(state, blockOf(state, 'only', 'li'), blockOf(state, 'c', 'li') + 2)).toEqual(
      [],
    );
    expect(dropPlaces(state, blockOf(state, 'S', 'title'), 3)).toEqual([]);
    expect(
      moveElementTo(state, blockOf(state, 'only', 'li'), blockOf(state, 'only', 'li') + 1),
    ).toBeUndefined();
  });
  it('never makes a topic invalid or loses a word, wherever it goes', () => {
    fc.assert(
      fc.property(
        fc.gen(),
        fc.constantFrom('concept', 'task', 'reference'),
        fc.record({ from: fc.nat(10_000), at: fc.nat(10_000), pick: fc.nat(9) }),
        (gen, kind, { from, at, pick }) => {
          const root = normalise(gen(anyElement, kind, 4));
          const state = EditorState.create({ doc: toEditor(root), plugins: [structureGuard] });
          const size = state.doc.content.size;
          const blocks: number[] = [];
          state.doc.descendants((node, position) => void (node.isBlock && blocks.push(position)));
          const block = blocks[from % blocks.length]!;
          const places = dropPlaces(state, block, at % (size + 1));
          fc.pre(places.length > 0);
          const { doc } = state.apply(moveElementTo(state, block, places[pick % places.length]!)!);
          doc.check();
          const errors = (tree: typeof root): number =>
            validate(tree).filter(({ severity }) => severity === 'error').length;
          expect(errors(fromEditor(doc))).toBeLessThanOrEqual(errors(root));
          const letters = (tree: typeof root): string =>
            Array.from(textOf(tree).replace(/\s/gu, '')).sort().join('');
          expect(letters(fromEditor(doc))).toBe(letters(root));
        },
      ),
      { numRuns: 300 },
    );
  });
});
