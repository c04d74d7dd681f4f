import { Edition, Proof } from '@ukiyo/contracts';
import { writeXml, type Element } from '@ukiyo/core/markup';
import { useStorage } from '@vueuse/core';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { z } from 'zod';
import { differences, type ProofPlace } from '../bench/places.ts';
import { completed, has } from '../bench/shapes.ts';
import { ask, messageOf } from '../parts/api.ts';
import { latestOnly } from '../parts/latest.ts';
import { useSession } from '../parts/session.ts';

/** Side by side, at most. */
const mostProofs = 3;

export interface TopicProof {
  readonly edition: Edition;
  readonly proof: Proof | undefined;
  readonly busy: boolean;
  readonly failure: string;
  /** From the last key to the page, in milliseconds. */
  readonly milliseconds: number;
}

/** The pages on which a topic lands in one or several editions, set anew while it is written. */
export function useProofs(
  topic: () => string,
  changes: () => number,
  rootOf: () => Element | undefined,
) {
  const session = useSession();
  const editions = shallowRef<readonly Edition[]>([]);
  const chosen = useStorage<readonly string[]>('ukiyo-proof-editions', []);
  const shown = shallowRef<ReadonlyMap<string, Omit<TopicProof, 'edition'>>>(new Map());
  const failure = ref('');
  const shownIn = computed(() =>
    editions.value.filter(({ output }) => output === 'print' || output === 'site'),
  );
  /** Those that were chosen and are still there; else the first on paper. */
  const picked = computed(() => {
    const known = shownIn.value.filter(({ id }) => chosen.value.includes(id));
    return known.length > 0
      ? known
      : shownIn.value.filter(({ output }) => output === 'print').slice(0, 1);
  });
  const onPaper = computed(() => picked.value.filter(({ output }) => output === 'print'));
  const sites = computed(() => picked.value.filter(({ output }) => output === 'site'));
  const proofs = computed((): TopicProof[] =>
    onPaper.value.map((edition) => ({
      edition,
      proof: undefined,
      busy: true,
      failure: '',
      milliseconds: 0,
      ...shown.value.get(edition.id),
    })),
  );
  const keep = (edition: string, change: Partial<Omit<TopicProof, 'edition'>>): void => {
    const before = shown.value.get(edition) ?? {
      proof: undefined,
      busy: false,
      failure: '',
      milliseconds: 0,
    };
    shown.value = new Map(shown.value).set(edition, { ...before, ...change });
  };
  const set = latestOnly(
    async ({ item, text, since }: { item: string; text: string | undefined; since: number }) => {
      for (const { id } of onPaper.value) {
        keep(id, { busy: true });
        try {
          const before = shown.value.get(id)?.proof;
          const answer = await ask(`${session.base}/editions/${id}/proof`, Proof, {
            method: 'POST',
            body: { item, has: has(before), ...(text === undefined ? {} : { text }) },
          });
          const proof = completed(answer, before);
          if (item === topic())
            keep(id, {
              proof,
              busy: false,
              failure: '',
              milliseconds: Math.round(performance.now() - since),
            });
        } catch (error) {
          keep(id, { busy: false, failure: messageOf(error) });
        }
      }
    },
  );
  function again(): void {
    const [item, root] = [topic(), rootOf()];
    if (item !== '' && onPaper.value.length > 0)
      set({ item, text: root && writeXml(root), since: performance.now() });
  }
  onMounted(async () => {
    try {
      editions.value = await ask(`${session.base}/editions`, z.array(Edition));
    } catch (error) {
      failure.value = messageOf(error);
    }
  });
  watch(topic, () => (shown.value = new Map()));
  // What was typed is on the screen first.
  watch([topic, changes, picked], () => requestAnimationFrame(() => setTimeout(again)));
  // Once the whole has been set meanwhile, the topic stands where it has its place.
  const placed = 3000;
  let later: ReturnType<typeof setTimeout> | undefined;
  watch(shown, () => {
    clearTimeout(later);
    if (
      proofs.value.some(
        ({ proof, busy }) =>
          !busy && proof !== undefined && !proof.placed && proof.pages.length > 0,
      )
    )
      later = setTimeout(again, placed);
  });
  /** What an edition says otherwise than another one beside it. */
  const apartOf = (one: TopicProof): ProofPlace[] => {
    const others = proofs.value.filter(
      ({ edition, proof }) =>
        edition !== one.edition && proof !== undefined && proof.pages.length > 0,
    );
    return [
      ...new Set(
        others.flatMap(({ proof }) => differences(one.proof?.places ?? [], proof!.places)),
      ),
    ];
  };
  function toggle(id: string): void {
    const now = picked.value.map((one) => one.id);
    const next = now.includes(id)
      ? now.filter((one) => one !== id)
      : [...now, id].slice(-mostProofs);
    if (next.length > 0) chosen.value = next;
  }
  return { shownIn, picked, onPaper, sites, proofs, failure, toggle, apartOf };
}
