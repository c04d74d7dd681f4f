import {
  alternativeAt,
  applySteps,
  changesStructure,
  liveEditing,
  mediaAt,
  noteAt,
  special,
} from '@ukiyo/core/editing';
import type { Facet } from '@ukiyo/core/facets';
import { conrefSourceOf } from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import type { HouseRule } from '@ukiyo/core/rules';
import { closeHistory, history } from 'prosemirror-history';
import {
  EditorState,
  NodeSelection,
  Selection,
  type Plugin,
  type Transaction,
} from 'prosemirror-state';
import type { StepMap } from 'prosemirror-transform';
import { EditorView } from 'prosemirror-view';
import { forceLayoutNearCaret } from './caretLayout.ts';
import { arrivals } from './arrivals.ts';
import { nodeAttributes, borrowedPassages, type ReadText } from './borrowed.ts';
import { clipboard, type ClipboardHost } from './clipboard.ts';
import { codeColours } from './code.ts';
import { columns } from './columns.ts';
import { imageFiles } from './files.ts';
import { foundMarks } from './found.ts';
import { editorKeys } from './keys.ts';
import { links, type LinkHost } from './links.ts';
import type { Opening } from './live/client.ts';
import { otherCarets } from './live/carets.ts';
import { pageSigns, type Signs } from './signs.ts';
import { spellingMarks } from './spelling.ts';
import { variableMarks, type VariableHost } from './variables.ts';
import { variationMarks, type Variation } from './variation.ts';
import { closedView, imageView, type PageImages } from './views.ts';

export interface EditorHandlers extends PageImages, ClipboardHost {
  readonly read: ReadText;
  readonly links: Omit<LinkHost, 'read'>;
  readonly variables: VariableHost;
  /** Of everything that the library has. */
  readonly isMissing: (id: string) => Promise<boolean>;
  readonly isEditable: () => boolean;
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

/** How everything is drawn that ProseMirror does not draw by itself. */
export const nodeViewsOf = (context: PageImages) => ({
  image: imageView(context),
  [special.blockImage]: imageView(context),
  [special.rawBlock]: closedView(context),
  [special.rawInline]: closedView(context),
});

function pluginsOf(id: string, opening: Opening, handlers: EditorHandlers): Plugin[] {
  return [
    ...editorKeys({
      'Ctrl-Space': handlers.openPalette,
      'Mod-s': handlers.save,
      'Mod-f': handlers.find,
      'Mod-.': (view) => void handlers.askSpelling(view),
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
    arrivals(),
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
  ];
}

/** The opened document with the steps that are not acknowledged, and the caret near a position. */
function beginning({ document, steps }: Opening, plugins: Plugin[], caret: number): EditorState {
  let state = EditorState.create({ doc: document, plugins });
  const unsent = applySteps(document, steps);
  if ('steps' in unsent)
    state = state.apply(
      unsent.steps.reduce((transaction, step) => transaction.step(step), state.tr),
    );
  const $caret = state.doc.resolve(Math.min(caret, state.doc.content.size));
  return state.apply(state.tr.setSelection(Selection.near($caret)));
}

const hasWords = (state: EditorState, position: number): boolean =>
  noteAt(state, position) !== undefined ||
  alternativeAt(state, position) !== undefined ||
  mediaAt(state, position) !== undefined;

/**
 * Enter asks what comes next where that is wanted, opens the home of what is borrowed, and the
 * words of a selected note, image or film.
 */
function handleEnter(view: EditorView, event: KeyboardEvent, handlers: EditorHandlers): boolean {
  if (event.key !== 'Enter') return false;
  const { selection } = view.state;
  const isPlain = !event.ctrlKey && !event.metaKey && !event.shiftKey;
  if (isPlain && handlers.enterAsks() && !selection.$from.parent.type.spec.code) {
    handlers.openPalette();
    return true;
  }
  if (!(selection instanceof NodeSelection)) return false;
  const home = conrefSourceOf(nodeAttributes(selection.node), handlers.targetOf);
  if (home !== undefined) {
    handlers.goHome(home);
    return true;
  }
  if (event.ctrlKey || !hasWords(view.state, selection.from)) return false;
  handlers.reword(selection.from);
  return true;
}

export interface TopicViewOptions {
  readonly id: string;
  readonly opening: Opening;
  /** Where the caret was before the document was opened anew. */
  readonly caret: number;
  readonly handlers: EditorHandlers;
  /** A transaction has been applied. */
  readonly applied: (view: EditorView, transaction: Transaction) => void;
}

/** The page of a topic in `mount`: a ProseMirror view with everything that Ukiyo adds to it. */
export function createTopicView(mount: HTMLElement, options: TopicViewOptions): EditorView {
  const { id, opening, caret, handlers, applied } = options;
  const view = new EditorView(mount, {
    state: beginning(opening, pluginsOf(id, opening, handlers), caret),
    editable: handlers.isEditable,
    attributes: {
      'aria-label': 'Topic',
      role: 'textbox',
      'aria-multiline': 'true',
      spellcheck: handlers.hasDictionary() ? 'false' : 'true',
    },
    // What has no text of its own to put the caret into is selected as a whole.
    handleClickOn({ state }, _position, node, position) {
      if (!node.isInline || node.isText || node.content.size > 0) return false;
      view.dispatch(state.tr.setSelection(NodeSelection.create(state.doc, position)));
      return true;
    },
    handleDoubleClickOn({ state }, _position, _node, position) {
      if (!hasWords(state, position)) return false;
      handlers.reword(position);
      return true;
    },
    handleKeyDown: (shown, event) => handleEnter(shown, event, handlers),
    nodeViews: nodeViewsOf(handlers),
    dispatchTransaction(transaction) {
      if (transaction.docChanged && changesStructure(transaction)) closeHistory(transaction);
      const { state: next, transactions } = view.state.applyTransaction(transaction);
      // One that the guard refuses has not happened.
      if (transactions.length === 0) return;
      view.updateState(next);
      applied(view, transaction);
    },
  });
  return view;
}
