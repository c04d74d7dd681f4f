import { judge, tagsOf, type Facet, type FacetTag, type Lens } from '@ukiyo/core/facets';
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

const attributesOf = (holder: Node | Mark): Attributes => (holder.attrs['attributes'] ?? {}) as Attributes;
const lettersOf = (tags: readonly FacetTag[]): string => tags.map(({ letters }) => letters).join(' ');

/** One stripe of each pigment, under each other. */
function stripesOf(tags: readonly FacetTag[]): string {
  const stops = tags.map(({ pigment }, at) => `var(--${pigment}) ${(at / tags.length) * 100}% ${((at + 1) / tags.length) * 100}%`);
  return `linear-gradient(to bottom, ${stops.join(', ')})`;
}

const look =
  ({ facets, tags: isShown, lens }: Variation) =>
  (attributes: Attributes): { readonly tags: readonly FacetTag[]; readonly classes: readonly string[] } => {
    const tags = isShown ? tagsOf(attributes, facets) : [];
    const { kept, marked } = judge(attributes, lens, facets);
    return { tags, classes: [...(tags.length > 0 ? ['varies'] : []), ...(kept ? [] : ['unseen']), ...(marked ? ['lens-marked'] : [])] };
  };

/** What is drawn at one node: on blocks as a whole, on words piece by piece, with the letters where the words end. */
export function drawVariation(variation: Variation): Draw {
  const lookOf = look(variation);
  const shown = (tags: readonly FacetTag[], letters: string): Record<string, string> =>
    tags.length === 0
      ? {}
      : { style: `--pigment: var(--${tags[0]!.pigment}); --stripes: ${stripesOf(tags)}`, title: tags.map(({ label }) => label).join(', '), ...(letters === '' ? {} : { 'data-letters': letters }) };
  return (node, position, parent, index) => {
    const end = position + node.nodeSize;
    const next = parent && index + 1 < parent.childCount ? parent.child(index + 1) : undefined;
    const onWords = node.isInline
      ? node.marks.flatMap((mark) => {
          const { tags, classes } = lookOf(attributesOf(mark));
          if (classes.length === 0) return [];
          const isLast = !next || !mark.isInSet(next.marks);
          return [Decoration.inline(position, end, { class: classes.join(' '), ...shown(tags, isLast ? lettersOf(tags) : '') })];
        })
      : [];
    if (node.isText) return onWords;
    const { tags, classes } = lookOf(attributesOf(node));
    return classes.length === 0 ? onWords : [...onWords, Decoration.node(position, end, { class: classes.join(' '), ...shown(tags, lettersOf(tags)) })];
  };
}

/** Shows by what the content varies, and which of it a lens drops. */
export function variationMarks(first: Variation): Plugin {
  const drawn = (document: Node, variation: Variation): State => ({ ...variation, decorations: drawAll(document, drawVariation(variation)) });
  return new Plugin<State>({
    key,
    state: {
      init: (_config, { doc }) => drawn(doc, first),
      apply(transaction, state) {
        const variation = transaction.getMeta(key) as Variation | undefined;
        if (variation) return drawn(transaction.doc, variation);
        return transaction.docChanged ? { ...state, decorations: redraw(state.decorations, transaction, drawVariation(state)) } : state;
      },
    },
    props: { decorations: (state: EditorState) => key.getState(state)?.decorations },
  });
}

export const showVariation = (state: EditorState, variation: Variation): Transaction => state.tr.setMeta(key, variation);
