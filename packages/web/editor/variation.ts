import {
  evaluateProfile,
  letterDeclarations,
  tagsOf,
  type Facet,
  type FacetTag,
  type Lens,
  type MarkLook,
} from '@ukiyo/core/facets';
import type { Attributes } from '@ukiyo/core/markup';
import type { Mark, Node } from 'prosemirror-model';
import { Plugin, PluginKey, type EditorState, type Transaction } from 'prosemirror-state';
import { Decoration, type DecorationSet } from 'prosemirror-view';
import { drawAll, redraw, type Draw } from './drawn.ts';

/** How content that varies is shown: with its facet values beside it, and as a lens leaves it. */
export interface Variation {
  readonly facets: readonly Facet[];
  /** Whether the values are shown. */
  readonly tags: boolean;
  readonly lens: Lens | undefined;
}
interface State extends Variation {
  readonly decorations: DecorationSet;
}
const key = new PluginKey<State>('variation');

const attributesOf = (holder: Node | Mark): Attributes =>
  (holder.attrs['attributes'] ?? {}) as Attributes;
const lettersOf = (tags: readonly FacetTag[]): string =>
  tags.map(({ letters }) => letters).join(' ');

/** One stripe of each pigment, under each other. */
function stripesOf(tags: readonly FacetTag[]): string {
  const stops = tags.map(
    ({ pigment }, at) =>
      `var(--${pigment}) ${(at / tags.length) * 100}% ${((at + 1) / tags.length) * 100}%`,
  );
  return `linear-gradient(to bottom, ${stops.join(', ')})`;
}

const look =
  ({ facets, tags: isShown, lens }: Variation) =>
  (
    attributes: Attributes,
  ): {
    readonly tags: readonly FacetTag[];
    readonly classes: readonly string[];
    readonly marked: MarkLook | undefined;
  } => {
    const tags = isShown ? tagsOf(attributes, facets) : [];
    const { kept, marked } = evaluateProfile(attributes, lens, facets);
    return {
      tags,
      marked,
      classes: [
        ...(tags.length > 0 ? ['varies'] : []),
        ...(kept ? [] : ['unseen']),
        ...(marked ? ['lens-marked', ...(marked.bar === true ? ['lens-bar'] : [])] : []),
      ],
    };
  };

/** Words that a lens sets before or after what it marks; no part of the text. */
function lensWords(
  position: number,
  words: string | undefined,
  side: 'starts' | 'ends',
): Decoration[] {
  if (words === undefined) return [];
  const draw = (): HTMLElement => {
    const dom = document.createElement('span');
    dom.className = `lens-words ${side}`;
    dom.contentEditable = 'false';
    dom.textContent = words;
    return dom;
  };
  return [
    Decoration.widget(position, draw, {
      side: side === 'starts' ? -1 : 1,
      key: `${side} ${words}`,
      ignoreSelection: true,
    }),
  ];
}

/**
 * What is drawn at one node: on blocks as a whole, on words piece by piece, with the letters where
 * the words end.
 */
export function drawVariation(variation: Variation): Draw {
  const lookOf = look(variation);
  const shown = (
    tags: readonly FacetTag[],
    letters: string,
    marked: MarkLook | undefined,
  ): Record<string, string> => {
    const style = [
      ...(tags.length === 0
        ? []
        : [`--pigment: var(--${tags[0]!.pigment})`, `--stripes: ${stripesOf(tags)}`]),
      ...letterDeclarations(marked?.letters),
      ...(marked?.color === undefined ? [] : [`color: ${marked.color}`]),
      ...(marked?.background === undefined
        ? []
        : [`background: color-mix(in srgb, ${marked.background} 70%, transparent)`]),
    ];
    return {
      ...(style.length === 0 ? {} : { style: style.join('; ') }),
      ...(tags.length === 0 ? {} : { title: tags.map(({ label }) => label).join(', ') }),
      ...(letters === '' ? {} : { 'data-letters': letters }),
    };
  };
  return (node, position, parent, index) => {
    const end = position + node.nodeSize;
    const next = parent && index + 1 < parent.childCount ? parent.child(index + 1) : undefined;
    const onWords = node.isInline
      ? node.marks.flatMap((mark) => {
          const { tags, classes, marked } = lookOf(attributesOf(mark));
          if (classes.length === 0) return [];
          const isLast = !next || !mark.isInSet(next.marks);
          const isFirst = !parent || index === 0 || !mark.isInSet(parent.child(index - 1).marks);
          const words = {
            ...(isFirst && marked?.start !== undefined
              ? { 'data-starts': `${marked.start} ` }
              : {}),
            ...(isLast && marked?.end !== undefined ? { 'data-ends': ` ${marked.end}` } : {}),
          };
          return [
            Decoration.inline(position, end, {
              class: classes.join(' '),
              ...shown(tags, isLast ? lettersOf(tags) : '', marked),
              ...words,
            }),
          ];
        })
      : [];
    if (node.isText) return onWords;
    const { tags, classes, marked } = lookOf(attributesOf(node));
    if (classes.length === 0) return onWords;
    const words = node.isLeaf
      ? []
      : [
          ...lensWords(position + 1, marked?.start, 'starts'),
          ...lensWords(end - 1, marked?.end, 'ends'),
        ];
    return [
      ...onWords,
      ...words,
      Decoration.node(position, end, {
        class: classes.join(' '),
        ...shown(tags, lettersOf(tags), marked),
      }),
    ];
  };
}

/** Shows by what the content varies, and which of it a lens drops. */
export function variationMarks(first: Variation): Plugin {
  const drawn = (document: Node, variation: Variation): State => ({
    ...variation,
    decorations: drawAll(document, drawVariation(variation)),
  });
  return new Plugin<State>({
    key,
    state: {
      init: (_config, { doc }) => drawn(doc, first),
      apply(transaction, state) {
        const variation = variationOf(transaction);
        if (variation) return drawn(transaction.doc, variation);
        return transaction.docChanged
          ? { ...state, decorations: redraw(state.decorations, transaction, drawVariation(state)) }
          : state;
      },
    },
    props: { decorations: (state: EditorState) => key.getState(state)?.decorations },
  });
}

/** What is looked at is another now. */
export const variationOf = (transaction: Transaction): Variation | undefined =>
  transaction.getMeta(key) as Variation | undefined;
export const showVariation = (state: EditorState, variation: Variation): Transaction =>
  state.tr.setMeta(key, variation);
