import {
  alternativeAt,
  applySteps,
  changesStructure,
  choicesAt,
  fromEditor,
  liveEditing,
  mediaAt,
  noteAt,
  openElements,
  pathOf,
  refusalOf,
  special,
  stepTo,
  withAttributes,
  type Choice,
  type OpenElement,
} from '@ukiyo/core/editing';
import type { Facet } from '@ukiyo/core/facets';
import type { AttributeDefinition } from '@ukiyo/core/grammar';
import type { Attributes, Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import type { HouseRule } from '@ukiyo/core/rules';
import { closeHistory, history } from 'prosemirror-history';
import {
  EditorState,
  NodeSelection,
  Selection,
  TextSelection,
  type Transaction,
} from 'prosemirror-state';
import type { StepMap } from 'prosemirror-transform';
import { EditorView } from 'prosemirror-view';
import { onUnmounted, ref, shallowRef } from 'vue';
import { forceLayoutNearCaret } from './atHand.ts';
import { clipboard, type ClipboardHost } from './clipboard.ts';
import {
  attributesOf,
  borrowedPassages,
  conrefSourceOf,
  readAgain,
  type ReadText,
} from './borrowed.ts';
import { codeColours } from './code.ts';
import { columns } from './columns.ts';
import { dressSchema } from './dom.ts';
import { imageFiles } from './files.ts';
import { foundMarks } from './found.ts';
import { editorKeys } from './keys.ts';
import { links, type LinkHost } from './links.ts';
import { otherCarets } from './others.ts';
import { spellingMarks } from './spelling.ts';
import { pageSigns, showSigns, type Signs } from './signs.ts';
import { showVariation, variationMarks, type Variation } from './variation.ts';
import type { Opening } from './useLive.ts';
import { useChecking } from './useChecking.ts';
import { showVariables, variableMarks, type VariableHost } from './variables.ts';
import { closedView, imageView, type PageContext } from './views.ts';

export interface EditorHandlers extends PageContext, ClipboardHost {
  readonly read: ReadText;
  readonly links: Omit<LinkHost, 'read'>;
  readonly variables: VariableHost;
  /** Of everything that the library has. */
  readonly ids: () => readonly string[];
  readonly facets: () => readonly Facet[];
  /** Whether others begin as this topic. */
  readonly isTemplate: () => boolean;
  readonly rules: () => readonly HouseRule[];
  readonly signs: () => Signs;
  readonly variation: () => Variation;
  /** The document is another now, or the caret elsewhere. */
  readonly changed: (maps: readonly StepMap[]) => void;
  readonly moved: () => void;
  readonly save: () => void;
  readonly find: () => void;
  /** Without a dictionary of ours the browser's own spelling helps. */
  readonly hasDictionary: () => boolean;
  /** Words that were not on the page before. */
  readonly words: (words: readonly string[]) => void;
  /** Offers what the misspelt word at the caret could be; false where there is none. */
  readonly askSpelling: (view: EditorView) => boolean;
  /** A note on the page is to say something else. */
  readonly reword: (position: number) => void;
  /** Of the content, as far as it does not say another one. */
  readonly language: () => string;
  /** Image files were pasted or dropped at the caret. */
  readonly files: (files: readonly File[]) => void;
  readonly openPalette: () => void;
  /** Opens the home of what is borrowed. */
  readonly goHome: (reference: string) => void;
  /** What a key leads to, and an element with what its variables say. */
  readonly targetOf: (key: string) => string | undefined;
  readonly withWords: (element: Element) => Element;
  /** Whether something was copied that can be borrowed. */
  readonly hasCopied: () => boolean;
  readonly borrowCopied: () => void;
  /** For whom what is selected is. */
  readonly askFacets: () => void;
  /** Whether Enter asks what comes next, instead of going on with the same. */
  readonly enterAsks: () => boolean;
}

const hasWords = (state: EditorState, position: number): boolean =>
  noteAt(state, position) !== undefined ||
  alternativeAt(state, position) !== undefined ||
  mediaAt(state, position) !== undefined;
const sameElement = (a: OpenElement, b: OpenElement): boolean =>
  a.element === b.element &&
  a.position === b.position &&
  a.end === b.end &&
  a.attributes === b.attributes;

const viewsOf = (context: PageContext) => ({
  image: imageView(context),
  [special.blockImage]: imageView(context),
  [special.rawBlock]: closedView(context),
  [special.rawInline]: closedView(context),
});

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
  const checking = useChecking();
  /** Panels are drawn again only when other elements are open: not at each key. */
  function look({ state }: EditorView): void {
    const now = openElements(state);
    const isSame =
      now.length === open.value.length &&
      now.every((one, index) => sameElement(one, open.value[index]!));
    if (!isSame) open.value = now;
  }
  function show(mount: HTMLElement, id: string, opening: Opening, editable: boolean): void {
    const before = view.value?.state.selection.head ?? 1;
    view.value?.destroy();
    let state = EditorState.create({
      doc: opening.document,
      plugins: [
        ...editorKeys({
          'Ctrl-Space': handlers.openPalette,
          'Mod-s': handlers.save,
          'Mod-f': handlers.find,
          'Mod-.': () => void handlers.askSpelling(editor),
          'Mod-;': handlers.askFacets,
          'Mod-Alt-v': handlers.borrowCopied,
        }),
        history(),
        liveEditing(opening),
        otherCarets(),
        borrowedPassages(id, {
          read: handlers.read,
          seen: handlers.variation,
          goHome: handlers.goHome,
          targetOf: handlers.targetOf,
          withWords: handlers.withWords,
          page: handlers,
        }),
        forceLayoutNearCaret(),
        columns(),
        codeColours(),
        spellingMarks(handlers.language, handlers.words, handlers.askSpelling),
        foundMarks(),
        imageFiles(handlers.files),
        clipboard(handlers),
        links(id, { ...handlers.links, read: handlers.read }),
        variableMarks(handlers.variables),
        pageSigns(handlers.signs()),
        variationMarks(handlers.variation()),
      ],
    });
    const unsent = applySteps(opening.document, opening.steps);
    if ('steps' in unsent)
      state = state.apply(
        unsent.steps.reduce((transaction, step) => transaction.step(step), state.tr),
      );
    state = state.apply(
      state.tr.setSelection(
        Selection.near(state.doc.resolve(Math.min(before, state.doc.content.size))),
      ),
    );
    const editor = new EditorView(mount, {
      state,
      editable: () => editable,
      attributes: {
        'aria-label': 'Topic',
        role: 'textbox',
        'aria-multiline': 'true',
        spellcheck: handlers.hasDictionary() ? 'false' : 'true',
      },
      // What has no text of its own to put the caret into is selected as a whole.
      handleClickOn(shown, _position, node, position) {
        if (!node.isInline || node.isText || node.content.size > 0) return false;
        shown.dispatch(
          shown.state.tr.setSelection(NodeSelection.create(shown.state.doc, position)),
        );
        return true;
      },
      handleDoubleClickOn(shown, _position, _node, position) {
        if (!hasWords(shown.state, position)) return false;
        handlers.reword(position);
        return true;
      },
      handleKeyDown(shown, event) {
        const { selection } = shown.state;
        if (
          event.key === 'Enter' &&
          !event.ctrlKey &&
          !event.metaKey &&
          !event.shiftKey &&
          handlers.enterAsks() &&
          !selection.$from.parent.type.spec.code
        ) {
          handlers.openPalette();
          return true;
        }
        const home =
          event.key === 'Enter' && selection instanceof NodeSelection
            ? conrefSourceOf(attributesOf(selection.node), handlers.targetOf)
            : undefined;
        if (home !== undefined) {
          handlers.goHome(home);
          return true;
        }
        if (
          event.key !== 'Enter' ||
          event.ctrlKey ||
          !(selection instanceof NodeSelection) ||
          !hasWords(shown.state, selection.from)
        )
          return false;
        handlers.reword(selection.from);
        return true;
      },
      nodeViews: viewsOf(handlers),
      dispatchTransaction(transaction) {
        if (transaction.docChanged && changesStructure(transaction)) closeHistory(transaction);
        const { state: next, transactions } = editor.state.applyTransaction(transaction);
        // One that the guard refuses has not happened.
        if (transactions.length === 0) return;
        editor.updateState(next);
        look(editor);
        if (transaction.docChanged) {
          drawn.value += 1;
          handlers.changed(transaction.mapping.maps);
          checking.follow(transaction.steps);
        } else if (transaction.selectionSet) handlers.moved();
      },
    });
    view.value = editor;
    look(editor);
    self = id;
    checkAgain();
  }
  /** Checks against what the team has agreed on by now. */
  let self = '';
  function checkAgain(): void {
    const editor = view.value;
    if (editor)
      void checking.open(() => editor.state.doc, {
        self,
        facets: handlers.facets(),
        rules: handlers.rules(),
        ids: handlers.ids(),
      });
  }
  function clear(): void {
    view.value?.destroy();
    view.value = undefined;
    open.value = [];
    checking.close();
  }

  /** The topic as it stands on the page. */
  const read = (): Element | undefined => view.value && fromEditor(view.value.state.doc);

  /** Goes to an element, or as near to it as the page has. */
  function goTo(path: Path): void {
    const editor = view.value;
    if (!editor) return;
    const positions = new Map<string, number>();
    fromEditor(editor.state.doc, (at, position) => positions.set(at.join('.'), position));
    for (let length = path.length; length >= 0; length -= 1) {
      const position = positions.get(path.slice(0, length).join('.'));
      if (position === undefined) continue;
      const $position = editor.state.doc.resolve(
        Math.min(position + 1, editor.state.doc.content.size),
      );
      editor.dispatch(editor.state.tr.setSelection(Selection.near($position, 1)).scrollIntoView());
      editor.focus();
      return;
    }
  }
  /** Puts the caret into the first place that waits for words, or at the beginning. */
  function enter(): void {
    const editor = view.value;
    if (!editor) return;
    let place = 1;
    editor.state.doc.descendants((node, position) => {
      // What is borrowed is written at its home.
      if (conrefSourceOf(attributesOf(node), handlers.targetOf) !== undefined) return false;
      if (place === 1 && node.isTextblock && node.content.size === 0) place = position + 1;
      return place === 1;
    });
    editor.dispatch(
      editor.state.tr.setSelection(Selection.near(editor.state.doc.resolve(place), 1)),
    );
    editor.focus();
  }
  /** Selects a block whole, and the words that carry a name. */
  function select({ position, end }: OpenElement): void {
    const editor = view.value;
    if (!editor) return;
    const { doc, tr } = editor.state;
    editor.dispatch(
      tr
        .setSelection(
          end === undefined
            ? NodeSelection.create(doc, position)
            : TextSelection.create(doc, position, end),
        )
        .scrollIntoView(),
    );
    editor.focus();
  }
  const choices = (): Choice[] =>
    view.value
      ? choicesAt(view.value.state, handlers.rules(), handlers.isTemplate(), handlers.hasCopied())
      : [];
  function apply(change: (state: EditorState) => Transaction): void {
    const editor = view.value;
    if (!editor) return;
    editor.dispatch(change(editor.state));
    editor.focus();
  }

  /** Changes the tree of the whole topic, as one step that can be undone. */
  function changeRoot(change: (root: Element) => Element): void {
    const editor = view.value;
    const step = editor && stepTo(editor.state.doc, change(fromEditor(editor.state.doc)));
    if (step) editor.dispatch(editor.state.tr.step(step));
  }
  function setAttributes(target: OpenElement, attributes: Attributes): void {
    const editor = view.value;
    editor?.dispatch(withAttributes(editor.state, target, attributes));
  }
  const pathTo = ({ position, end }: OpenElement): Path | undefined =>
    view.value && end === undefined ? pathOf(view.value.state.doc, position) : undefined;
  const sign = (signs: Signs): void => view.value?.dispatch(showSigns(view.value.state, signs));
  const readBorrowedAgain = (): void => view.value?.dispatch(readAgain(view.value.state));
  const vary = (variation: Variation): void =>
    view.value?.dispatch(showVariation(view.value.state, variation));
  /**
   * What variables and images say has changed: pictures are made anew where one of them is chosen
   * by a key or has alternates.
   */
  function tellAgain(): void {
    const editor = view.value;
    if (!editor) return;
    editor.dispatch(showVariables(editor.state));
    let hasPictures = false;
    editor.state.doc.descendants((node) => {
      hasPictures ||= node.type.spec.element === 'image';
      return !hasPictures;
    });
    if (hasPictures) editor.setProps({ nodeViews: viewsOf(handlers) });
  }
  const refusal = (
    target: OpenElement,
    definition: AttributeDefinition,
    value: string,
  ): string | undefined => view.value && refusalOf(view.value.state, target, definition, value);

  onUnmounted(clear);
  return {
    view,
    open,
    drawn,
    problems: checking.problems,
    words: checking.words,
    show,
    clear,
    read,
    goTo,
    enter,
    select,
    changeRoot,
    setAttributes,
    refusal,
    pathTo,
    sign,
    vary,
    readBorrowedAgain,
    tellAgain,
    checkAgain,
    choices,
    apply,
  };
}
