import { NewItem } from '@ukiyo/contracts';
import { writeCanonical } from '@ukiyo/core/grammar';
import { titleOf, type Reference } from '@ukiyo/core/library';
import type { Problem } from '@ukiyo/core/problems';
import { applyFixes } from '@ukiyo/core/rules';
import { useMessage } from 'naive-ui';
import type { StepMap } from 'prosemirror-transform';
import { computed, nextTick, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { conrefSourceOf } from '../editor/borrowed.ts';
import { usePageView } from '../editor/pageView.ts';
import { useEditor } from '../editor/useEditor.ts';
import { useLive, type Opening } from '../editor/useLive.ts';
import { messageOf } from '../parts/api.ts';
import { useLens } from '../parts/lens.ts';
import { isTemplate, useLibrary } from '../parts/library.ts';
import { useSession } from '../parts/session.ts';
import { useCopied } from '../editor/copied.ts';
import type { ToldVariable } from '../editor/variables.ts';
import { kindOfVariable, useVariables } from '../parts/variables.ts';
import { useInsertDialogs } from './useInsertDialogs.ts';
import { useBorrowing } from './useBorrowing.ts';
import { useSelected } from './useSelected.ts';
import { useSpelling } from './useSpelling.ts';

interface SheetHost {
  /** The document is another now. */
  readonly changed?: (maps: readonly StepMap[]) => void;
  /** Asks under which name what there is now is to be kept. */
  readonly save: () => void;
  /** Where to begin, once, when it is shown for the first time. */
  readonly begin?: () => void;
}

/**
 * One topic on its page: written live, checked, with all that is asked at the caret. A screen lays
 * out one of them or many.
 */
export function useTopicSheet(id: () => string, host: SheetHost) {
  const library = useLibrary();
  const session = useSession();
  const router = useRouter();
  const message = useMessage();
  const { signs, tags, enterAsks } = usePageView();
  const looking = useLens();
  const variables = useVariables();
  const variation = computed(() => ({
    facets: library.facets,
    tags: tags.value,
    lens: looking.lens,
  }));
  const mount = ref<HTMLElement>();
  const failure = ref('');
  const finding = ref(false);
  /** The home of a borrowed passage that is being written in front of this page. */
  const home = ref<string>();
  const showHome = (reference: string | undefined): void => void (home.value = reference);
  /** What others begin as is for administrators. */
  const editable = computed(() =>
    session.may(isTemplate(library.find(id())) ? 'administer' : 'write'),
  );

  const locale = (): string => session.project?.locale ?? 'en';
  const editor = useEditor({
    // Of an image with alternates the one that those get who look through the lens.
    imageAddress: (image) =>
      library.assetAddress(
        looking.standsIn(library.alternatesOf(library.assets, image))?.id ?? image,
      ),
    read: library.read,
    keyedImage: (key) => variables.shown(key)?.href,
    links: { find: library.find, choose: (from) => asking.askForTarget(from), follow },
    variables: { find: (key) => tellVariable(key), choose: (from) => asking.askForVariable(from) },
    ids: () => [...library.items, ...library.assets].map((one) => one.id),
    facets: () => library.facets,
    rules: () => library.agreements.rules,
    isTemplate: () => isTemplate(library.find(id())),
    signs: () => signs.value,
    variation: () => variation.value,
    changed: (maps) => {
      live.push();
      host.changed?.(maps);
      selected.look();
    },
    moved: () => {
      void live.moveCaret();
      selected.look();
    },
    save: host.save,
    find: () => (finding.value = true),
    language: locale,
    words: (words) => spelling.check(words),
    askSpelling: () => asking.askSpelling(spelling.suggest),
    hasDictionary: () => spelling.hasDictionary.value,
    reword: (position) => asking.reword(position),
    files: (files) => void asking.takeFiles(files),
    upload,
    tell: (text) => void message.info(text, { duration: 6000 }),
    openPalette: () => asking.openPalette(),
    askFacets: () => asking.askFacets(),
    goHome: showHome,
    targetOf: variables.targetOf,
    withWords: variables.withWords,
    hasCopied: () => borrowing.hasCopied(),
    copied: (state) => noteCopied(id(), state),
    borrowCopied: () => void borrowing.borrowCopied(),
    enterAsks: () => enterAsks.value,
  });
  const { note: noteCopied } = useCopied();
  const borrowing = useBorrowing({
    id,
    view: editor.view,
    read: editor.read,
    changeRoot: editor.changeRoot,
    apply: editor.apply,
    conrefSourceOf: (attributes) => conrefSourceOf(attributes, variables.targetOf),
  });
  const asking = useInsertDialogs({
    view: editor.view,
    choices: editor.choices,
    apply: editor.apply,
    upload,
    borrowCopied: () => void borrowing.borrowCopied(),
    makeLocal: () => void borrowing.makeLocal(),
  });
  const spelling = useSpelling(editor.view, locale);
  const selected = useSelected({ view: editor.view, choices: editor.choices });
  const live = useLive({ view: editor.view, lay, written });

  /**
   * What the page shows of a variable, and on pointing at it its name, its set, and what it says
   * for others.
   */
  function tellVariable(key: string): ToldVariable | undefined {
    const shown = variables.shown(key);
    if (!shown) return undefined;
    const words = variables.wordsOf(shown);
    const others = (variables.byKey.get(key) ?? [])
      .filter((one) => variables.wordsOf(one) !== words)
      .map((one) => {
        const readers = Object.values(one.conditions).join(', ');
        const where = readers || variables.setOf(one.map)?.title || one.map;
        return `“${variables.wordsOf(one)}” ${where}`;
      });
    return {
      kind: kindOfVariable(shown),
      words,
      told: [
        `${key} · ${variables.setOf(shown.map)?.title ?? shown.map}`,
        ...others.map((other) => `elsewhere ${other}`),
      ].join('\n'),
    };
  }
  function follow(reference: Reference): void {
    if (reference.kind === 'item')
      void router.push({
        name: library.find(reference.id)?.kind === 'map' ? 'arrange' : 'write',
        params: { id: reference.id },
      });
    else if (reference.kind === 'external') window.open(reference.href, '_blank', 'noopener');
  }
  async function upload(file: File): Promise<string | undefined> {
    try {
      return `asset:${(await library.upload(file)).id}`;
    } catch (error) {
      message.error(`${file.name}: ${messageOf(error)}`);
      return undefined;
    }
  }

  /**
   * Puts problems right that have a fix, as one step back; one whose place has changed meanwhile is
   * left.
   */
  function fix(problems: readonly Problem[]): void {
    let count = 0;
    editor.changeRoot((root) => {
      const fixed = applyFixes(root, problems);
      count = fixed.count;
      return fixed.root;
    });
    message.info(
      count === problems.length
        ? `${count} put right.`
        : `${count} of ${problems.length} put right; the others have changed.`,
    );
  }

  let isNew = true;
  /** Where the topic is in the library: once it is removed, nothing else knows. */
  let folder = '';
  function lay(opening: Opening): void {
    if (!mount.value) return;
    folder = library.find(id())?.folder ?? '';
    editor.show(mount.value, id(), opening, editable.value);
    // The page is shown with the next frame; before, nothing on it can be focused.
    if (isNew) void nextTick(() => host.begin?.());
    isNew = false;
  }
  function written(version: number, title: string): void {
    const known = library.find(id());
    if (known) library.keep({ ...known, version, title });
  }
  async function show(): Promise<void> {
    failure.value = '';
    isNew = true;
    editor.clear();
    live.close();
    if (id() === '') return;
    try {
      await variables.ensure();
      await nextTick();
      await live.open(id());
    } catch (error) {
      failure.value = messageOf(error);
    }
  }
  /** What is on the page of a topic that was removed becomes a topic again. */
  async function putBack(): Promise<void> {
    const root = editor.read();
    const type = root && NewItem.shape.type.safeParse(root.name).data;
    if (!root || !type) return;
    try {
      const made = await library.create({
        type,
        title: titleOf(root) || id(),
        folder,
      });
      await library.save(
        made.id,
        writeCanonical({ ...root, attributes: { ...root.attributes, id: made.id } }),
        made.version,
      );
      if (made.id === id()) await show();
      else await router.push({ name: 'write', params: { id: made.id } });
    } catch (error) {
      failure.value = messageOf(error);
    }
  }
  watch([() => library.facets, () => library.agreements.rules], () => editor.checkAgain());
  watch(signs, (next) => editor.sign(next));
  watch(variation, (next) => editor.vary(next));
  watch([() => variables.list, () => looking.lens, () => library.assets], () => editor.tellAgain());
  return {
    id,
    mount,
    failure,
    finding,
    home,
    showHome,
    editable,
    editor,
    asking,
    borrowing,
    spelling,
    selected,
    live,
    show,
    putBack,
    fix,
    upload,
  };
}
export type TopicSheet = ReturnType<typeof useTopicSheet>;
