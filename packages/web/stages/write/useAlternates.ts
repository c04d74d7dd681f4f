import { Alternates, Item } from '@ukiyo/contracts';
import { computed, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { z } from 'zod';
import { ask } from '../../parts/api.ts';
import { useAttempts } from '../../parts/attempts.ts';
import { useLens } from '../../parts/lens.ts';
import { useAllItems } from '../../parts/itemList.ts';
import { useItems } from '../../parts/items.ts';
import { useSession } from '../../parts/session.ts';

/**
 * The open topic among its alternates: which one is looked at, and whether the base has changed
 * since.
 */
export function useAlternates(topic: () => string) {
  const items = useItems();
  const session = useSession();
  const looking = useLens();
  const router = useRouter();
  const address = (id: string): string => `${session.base}/items/${encodeURIComponent(id)}`;
  const own = computed(() => items.find(topic()));
  const base = computed(() =>
    own.value?.alternateOf ? items.find(own.value.alternateOf) : own.value,
  );
  const alternates = useAllItems(() =>
    base.value && (base.value.alternates > 0 || own.value?.alternateOf != null)
      ? { alternatesOf: base.value.id }
      : undefined,
  );
  /** The one that those get who look through the lens. */
  const shown = computed(() => looking.standsIn(alternates.value) ?? base.value);
  const known = shallowRef<Alternates>();
  const state = computed(() => known.value?.alternates.find(({ item }) => item.id === topic()));

  const { attempt } = useAttempts();
  /** Asked only for an alternate: what it is held against can have changed. */
  watch(
    () => (own.value?.alternateOf ? `${topic()} ${base.value?.version}` : ''),
    (asked) => {
      known.value = undefined;
      if (asked !== '')
        void attempt(
          async () => void (known.value = await ask(`${address(topic())}/alternates`, Alternates)),
        );
    },
    { immediate: true },
  );
  const make = (conditions: Readonly<Record<string, string>>): Promise<boolean> =>
    attempt(async () => {
      const { id } = await ask(
        `${address(base.value?.id ?? topic())}/alternates`,
        z.object({ id: z.string() }),
        { method: 'POST', body: { conditions } },
      );
      items.keep(await ask(address(id), Item));
      await router.push({ name: 'write', params: { id } });
    });
  const lookedAt = (): Promise<boolean> =>
    attempt(
      async () =>
        void (known.value = await ask(`${address(topic())}/alternates/looked-at`, Alternates, {
          method: 'POST',
          body: {},
        })),
    );
  const release = (): Promise<boolean> =>
    attempt(async () => {
      await ask(`${address(topic())}/alternates/release`, z.null(), { method: 'POST', body: {} });
      items.keep(await ask(address(topic()), Item));
    });
  const textOf = async (id: string, version?: number): Promise<string> =>
    version === undefined
      ? (await items.read(id)).text
      : (await ask(`${address(id)}/revisions/${version}`, z.object({ text: z.string() }))).text;
  return { own, base, alternates, shown, state, make, lookedAt, release, textOf };
}
