import type { Reference } from '@ukiyo/core/library';
import { useMessage } from 'naive-ui';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { usePageView } from '../editor/pageView.ts';
import type { VariableView } from '../editor/variables.ts';
import { messageOf } from '../parts/api.ts';
import { useAssets } from '../parts/assets.ts';
import { isTemplate, useItems } from '../parts/items.ts';
import { useLens } from '../parts/lens.ts';
import { useLibrary } from '../parts/library.ts';
import { useSession } from '../parts/session.ts';
import { kindOfVariable, useVariables } from '../parts/variables.ts';

/**
 * What the page shows of a variable; its tooltip has the name, the set and the texts for other
 * readers.
 */
function viewOfVariable(
  variables: ReturnType<typeof useVariables>,
  key: string,
): VariableView | undefined {
  const shown = variables.shown(key);
  if (!shown) return undefined;
  const words = variables.wordsOf(shown);
  const setTitle = (map: string): string => variables.setOf(map)?.title ?? map;
  const others = (variables.byKey.get(key) ?? [])
    .filter((one) => variables.wordsOf(one) !== words)
    .map((one) => {
      const readers = Object.values(one.conditions).join(', ');
      return `elsewhere “${variables.wordsOf(one)}” ${readers || setTitle(one.map)}`;
    });
  const tooltip = [`${key} · ${setTitle(shown.map)}`, ...others].join('\n');
  return { kind: kindOfVariable(shown), words, tooltip };
}

/** What the page of a topic asks of the library around it. */
export function useTopicLibrary(id: () => string) {
  const items = useItems();
  const assets = useAssets();
  const library = useLibrary();
  const session = useSession();
  const router = useRouter();
  const message = useMessage();
  const looking = useLens();
  const variables = useVariables();
  const { tags } = usePageView();
  const isOfTemplate = (): boolean => isTemplate(items.find(id()));
  /** What others begin as is for administrators. */
  const editable = computed(() => session.may(isOfTemplate() ? 'administer' : 'write'));
  const variation = computed(() => ({
    facets: library.facets,
    tags: tags.value,
    lens: looking.lens,
  }));

  async function follow(reference: Reference): Promise<void> {
    if (reference.kind === 'item')
      void router.push({
        name: (await items.load(reference.id))?.kind === 'map' ? 'arrange' : 'write',
        params: { id: reference.id },
      });
    else if (reference.kind === 'external') window.open(reference.href, '_blank', 'noopener');
  }
  async function upload(file: File): Promise<string | undefined> {
    try {
      return `asset:${(await assets.upload(file)).id}`;
    } catch (error) {
      message.error(`${file.name}: ${messageOf(error)}`);
      return undefined;
    }
  }
  /** Whether the library has nothing of this ID. */
  async function isMissing(target: string): Promise<boolean> {
    const found = await Promise.all([items.load(target), assets.load(target)]);
    return found.every((one) => one === undefined);
  }
  /** The image that readers get instead of this one, who look through the lens. */
  const replacementOf = (image: string): string | undefined =>
    looking.lens && looking.standsIn(assets.find(image)?.alternates ?? [])?.id;

  return {
    editable,
    variation,
    variableView: (key: string) => viewOfVariable(variables, key),
    follow,
    upload,
    handlers: {
      imageAddress: (image: string) => assets.fileAddress(replacementOf(image) ?? image),
      keyedImage: (key: string) => variables.shown(key)?.href,
      read: items.read,
      isMissing,
      isEditable: () => editable.value,
      facets: () => library.facets,
      rules: () => library.agreements.rules,
      isTemplate: isOfTemplate,
      variation: () => variation.value,
      upload,
      tell: (text: string) => void message.info(text, { duration: 6000 }),
      targetOf: variables.targetOf,
      withWords: variables.withWords,
    },
  };
}
