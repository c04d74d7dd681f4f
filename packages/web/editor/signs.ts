import { special } from '@ukiyo/core/editing';
import { labelOf } from '@ukiyo/core/grammar';
import type { Attributes } from '@ukiyo/core/markup';
import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey, type EditorState } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { drawAll, redraw, type Draw } from './drawn.ts';

/** What is shown beside the words themselves. */
export interface Signs {
  /** Where each element starts and ends, with its attributes. */
  readonly labels: boolean;
  /** Spaces, breaks and paragraph ends. */
  readonly marks: boolean;
}

interface State extends Signs {
  readonly decorations: DecorationSet;
}
const key = new PluginKey<State>('signs');
/** Parts of a table hold nothing but parts of a table on a page. */
const holdsOnlyParts = new Set([
  'table',
  'tgroup',
  'thead',
  'tbody',
  'row',
  'simpletable',
  'sthead',
  'strow',
  'properties',
  'prophead',
  'property',
  'choicetable',
  'chhead',
  'chrow',
]);

function chip(text: string, className: string): () => HTMLElement {
  return () => {
    const dom = document.createElement('span');
    dom.className = `sign ${className}`;
    dom.contentEditable = 'false';
    dom.textContent = text;
    // Screen readers hear the structure from the foot line and the ladder.
    dom.setAttribute('aria-hidden', 'true');
    return dom;
  };
}

const written = (attributes: Attributes): string =>
  Object.entries(attributes)
    .map(([name, value]) => ` ${name} = ${value}`)
    .join(',');

function labelsOf(node: Node, position: number): Decoration[] {
  const { element } = node.type.spec;
  if (
    element === undefined ||
    node.isAtom ||
    node.type.name === special.line ||
    holdsOnlyParts.has(element)
  )
    return [];
  const start = `${labelOf(element)}${written((node.attrs['attributes'] ?? {}) as Attributes)}`;
  const end = position + node.nodeSize - 1;
  return [
    Decoration.widget(position + 1, chip(start, 'starts'), {
      side: -2,
      key: `starts ${start}`,
      ignoreSelection: true,
    }),
    Decoration.widget(end, chip(labelOf(element), 'ends'), {
      side: 2,
      key: `ends ${element}`,
      ignoreSelection: true,
    }),
  ];
}

function marksOf(node: Node, position: number): Decoration[] {
  if (node.isTextblock)
    return [
      Decoration.widget(position + node.nodeSize - 1, chip('¶', 'pilcrow'), {
        side: 1,
        key: 'pilcrow',
        ignoreSelection: true,
      }),
    ];
  if (!node.isText) return [];
  return [...(node.text ?? '').matchAll(/[ \u00A0\n]/gu)].map(({ index, 0: found }) =>
    Decoration.inline(position + index, position + index + 1, {
      class: found === '\n' ? 'shown-break' : found === ' ' ? 'shown-space' : 'shown-hard-space',
    }),
  );
}

/** What is drawn at one node. */
export const drawSigns =
  ({ labels, marks }: Signs): Draw =>
  (node, position) => [
    ...(labels ? labelsOf(node, position) : []),
    ...(marks ? marksOf(node, position) : []),
  ];

const nothing = ({ labels, marks }: Signs): boolean => !labels && !marks;

/** Shows signs on the page without changing what is written. */
export function pageSigns(first: Signs): Plugin {
  const drawn = (document: Node, signs: Signs): State => ({
    labels: signs.labels,
    marks: signs.marks,
    decorations: nothing(signs) ? DecorationSet.empty : drawAll(document, drawSigns(signs)),
  });
  return new Plugin<State>({
    key,
    state: {
      init: (_config, { doc }) => drawn(doc, first),
      apply(transaction, state) {
        const signs = transaction.getMeta(key) as Signs | undefined;
        if (signs) return drawn(transaction.doc, signs);
        return transaction.docChanged && !nothing(state)
          ? { ...state, decorations: redraw(state.decorations, transaction, drawSigns(state)) }
          : state;
      },
    },
    props: { decorations: (state: EditorState) => key.getState(state)?.decorations },
  });
}

export const showSigns = (state: EditorState, signs: Signs) => state.tr.setMeta(key, signs);
