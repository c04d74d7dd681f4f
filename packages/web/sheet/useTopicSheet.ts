import { conrefSourceOf } from '@ukiyo/core/library';
import type { Attributes } from '@ukiyo/core/markup';
import type { Problem } from '@ukiyo/core/problems';
import { applyFixes } from '@ukiyo/core/rules';
import { useMessage } from 'naive-ui';
import type { StepMap } from 'prosemirror-transform';
import { ref, watch } from 'vue';
import { useCopied } from '../editor/copied.ts';
import { useLive } from '../editor/live/useLive.ts';
import { usePageView } from '../editor/pageView.ts';
import { useEditor } from '../editor/useEditor.ts';
import { useAssets } from '../parts/assets.ts';
import { useItems } from '../parts/items.ts';
import { useLens } from '../parts/lens.ts';
import { useLibrary } from '../parts/library.ts';
import { useSession } from '../parts/session.ts';
import { useVariables } from '../parts/variables.ts';
import { useBorrowing } from './useBorrowing.ts';
import { useInsertDialogs } from './useInsertDialogs.ts';
import { useOpening } from './useOpening.ts';
import { useSelected } from './useSelected.ts';
import { useSpelling } from './useSpelling.ts';
import { useTopicLibrary } from './useTopicLibrary.ts';

interface SheetHost {
  /** The document is another now. */
  readonly changed?: (maps: readonly StepMap[]) => void;
  /** Asks under which name what there is now is to be kept. */
  readonly save: () => void;
  /** Where to begin, once, when it is shown for the first time. */
  readonly begin?: () => void;
}

/** Shows on the page what others change in the library, and what is chosen beside the page. */
function followLibrary(
  editor: Editor,
  { variation, editable }: ReturnType<typeof useTopicLibrary>,
): void {
  const items = useItems();
  const assets = useAssets();
  const library = useLibrary();
  const looking = useLens();
  const variables = useVariables();
  const { signs } = usePageView();
  // What is borrowed by a key can be found now.
  watch(() => variables.isLoaded, editor.readBorrowedAgain);
  watch([() => library.facets, () => library.agreements.rules], editor.checkAgain);
  watch(editable, () => editor.view.value?.setProps({}));
  // A variable can show the title of a topic, or the name of an image.
  watch([() => items.arrivals, () => assets.arrivals], editor.showWords);
  watch(
    [() => items.arrivals, () => items.listings, () => assets.arrivals, () => assets.listings],
    editor.lookForTargets,
  );
  watch(signs, (next) => editor.sign(next));
  watch(variation, (next) => editor.vary(next));
  watch(
    [() => variables.list, () => looking.lens, () => library.facets, () => assets.replacements],
    editor.tellAgain,
  );
}

/**
 * Puts problems right that have a fix, as one step back; one whose place has changed meanwhile is
 * left.
 */
function fixing(editor: Editor, tell: (sentence: string) => void) {
  return (problems: readonly Problem[]): void => {
    let count = 0;
    editor.changeRoot((root) => {
      const fixed = applyFixes(root, problems);
      count = fixed.count;
      return fixed.root;
    });
    tell(
      count === problems.length
        ? `${count} put right.`
        : `${count} of ${problems.length} put right; the others have changed.`,
    );
  };
}

type Editor = ReturnType<typeof useEditor>;

/** What stands around the editor of a page, and is called by it. */
interface PageParts {
  readonly live: ReturnType<typeof useLive>;
  readonly asking: ReturnType<typeof useInsertDialogs>;
  readonly borrowing: ReturnType<typeof useBorrowing>;
  readonly spelling: ReturnType<typeof useSpelling>;
  readonly selected: ReturnType<typeof useSelected>;
}

/** How the editor calls what stands around it. @param parts is asked when something happens */
function pageHandlers(parts: () => PageParts, host: SheetHost) {
  const { signs, enterAsks } = usePageView();
  return {
    signs: () => signs.value,
    enterAsks: () => enterAsks.value,
    save: host.save,
    changed(maps: readonly StepMap[]) {
      parts().live.push();
      host.changed?.(maps);
      parts().selected.look();
    },
    moved() {
      parts().live.moveCaret();
      parts().selected.look();
    },
    words: (words: readonly string[]) => parts().spelling.check(words),
    hasDictionary: () => parts().spelling.hasDictionary.value,
    askSpelling: () => parts().asking.askSpelling(parts().spelling.suggest),
    reword: (position: number) => parts().asking.reword(position),
    files: (files: readonly File[]) => void parts().asking.takeFiles(files),
    openPalette: () => parts().asking.openPalette(),
    askFacets: () => parts().asking.askFacets(),
    hasCopied: () => parts().borrowing.hasCopied(),
    borrowCopied: () => void parts().borrowing.borrowCopied(),
  };
}

/**
 * One topic on its page: written live, checked, with all that is asked at the caret. A screen lays
 * out one of them or many.
 */
export function useTopicSheet(id: () => string, host: SheetHost) {
  const items = useItems();
  const session = useSession();
  const { targetOf } = useVariables();
  const message = useMessage();
  const { note: noteCopied } = useCopied();
  const topicLibrary = useTopicLibrary(id);
  const finding = ref(false);
  /** The home of a borrowed passage that is being written in front of this page. */
  const home = ref<string>();
  const showHome = (reference: string | undefined): void => void (home.value = reference);
  const locale = (): string => session.project?.locale ?? 'en';

  const editor = useEditor({
    ...topicLibrary.handlers,
    ...pageHandlers(() => parts, host),
    links: {
      find: items.load,
      choose: (from) => parts.asking.askForTarget(from),
      follow: (reference) => void topicLibrary.follow(reference),
    },
    variables: {
      find: topicLibrary.variableView,
      choose: (from) => parts.asking.askForVariable(from),
    },
    find: () => (finding.value = true),
    language: locale,
    goHome: showHome,
    copied: (state) => noteCopied(id(), state),
  });
  const { view, choices, apply, read, changeRoot } = editor;
  const opening = useOpening({ id, editor, live: () => parts.live, begin: host.begin });
  const conrefOf = (attributes: Attributes): string | undefined =>
    conrefSourceOf(attributes, targetOf);
  const page = { id, view, read, changeRoot, apply };
  const borrowing = useBorrowing({ ...page, conrefSourceOf: conrefOf });
  const parts: PageParts = {
    borrowing,
    asking: useInsertDialogs({
      view,
      choices,
      apply,
      upload: topicLibrary.upload,
      borrowCopied: () => void borrowing.borrowCopied(),
      makeLocal: () => void borrowing.makeLocal(),
    }),
    spelling: useSpelling(view, locale),
    selected: useSelected({ view, choices }),
    live: useLive({
      view,
      lay: opening.lay,
      stored(version, title) {
        const known = items.find(id());
        if (known) items.keep({ ...known, version, title });
      },
    }),
  };
  followLibrary(editor, topicLibrary);
  const { mount, isDrawn, failure, show, putBack } = opening;
  return {
    ...parts,
    ...{ id, editor, finding, home, showHome, mount, isDrawn, failure, show, putBack },
    editable: topicLibrary.editable,
    upload: topicLibrary.upload,
    fix: fixing(editor, (sentence) => void message.info(sentence)),
  };
}
export type TopicSheet = ReturnType<typeof useTopicSheet>;
