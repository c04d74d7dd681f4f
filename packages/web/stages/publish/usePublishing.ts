import {
  Edition,
  Impression,
  ImpressionComparison,
  Lens,
  outputs,
  type EditionInput,
  type Waiver,
} from '@ukiyo/contracts';
import { onUnmounted, ref, shallowRef } from 'vue';
import { z } from 'zod';
import { ask, messageOf } from '../../parts/api.ts';
import { useEvents } from '../../parts/events.ts';
import { useSession } from '../../parts/session.ts';

/** Why the last thing could not be done; undefined is what a failure gives. */
function useFailure() {
  const failure = ref('');
  async function guarded<Value>(work: Promise<Value>): Promise<Value | undefined> {
    try {
      return await work;
    } catch (error) {
      failure.value = messageOf(error);
      return undefined;
    }
  }
  return { failure, guarded };
}
type Guarded = ReturnType<typeof useFailure>['guarded'];

/** Impressions, kept up to date by the server's events. @param load reads all of them anew */
function useImpressions(guarded: Guarded, load: () => Promise<void>) {
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
    else
      void guarded(ask(address(id), Impression)).then(
        (impression) => impression && keep(impression),
      );
  });
  onUnmounted(stop);
  return { impressions, address, keep, forget };
}

/** What is done with impressions; each is shown as it stands then. */
function useImpressionActs(
  { failure, guarded }: ReturnType<typeof useFailure>,
  { address, keep, forget }: ReturnType<typeof useImpressions>,
) {
  async function act(id: string, path: string, init: Parameters<typeof ask>[2]): Promise<boolean> {
    failure.value = '';
    const impression = await guarded(ask(`${address(id)}/${path}`, Impression, init));
    if (impression) keep(impression);
    return impression !== undefined;
  }
  return {
    name: (id: string, text: string) => act(id, 'name', { method: 'PUT', body: { name: text } }),
    note: (id: string, text: string) => act(id, 'notes', { method: 'POST', body: { text } }),
    signOff: (id: string, waived: readonly Waiver[]) =>
      act(id, 'seal', { method: 'PUT', body: { waived } }),
    takeBack: (id: string) => act(id, 'seal', { method: 'DELETE' }),
    buildAgain: (id: string) => act(id, 'again', { method: 'POST' }),
    cancel: (id: string) => act(id, 'cancel', { method: 'POST' }),
    compare: (id: string, earlier: string) =>
      guarded(ask(`${address(id)}/since/${earlier}`, ImpressionComparison)),
    async remove(id: string): Promise<void> {
      failure.value = '';
      const gone = await guarded(ask(address(id), z.null(), { method: 'DELETE' }));
      if (gone === null) forget(id);
    },
  };
}

/** Editions and impressions of the project, kept up to date by the server's events. */
export function usePublishing() {
  const session = useSession();
  const editions = shallowRef<readonly Edition[]>([]);
  const lenses = shallowRef<readonly Lens[]>([]);
  const failing = useFailure();
  const { failure, guarded } = failing;
  const built = useImpressions(guarded, load);
  const { impressions, keep } = built;

  async function loadAll(): Promise<void> {
    [editions.value, lenses.value, impressions.value] = await Promise.all([
      ask(`${session.base}/editions`, z.array(Edition)),
      ask(`${session.base}/lenses`, z.array(Lens)),
      ask(`${session.base}/impressions`, z.array(Impression)),
    ]);
  }
  async function load(): Promise<void> {
    await guarded(loadAll());
  }
  async function build(edition: string): Promise<void> {
    failure.value = '';
    const impression = await guarded(
      ask(`${session.base}/editions/${edition}/impressions`, Impression, { method: 'POST' }),
    );
    if (impression && !impressions.value.some((one) => one.id === impression.id)) keep(impression);
  }
  async function saveEdition(
    id: string | undefined,
    input: EditionInput,
  ): Promise<Edition | undefined> {
    failure.value = '';
    const saved = await guarded(
      ask(`${session.base}/editions${id === undefined ? '' : `/${id}`}`, Edition, {
        method: id === undefined ? 'POST' : 'PUT',
        body: input,
      }),
    );
    if (saved)
      editions.value = [...editions.value.filter((one) => one.id !== saved.id), saved].sort(
        (a, b) => a.name.localeCompare(b.name),
      );
    return saved;
  }
  return {
    ...useImpressionActs(failing, built),
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
