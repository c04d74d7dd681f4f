import { Edition, Proof } from '@ukiyo/contracts';
import { writeXml, type Element } from '@ukiyo/core/markup';
import { useStorage } from '@vueuse/core';
import { computed, onMounted, shallowRef, watch } from 'vue';
import { z } from 'zod';
import { differences, type ProofPlace } from '../bench/places.ts';
import { completed, has } from '../bench/shapes.ts';
import { ask, messageOf } from '../parts/api.ts';
import { useLoads } from '../parts/attempts.ts';
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

/** The editions in which pages are shown, chosen once for all topics. */
function useProofedEditions() {
  const session = useSession();
  const editions = shallowRef<readonly Edition[]>([]);
  const chosen = useStorage<readonly string[]>('ukiyo-proof-editions', []);
  const { failure, load } = useLoads();
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
  function toggle(id: string): void {
    const now = picked.value.map((one) => one.id);
    const next = now.includes(id)
      ? now.filter((one) => one !== id)
      : [...now, id].slice(-mostProofs);
    if (next.length > 0) chosen.value = next;
  }
  onMounted(() =>
    load(async () => {
      editions.value = await ask(`${session.base}/editions`, z.array(Edition));
    }),
  );
  return { shownIn, picked, onPaper, sites, failure, toggle };
}

type Shown = Omit<TopicProof, 'edition'>;
const nothingYet: Shown = { proof: undefined, busy: false, failure: '', milliseconds: 0 };
const hasPages = ({ proof }: Shown): boolean => proof !== undefined && proof.pages.length > 0;

/** What an edition says otherwise than another one beside it. */
const apartOf = (one: TopicProof, proofs: readonly TopicProof[]): ProofPlace[] => [
  ...new Set(
    proofs
      .filter((other) => other.edition !== one.edition && hasPages(other))
      .flatMap(({ proof }) => differences(one.proof?.places ?? [], proof!.places)),
  ),
];

/** Time in ms after which the whole manual is set, so that the topic can be put in its place. */
const placedAfter = 3000;

/** The pages on which a topic lands in one or several editions, set anew while it is written. */
export function useProofs(
  topic: () => string,
  changes: () => number,
  rootOf: () => Element | undefined,
) {
  const session = useSession();
  const editions = useProofedEditions();
  const { onPaper, picked } = editions;
  const shown = shallowRef<ReadonlyMap<string, Shown>>(new Map());
  const proofs = computed((): TopicProof[] =>
    onPaper.value.map((edition) => ({
      edition,
      ...(shown.value.get(edition.id) ?? { ...nothingYet, busy: true }),
    })),
  );
  const keep = (edition: string, change: Partial<Shown>): void => {
    const before = shown.value.get(edition) ?? nothingYet;
    shown.value = new Map(shown.value).set(edition, { ...before, ...change });
  };
  async function setOne(id: string, { item, text, since }: Wanted): Promise<void> {
    keep(id, { busy: true });
    try {
      const before = shown.value.get(id)?.proof;
      const answer = await ask(`${session.base}/editions/${id}/proof`, Proof, {
        method: 'POST',
        body: { item, has: has(before), ...(text === undefined ? {} : { text }) },
      });
      const proof = completed(answer, before);
      const milliseconds = Math.round(performance.now() - since);
      if (item === topic()) keep(id, { proof, busy: false, failure: '', milliseconds });
    } catch (error) {
      keep(id, { busy: false, failure: messageOf(error) });
    }
  }
  const set = latestOnly(async (wanted: Wanted) => {
    for (const { id } of onPaper.value) await setOne(id, wanted);
  });
  function again(): void {
    const [item, root] = [topic(), rootOf()];
    if (item !== '' && onPaper.value.length > 0)
      set({ item, text: root && writeXml(root), since: performance.now() });
  }
  watch(topic, () => (shown.value = new Map()));
  // What was typed is on the screen first.
  watch([topic, changes, picked], () => requestAnimationFrame(() => setTimeout(again)));
  let later: ReturnType<typeof setTimeout> | undefined;
  watch(shown, () => {
    clearTimeout(later);
    if (proofs.value.some((one) => !one.busy && one.proof?.placed === false && hasPages(one)))
      later = setTimeout(again, placedAfter);
  });
  return { ...editions, proofs, apartOf: (one: TopicProof) => apartOf(one, proofs.value) };
}

/** What is to be set. */
interface Wanted {
  readonly item: string;
  readonly text: string | undefined;
  /** The time of the order, by the clock of `performance.now`. */
  readonly since: number;
}
