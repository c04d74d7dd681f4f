import { canLink, linkAttributes, linkTo } from '@ukiyo/core/editing';
import { labelOf } from '@ukiyo/core/grammar';
import {
  elementById,
  linkFormOf,
  linkTargets,
  readItem,
  readReference,
  type LinkForm,
  type Reference,
} from '@ukiyo/core/library';
import type { Attributes } from '@ukiyo/core/markup';
import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey, TextSelection } from 'prosemirror-state';
import { Decoration, DecorationSet, type EditorProps, type EditorView } from 'prosemirror-view';
import { arrive } from './arrivals.ts';
import type { ReadText } from './borrowed.ts';
import { differenceOf, drawAll, redraw, type Draw } from './drawn.ts';

/** The type under which a topic is dragged onto a page. */
export const draggedTopic = 'application/x-ukiyo-topic';

export interface LinkHost {
  /** What the library has under an id. */
  readonly find: (
    id: string,
  ) => Promise<
    { readonly type: string; readonly title: string; readonly shortDescription: string } | undefined
  >;
  readonly read: ReadText;
  /** Shows the chooser; what was typed to ask for it begins at `from`. */
  readonly choose: (from: number) => void;
  readonly follow: (reference: Reference) => void;
}

/** What a reference leads to, in words; none when it leads nowhere. */
interface LinkTarget {
  readonly words?: string;
  /** Of a term in the glossary. */
  readonly definition?: string;
}
interface State {
  readonly targets: ReadonlyMap<string, LinkTarget>;
  readonly decorations: DecorationSet;
}
const key = new PluginKey<State>('links');

const linking = new Set(['xref', 'term', 'cite', 'abbreviated-form']);
function linkOf(node: Node): Attributes | undefined {
  const holder = linking.has(node.type.spec.element ?? '')
    ? node
    : node.marks.find((mark) => linking.has(mark.type.spec.element ?? ''));
  return holder?.attrs['attributes'] as Attributes | undefined;
}
/**
 * A key is known only in a map; an entry of the glossary of that name is what it most likely means.
 */
const referenceOf = (node: Node): string | undefined => {
  const { href, keyref } = linkOf(node) ?? {};
  return href ?? (keyref === undefined ? undefined : `${ofKey}${keyref}`);
};
const ofKey = 'key:';
/** What numbers and pages will be is known only in a publication. */
const inForm: Readonly<Record<LinkForm, (words: string) => string>> = {
  usual: (words) => words,
  title: (words) => words,
  number: (words) => `№ ${words}`,
  page: (words) => `page of ${words}`,
};

const draw =
  (targets: State['targets']): Draw =>
  (node, position) => {
    const reference = node.isInline ? referenceOf(node) : undefined;
    const known = reference === undefined ? undefined : targets.get(reference);
    if (!known) return [];
    const attributes = {
      class: known.words === undefined ? 'link-broken' : 'link-whole',
      title: known.definition ?? known.words ?? `${reference}: not in the library`,
      'data-shown':
        known.words === undefined
          ? (reference ?? '')
          : inForm[linkFormOf(linkOf(node) ?? {})](known.words),
    };
    return [
      node.isText
        ? Decoration.inline(position, position + node.nodeSize, attributes)
        : Decoration.node(position, position + node.nodeSize, attributes),
    ];
  };

/** What a reference leads to, in words. @param self the topic in which it stands */
async function findTarget(reference: string, self: string, host: LinkHost): Promise<LinkTarget> {
  const key = reference.startsWith(ofKey) ? reference.slice(ofKey.length) : undefined;
  const target =
    key === undefined ? readReference(reference, self) : { kind: 'item' as const, id: key };
  if (target.kind === 'external') return { words: target.href };
  if (target.kind !== 'item') return {};
  const item = await host.find(target.id);
  if (key !== undefined && item?.type !== 'glossentry') return { words: key };
  const title = target.id === self ? '' : item?.title;
  if (title === undefined) return {};
  if (target.element !== undefined)
    return findPart({ id: target.id, element: target.element, title, reference }, host);
  return item?.type === 'glossentry'
    ? { words: title, definition: `${title}: ${item.shortDescription}` }
    : { words: title };
}

/** What a reference into a topic leads to. */
async function findPart(
  part: {
    readonly id: string;
    readonly element: string;
    readonly title: string;
    readonly reference: string;
  },
  { read }: LinkHost,
): Promise<LinkTarget> {
  try {
    const { text, kind } = await read(part.id);
    const { root } = readItem(part.id, kind, text);
    const found = root && elementById(root, part.element)?.element;
    const place =
      found && linkTargets(root).find(({ id }) => elementById(root, id)?.element === found);
    return place ? { words: place.title || `${labelOf(place.element)} in “${part.title}”` } : {};
  } catch {
    return { words: part.reference };
  }
}

/** A topic that is dropped on the page becomes a link, where one can stand. */
function dropTopic(view: EditorView, event: DragEvent): boolean {
  const id = event.dataTransfer?.getData(draggedTopic) ?? '';
  const at =
    id === '' ? undefined : view.posAtCoords({ left: event.clientX, top: event.clientY })?.pos;
  if (at === undefined) return false;
  view.dispatch(view.state.tr.setSelection(TextSelection.near(view.state.doc.resolve(at))));
  if (canLink(view.state)) view.dispatch(linkTo(view.state, linkAttributes(`topic:${id}`) ?? {}));
  return true;
}

/** What is done at links: asked for at `[[`, followed with Ctrl, and made of dropped topics. */
function linkProps(self: string, host: LinkHost): EditorProps {
  const followAt = (node: Node | null | undefined): boolean => {
    const reference = node ? referenceOf(node) : undefined;
    if (reference !== undefined)
      host.follow(readReference(reference.replace(ofKey, 'topic:'), self));
    return reference !== undefined;
  };
  return {
    handleTextInput(view, from, to, text) {
      const before = from > 0 ? view.state.doc.textBetween(from - 1, from, '', '') : '';
      if (text !== '[' || before !== '[' || from !== to || !canLink(view.state)) return false;
      view.dispatch(view.state.tr.insertText(text, from, to));
      host.choose(from - 1);
      return true;
    },
    handleKeyDown(view, event) {
      if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return false;
      const { $from } = view.state.selection;
      return followAt($from.nodeBefore) || followAt($from.nodeAfter) || followAt($from.parent);
    },
    handleClick: (view, position, event) =>
      (event.ctrlKey || event.metaKey) && followAt(view.state.doc.nodeAt(position)),
    handleDrop: dropTopic,
  };
}

/**
 * Shows with every link the title of its target, marks those that lead nowhere, asks for a target
 * at `[[`, takes dropped topics, follows links.
 */
export function links(self: string, host: LinkHost): Plugin<State> {
  const asked = new Set<string>();
  const look = (view: EditorView, from: number, to: number): void =>
    view.state.doc.nodesBetween(from, to, (node) => {
      const reference = referenceOf(node);
      if (reference === undefined || asked.has(reference)) return;
      asked.add(reference);
      findTarget(reference, self, host).then(
        (target) => {
          arrive(view, (state) => state.tr.setMeta(key, [reference, target]));
        },
        // Without an answer it is asked again when the page is next drawn there.
        () => asked.delete(reference),
      );
    });
  return new Plugin<State>({
    key,
    state: {
      init: () => ({ targets: new Map(), decorations: DecorationSet.empty }),
      apply(transaction, state) {
        const found = transaction.getMeta(key) as [string, LinkTarget] | undefined;
        if (found) {
          const targets = new Map(state.targets).set(...found);
          return { targets, decorations: drawAll(transaction.doc, draw(targets)) };
        }
        return transaction.docChanged
          ? { ...state, decorations: redraw(state.decorations, transaction, draw(state.targets)) }
          : state;
      },
    },
    view(view) {
      look(view, 0, view.state.doc.content.size);
      return {
        update(_view, before) {
          const range =
            before.doc === view.state.doc ? undefined : differenceOf(before.doc, view.state.doc);
          if (range) look(view, range.from, range.to);
        },
      };
    },
    props: {
      ...linkProps(self, host),
      decorations: (state) => key.getState(state)?.decorations,
    },
  });
}
