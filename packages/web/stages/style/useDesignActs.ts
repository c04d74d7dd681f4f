import {
  readPagePlan,
  readStyleSheet,
  SiteLook,
  StyleSheet,
  type DesignKind,
  type PagePlan,
} from '@ukiyo/contracts';
import { freeId } from '@ukiyo/core/library';
import { shippedLooks, shippedPlans, shippedSheets } from '@ukiyo/core/styles';
import { computed, type Ref } from 'vue';
import { useRouter } from 'vue-router';
import { useFailure } from '../../parts/attempts.ts';
import { useDesigns } from '../../parts/designs.ts';

export const designKinds = {
  sheets: {
    label: 'Style sheets',
    one: 'style sheet',
    ships: shippedSheets,
    read: (content: unknown) => readStyleSheet(content),
  },
  plans: {
    label: 'Page plans',
    one: 'page plan',
    ships: shippedPlans,
    read: (content: unknown) => readPagePlan(content),
  },
  looks: {
    label: 'Site looks',
    one: 'site look',
    ships: shippedLooks,
    read: (content: unknown) => SiteLook.safeParse(content),
  },
} as const;
type Content = StyleSheet | PagePlan | SiteLook;

/**
 * What can be done with a style sheet, a page plan or a site look as a whole: copied, given out,
 * taken in, put back as it ships.
 */
export function useDesignActs(
  kind: Ref<DesignKind>,
  id: Ref<string>,
  draft: () => Content | undefined,
  again: (content: Content) => void,
) {
  const designs = useDesigns();
  const router = useRouter();
  const { failure, attempt } = useFailure();
  const kept = computed(() => designs.list[kind.value].find((one) => one.id === id.value));

  const go = (to: string): Promise<unknown> =>
    router.push({
      name: kind.value === 'looks' ? 'looks' : 'style',
      params: { ...(kind.value === 'looks' ? {} : { kind: kind.value }), id: to },
    });
  const keep = (content: Content): Promise<boolean> =>
    attempt(async () => {
      const fresh = freeId(
        content.name,
        new Set(designs.list[kind.value].map((one) => one.id)),
        'design',
      );
      if (kind.value === 'sheets') await designs.saveSheet(fresh, 0, StyleSheet.parse(content));
      else if (kind.value === 'plans') await designs.savePlan(fresh, 0, content as PagePlan);
      else await designs.saveLook(fresh, 0, SiteLook.parse(content));
      await go(fresh);
    });
  function copy(): void {
    const content = draft();
    if (content) void keep({ ...content, name: `${content.name}, copy` });
  }
  async function take(event: Event): Promise<void> {
    const input = event.target as HTMLInputElement;
    const text = await input.files?.[0]?.text();
    input.value = '';
    if (text === undefined) return;
    let content: unknown;
    try {
      content = JSON.parse(text);
    } catch {
      failure.value = 'This file is not readable as JSON.';
      return;
    }
    const checked = designKinds[kind.value].read(content);
    if (checked.success) await keep(checked.data);
    else
      failure.value = `This is no ${designKinds[kind.value].one}: ${checked.error.issues
        .slice(0, 3)
        .map(({ path, message }) => `${path.join('.')}: ${message}`)
        .join(' ')}`;
  }
  function give(): void {
    const link = document.createElement('a');
    link.href = URL.createObjectURL(
      new Blob([`${JSON.stringify(draft(), null, 2)}\n`], { type: 'application/json' }),
    );
    link.download = `${kept.value?.content.name ?? id.value}.json`;
    link.click();
    URL.revokeObjectURL(link.href);
  }
  const reset = (): Promise<boolean> =>
    attempt(async () => {
      const ships = kept.value?.ships ?? false;
      await designs.remove(kind.value, id.value);
      if (!ships) await go(Object.keys(designKinds[kind.value].ships)[0]!);
      else if (kept.value) again(kept.value.content);
    });
  return { failure, kept, copy, take, give, reset };
}
