import fc from 'fast-check';
import { toEditor } from '@ukiyo/core/editing';
import { normalise } from '@ukiyo/core/grammar';
import { anyElement } from '@ukiyo/core/testing';
import { EditorState, TextSelection } from 'prosemirror-state';
import { splitBlock } from 'prosemirror-commands';
import type { DecorationSet } from 'prosemirror-view';
import { describe, expect, it } from 'vitest';
import { drawAll, redraw } from './drawn.ts';
import { drawSigns } from './signs.ts';

const places = (set: DecorationSet): string[] =>
  set
    .find()
    .map(({ from, to, spec }) => `${from}-${to} ${(spec as { key?: string }).key ?? ''}`)
    .sort();

describe('decorations after a change', () => {
  it.each([
    { labels: true, marks: false },
    { labels: false, marks: true },
    { labels: true, marks: true },
  ])('are those of the new document, whatever was typed, split or deleted (%o)', (signs) => {
    const draw = drawSigns(signs);
    fc.assert(
      fc.property(anyElement('concept', 5), fc.array(fc.tuple(fc.nat(5000), fc.nat(2), fc.nat(6)), { minLength: 1, maxLength: 8 }), (root, acts) => {
        let state = EditorState.create({ doc: toEditor(normalise(root)) });
        let drawn = drawAll(state.doc, draw);
        for (const [at, act, length] of acts) {
          const place = TextSelection.near(state.doc.resolve(at % state.doc.content.size));
          const { tr } = state.apply(state.tr.setSelection(place));
          state = state.apply(state.tr.setSelection(place));
          let transaction = tr;
          if (act === 0) transaction = state.tr.insertText('a b', place.from);
          else if (act === 1) splitBlock(state, (made) => (transaction = made));
          else transaction = state.tr.delete(place.from, Math.min(place.from + length, place.$from.end()));
          drawn = redraw(drawn, transaction, draw);
          state = state.apply(transaction);
          expect(places(drawn)).toEqual(places(drawAll(state.doc, draw)));
        }
      }),
      { numRuns: 60 },
    );
  });
});
