import fc from 'fast-check';
import { toEditor } from '@ukiyo/core/editing';
import { attributeOf, normalise } from '@ukiyo/core/grammar';
import { isElement, type Element } from '@ukiyo/core/markup';
import { anyElement } from '@ukiyo/core/testing';
import { EditorState, TextSelection } from 'prosemirror-state';
import { canSplit } from 'prosemirror-transform';
import type { DecorationSet } from 'prosemirror-view';
import { describe, expect, it } from 'vitest';
import { drawAll, redraw } from './drawn.ts';
import { drawSigns } from './signs.ts';
import { drawVariation } from './variation.ts';

/** A topic in which elements and words vary. */
const varied = fc
  .tuple(
    anyElement('concept', 5),
    fc.infiniteStream(fc.constantFrom('q', 'd', 'q d', undefined, undefined)),
  )
  .map(([root, values]) => {
    const vary = (found: Element): Element => {
      const product = values.next().value as string | undefined;
      const attributes =
        product === undefined || !attributeOf(found.name, 'product')
          ? found.attributes
          : { ...found.attributes, product };
      return {
        ...found,
        attributes,
        children: found.children.map((child) => (isElement(child) ? vary(child) : child)),
      };
    };
    return vary(root);
  });

const places = (set: DecorationSet): string[] =>
  set
    .find()
    .map(({ from, to, spec }) => `${from}-${to} ${(spec as { key?: string }).key ?? ''}`)
    .sort();

describe('decorations after a change', () => {
  const lens = { name: 'l', rules: [{ facet: 'product', value: 'q', action: 'drop' as const }] };
  it.each([
    ['labels', drawSigns({ labels: true, marks: false })],
    ['marks', drawSigns({ labels: false, marks: true })],
    ['both', drawSigns({ labels: true, marks: true })],
    ['facet values through a lens', drawVariation({ facets: [], tags: true, lens })],
  ])('are those of the new document, whatever was typed, split or deleted: %s', (_what, draw) => {
    fc.assert(
      fc.property(
        varied,
        fc.array(fc.tuple(fc.nat(5000), fc.nat(2), fc.nat(6)), { minLength: 1, maxLength: 8 }),
        (root, acts) => {
          let state = EditorState.create({ doc: toEditor(normalise(root)) });
          let drawn = drawAll(state.doc, draw);
          for (const [at, act, length] of acts) {
            const place = TextSelection.near(state.doc.resolve(at % state.doc.content.size));
            state = state.apply(state.tr.setSelection(place));
            const { tr } = state;
            const transaction =
              act === 0
                ? tr.insertText('a b', place.from)
                : act === 1
                  ? canSplit(tr.doc, place.from)
                    ? tr.split(place.from)
                    : tr
                  : tr.delete(place.from, Math.min(place.from + length, place.$from.end()));
            drawn = redraw(drawn, transaction, draw);
            state = state.apply(transaction);
            expect(places(drawn)).toEqual(places(drawAll(state.doc, draw)));
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});
