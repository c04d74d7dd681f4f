import {
  choicesAt,
  fromEditor,
  openElements,
  pathOf,
  refusalOf,
  stepTo,
  withAttributes,
  type Choice,
  type OpenElement,
} from '@ukiyo/core/editing';
import type { AttributeDefinition } from '@ukiyo/core/grammar';
import { conrefSourceOf } from '@ukiyo/core/library';
import type { Attributes, Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import {
  NodeSelection,
  Selection,
  TextSelection,
  type EditorState,
  type Transaction,
} from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { onUnmounted, ref, shallowRef } from 'vue';
import { arrive } from './arrivals.ts';
import { nodeAttributes, readAgain } from './borrowed.ts';
import { dressSchema } from './dom.ts';
import type { Opening } from './live/client.ts';
import { showSigns, type Signs } from './signs.ts';
import { createTopicView, nodeViewsOf, type EditorHandlers } from './topicView.ts';
import { useChecking } from './useChecking.ts';
import { showVariables } from './variables.ts';
import { showVariation, type Variation } from './variation.ts';

const sameElement = (a: OpenElement, b: OpenElement): boolean =>
  a.element === b.element &&
  a.position === b.position &&
  a.end === b.end &&
  a.attributes === b.attributes;

/** Goes to an element, or to the nearest one around it that the page has. */
function goTo(view: EditorView, path: Path): void {
  const { doc } = view.state;
  const positions = new Map<string, number>();
  fromEditor(doc, (at, position) => positions.set(at.join('.'), position));
  for (let length = path.length; length >= 0; length -= 1) {
    const position = positions.get(path.slice(0, length).join('.'));
    if (position === undefined) continue;
    const $position = doc.resolve(Math.min(position + 1, doc.content.size));
    view.dispatch(view.state.tr.setSelection(Selection.near($position, 1)).scrollIntoView());
    view.focus();
    return;
  }
}

/** Puts the caret into the first place that waits for words, or at the beginning. */
function enter(view: EditorView, targetOf: EditorHandlers['targetOf']): void {
  const { doc, tr } = view.state;
  let place = 1;
  doc.descendants((node, position) => {
    // What is borrowed is written at its home.
    if (conrefSourceOf(nodeAttributes(node), targetOf) !== undefined) return false;
    if (place === 1 && node.isTextblock && node.content.size === 0) place = position + 1;
    return place === 1;
  });
  view.dispatch(tr.setSelection(Selection.near(doc.resolve(place), 1)));
  view.focus();
}

/** Selects a block whole, and the words that carry a name. */
function select(view: EditorView, { position, end }: OpenElement): void {
  const { doc, tr } = view.state;
  const selection =
    end === undefined
      ? NodeSelection.create(doc, position)
      : TextSelection.create(doc, position, end);
  view.dispatch(tr.setSelection(selection).scrollIntoView());
  view.focus();
}

/** Changes the tree of the whole topic, as one step that can be undone. */
function changeRoot(view: EditorView, change: (root: Element) => Element): void {
  const step = stepTo(view.state.doc, change(fromEditor(view.state.doc)));
  if (step) view.dispatch(view.state.tr.step(step));
}

/**
 * Draws variables again, and images too: a key or an alternate may now choose another file for
 * them.
 */
function redrawAnswers(view: EditorView, handlers: EditorHandlers): void {
  arrive(view, showVariables);
  let hasPictures = false;
  view.state.doc.descendants((node) => {
    hasPictures ||= node.type.spec.element === 'image';
    return !hasPictures;
  });
  if (hasPictures) view.setProps({ nodeViews: nodeViewsOf(handlers) });
}

/** What is done on a page; nothing of it happens while no page is open. */
function commandsOn(page: () => EditorView | undefined, handlers: EditorHandlers) {
  const on =
    <A extends unknown[]>(command: (view: EditorView, ...rest: A) => void) =>
    (...rest: A): void => {
      const view = page();
      if (view) command(view, ...rest);
    };
  return {
    goTo: on(goTo),
    enter: on((view) => enter(view, handlers.targetOf)),
    select: on(select),
    changeRoot: on(changeRoot),
    setAttributes: on((view, target: OpenElement, attributes: Attributes) =>
      view.dispatch(withAttributes(view.state, target, attributes)),
    ),
    apply: on((view, change: (state: EditorState) => Transaction) => {
      view.dispatch(change(view.state));
      view.focus();
    }),
    sign: on((view, signs: Signs) => arrive(view, (state) => showSigns(state, signs))),
    vary: on((view, variation: Variation) =>
      arrive(view, (state) => showVariation(state, variation)),
    ),
    readBorrowedAgain: on((view) => arrive(view, readAgain)),
    /** Variables show what they say by now. */
    showWords: on((view) => arrive(view, showVariables)),
    tellAgain: on((view) => redrawAnswers(view, handlers)),
  };
}

/**
 * The writer's page as a composable: opens a topic, tells where the caret is, what is wrong and
 * what can go here.
 */
export function useEditor(handlers: EditorHandlers) {
  dressSchema();
  const view = shallowRef<EditorView>();
  const open = shallowRef<readonly OpenElement[]>([]);
  /** Counts what has changed on the page, for what is laid beside it. */
  const drawn = ref(0);
  const checking = useChecking(handlers.isMissing);
  let self = '';

  /** Panels are drawn again only when other elements are open: not at each key. */
  function look({ state }: EditorView): void {
    const now = openElements(state);
    const isSame =
      now.length === open.value.length &&
      now.every((one, index) => sameElement(one, open.value[index]!));
    if (!isSame) open.value = now;
  }
  function applied(shown: EditorView, transaction: Transaction): void {
    look(shown);
    if (transaction.docChanged) {
      drawn.value += 1;
      handlers.changed(transaction.mapping.maps);
      checking.follow(transaction.steps);
    } else if (transaction.selectionSet) handlers.moved();
  }
  function show(mount: HTMLElement, id: string, opening: Opening): void {
    const caret = view.value?.state.selection.head ?? 1;
    view.value?.destroy();
    view.value = createTopicView(mount, { id, opening, caret, handlers, applied });
    look(view.value);
    self = id;
    checkAgain();
  }
  /** Checks against what the team has agreed on by now. */
  function checkAgain(): void {
    const shown = view.value;
    if (!shown) return;
    const about = { self, facets: handlers.facets(), rules: handlers.rules() };
    void checking.open(() => shown.state.doc, about);
  }
  function clear(): void {
    view.value?.destroy();
    view.value = undefined;
    open.value = [];
    checking.close();
  }
  /** The topic as it stands on the page. */
  const read = (): Element | undefined => view.value && fromEditor(view.value.state.doc);
  const choices = (): Choice[] =>
    view.value
      ? choicesAt(view.value.state, handlers.rules(), handlers.isTemplate(), handlers.hasCopied())
      : [];
  const pathTo = ({ position, end }: OpenElement): Path | undefined =>
    view.value && end === undefined ? pathOf(view.value.state.doc, position) : undefined;
  const refusal = (
    target: OpenElement,
    definition: AttributeDefinition,
    value: string,
  ): string | undefined => view.value && refusalOf(view.value.state, target, definition, value);

  onUnmounted(clear);
  return {
    ...commandsOn(() => view.value, handlers),
    view,
    open,
    drawn,
    problems: checking.problems,
    words: checking.words,
    show,
    clear,
    read,
    refusal,
    pathTo,
    lookForTargets: checking.lookAgain,
    checkAgain,
    choices,
  };
}
