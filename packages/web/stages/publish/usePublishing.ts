import {
  Edition,
  Impression,
  ImpressionComparison,
  Lens,
  outputs,
  type EditionInput,
  type Waiver,
} from '@ukiyo/contracts';
import { onUnmounted, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from '../../parts/api.ts';
import { attempts, useFailure } from '../../parts/attempts.ts';
import { useEvents } from '../../parts/events.ts';
import { useSession } from '../../parts/session.ts';

type Attempt = (act: () => Promise<unknown>) => Promise<boolean>;

/**
 * Impressions, kept up to date by the server's events.
 * @param follow attempts what nobody asked for
 * @param load reads all of them anew
 */
function useImpressions(follow: Attempt, load: () => Promise<unknown>) {
  const session = useSession();
  const impressions = shallowRef<readonly Impression[]>([]);
  const address = (id: string): string => `${session.base}/impressions/${id}`;
  const keep = (impression: Impression): void => {
    const at = impressions.value.findIndex((one) => one.id === impression.id);
    impressions.value =
      at === -1 ? [impression, ...impressions.value] : impressions.value.with(at, impression);
  };
  const forget = (id: string): void =>
    void (impressions.value = impressions.value.filter((one) => one.id !== id));
  const stop = useEvents().listen((event) => {
    if (event.kind === 'missed') return void load();
    if (event.kind === 'impression-gone') return void forget(event.id);
    if (event.kind !== 'impression') return;
    const { id, state, progress } = event;
    const known = impressions.value.find((one) => one.id === id);
    if (known && state === 'running') keep({ ...known, state, progress });
    else void follow(async () => keep(await ask(address(id), Impression)));
  });
  onUnmounted(stop);
  return { impressions, address, keep, forget };
}

/** What is done with impressions; each is shown as it stands then. */
function useImpressionActs(
  attempt: Attempt,
  { address, keep, forget }: ReturnType<typeof useImpressions>,
) {
  const act = (id: string, path: string, init: Parameters<typeof ask>[2]): Promise<boolean> =>
    attempt(async () => keep(await ask(`${address(id)}/${path}`, Impression, init)));
  return {
    name: (id: string, text: string) => act(id, 'name', { method: 'PUT', body: { name: text } }),
    note: (id: string, text: string) => act(id, 'notes', { method: 'POST', body: { text } }),
    signOff: (id: string, waived: readonly Waiver[]) =>
      act(id, 'seal', { method: 'PUT', body: { waived } }),
    takeBack: (id: string) => act(id, 'seal', { method: 'DELETE' }),
    buildAgain: (id: string) => act(id, 'again', { method: 'POST' }),
    cancel: (id: string) => act(id, 'cancel', { method: 'POST' }),
    /** @returns nothing where they could not be compared */
    async compare(id: string, earlier: string): Promise<ImpressionComparison | undefined> {
      let found: ImpressionComparison | undefined;
      await attempt(async () => {
        found = await ask(`${address(id)}/since/${earlier}`, ImpressionComparison);
      });
      return found;
    },
    remove: (id: string) =>
      attempt(async () => {
        await ask(address(id), z.null(), { method: 'DELETE' });
        forget(id);
      }),
  };
}

/** Editions and impressions of the project, kept up to date by the server's events. */
export function usePublishing() {
  const session = useSession();
  const editions = shallowRef<readonly Edition[]>([]);
  const lenses = shallowRef<readonly Lens[]>([]);
  const { failure, attempt } = useFailure();
  // What is read unasked tells its failure, and leaves that of an act in sight.
  const { attempt: follow } = attempts((sentence) => void (failure.value = sentence));
  const load = (): Promise<boolean> => follow(loadAll);
  const built = useImpressions(follow, load);
  const { impressions, keep } = built;

  async function loadAll(): Promise<void> {
    [editions.value, lenses.value, impressions.value] = await Promise.all([
      ask(`${session.base}/editions`, z.array(Edition)),
      ask(`${session.base}/lenses`, z.array(Lens)),
      ask(`${session.base}/impressions`, z.array(Impression)),
    ]);
  }
  const build = (edition: string): Promise<boolean> =>
    attempt(async () => {
      const address = `${session.base}/editions/${edition}/impressions`;
      const impression = await ask(address, Impression, { method: 'POST' });
      // An event can have told more of it by now.
      if (!impressions.value.some((one) => one.id === impression.id)) keep(impression);
    });
  /** @returns nothing where it could not be saved */
  async function saveEdition(
    id: string | undefined,
    input: EditionInput,
  ): Promise<Edition | undefined> {
    let saved: Edition | undefined;
    await attempt(async () => {
      const address = `${session.base}/editions${id === undefined ? '' : `/${id}`}`;
      const method = id === undefined ? 'POST' : 'PUT';
      const edition = await ask(address, Edition, { method, body: input });
      editions.value = [...editions.value.filter((one) => one.id !== edition.id), edition].sort(
        (a, b) => a.name.localeCompare(b.name),
      );
      saved = edition;
    });
    return saved;
  }
  return {
    ...useImpressionActs(attempt, built),
    editions,
    lenses,
    impressions,
    failure,
    load,
    build,
    saveEdition,
    fileAddress: ({ id, output }: Impression): string =>
      `/api${built.address(id)}/files/${outputs[output].opens}`,
    downloadAddress: ({ id }: Impression): string => `/api${built.address(id)}/download`,
    /** Where the one that ships is always found, or the newest until one is signed off. */
    keptAddress: ({ id, output }: Edition): string =>
      `/api${session.base}/editions/${id}/shipped/${outputs[output].opens}`,
  };
}

export type Publishing = ReturnType<typeof usePublishing>;
