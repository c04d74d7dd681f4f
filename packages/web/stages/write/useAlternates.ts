import { Alternates, Item } from '@ukiyo/contracts';
import { useMessage } from 'naive-ui';
import { computed, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { z } from 'zod';
import { ask, messageOf } from '../../parts/api.ts';
import { useLens } from '../../parts/lens.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';

/**
 * The open topic among its alternates: which one is looked at, and whether the base has changed
 * since.
 */
export function useAlternates(topic: () => string) {
  const library = useLibrary();
  const session = useSession();
  const looking = useLens();
  const router = useRouter();
  const message = useMessage();
  const address = (id: string): string => `${session.base}/items/${encodeURIComponent(id)}`;
  const own = computed(() => library.find(topic()));
  const base = computed(() =>
    own.value?.alternateOf ? library.find(own.value.alternateOf) : own.value,
  );
  const alternates = computed(() =>
    base.value ? library.alternatesOf(library.items, base.value.id) : [],
  );
  /** The one that those get who look through the lens. */
  const shown = computed(() => looking.standsIn(alternates.value) ?? base.value);
  const known = shallowRef<Alternates>();
  const state = computed(() => known.value?.alternates.find(({ item }) => item.id === topic()));

  async function attempt(act: () => Promise<void>): Promise<void> {
    try {
      await act();
    } catch (error) {
      message.error(messageOf(error), { duration: 8000, closable: true });
    }
  }
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
  const make = (conditions: Readonly<Record<string, string>>): Promise<void> =>
    attempt(async () => {
      const { id } = await ask(
        `${address(base.value?.id ?? topic())}/alternates`,
        z.object({ id: z.string() }),
        { method: 'POST', body: { conditions } },
      );
      library.keep(await ask(address(id), Item));
      await router.push({ name: 'write', params: { id } });
    });
  const lookedAt = (): Promise<void> =>
    attempt(
      async () =>
        void (known.value = await ask(`${address(topic())}/alternates/looked-at`, Alternates, {
          method: 'POST',
          body: {},
        })),
    );
  const release = (): Promise<void> =>
    attempt(async () => {
      await ask(`${address(topic())}/alternates/release`, z.null(), { method: 'POST', body: {} });
      library.keep(await ask(address(topic()), Item));
    });
  const textOf = async (id: string, version?: number): Promise<string> =>
    version === undefined
      ? (await library.read(id)).text
      : (await ask(`${address(id)}/revisions/${version}`, z.object({ text: z.string() }))).text;
  return { own, base, alternates, shown, state, make, lookedAt, release, textOf };
}
