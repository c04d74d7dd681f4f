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

/** Editions and impressions of the project, kept up to date by the server's events. */
export function usePublishing() {
  const session = useSession();
  const editions = shallowRef<readonly Edition[]>([]);
  const lenses = shallowRef<readonly Lens[]>([]);
  const impressions = shallowRef<readonly Impression[]>([]);
  const failure = ref('');

  const guarded = async <Value>(work: Promise<Value>): Promise<Value | undefined> => {
    try {
      return await work;
    } catch (error) {
      failure.value = messageOf(error);
      return undefined;
    }
  };
  const keep = (impression: Impression): void => {
    const at = impressions.value.findIndex((one) => one.id === impression.id);
    impressions.value =
      at === -1 ? [impression, ...impressions.value] : impressions.value.with(at, impression);
  };
  async function load(): Promise<void> {
    await guarded(
      (async () => {
        [editions.value, lenses.value, impressions.value] = await Promise.all([
          ask(`${session.base}/editions`, z.array(Edition)),
          ask(`${session.base}/lenses`, z.array(Lens)),
          ask(`${session.base}/impressions`, z.array(Impression)),
        ]);
      })(),
    );
  }
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
      void guarded(ask(`${session.base}/impressions/${id}`, Impression)).then(
        (impression) => impression && keep(impression),
      );
  });
  onUnmounted(stop);
  async function build(edition: string): Promise<void> {
    failure.value = '';
    const impression = await guarded(
      ask(`${session.base}/editions/${edition}/impressions`, Impression, { method: 'POST' }),
    );
    if (impression && !impressions.value.some((one) => one.id === impression.id)) keep(impression);
  }
  /** Something is done with an impression; it is shown as it stands then. */
  async function act(id: string, path: string, init: Parameters<typeof ask>[2]): Promise<boolean> {
    failure.value = '';
    const impression = await guarded(
      ask(`${session.base}/impressions/${id}/${path}`, Impression, init),
    );
    if (impression) keep(impression);
    return impression !== undefined;
  }
  const name = (id: string, text: string) =>
    act(id, 'name', { method: 'PUT', body: { name: text } });
  const note = (id: string, text: string) => act(id, 'notes', { method: 'POST', body: { text } });
  const signOff = (id: string, waived: readonly Waiver[]) =>
    act(id, 'seal', { method: 'PUT', body: { waived } });
  const takeBack = (id: string) => act(id, 'seal', { method: 'DELETE' });
  const buildAgain = (id: string) => act(id, 'again', { method: 'POST' });
  async function remove(id: string): Promise<void> {
    failure.value = '';
    if (
      (await guarded(ask(`${session.base}/impressions/${id}`, z.null(), { method: 'DELETE' }))) ===
      null
    )
      forget(id);
  }
  const compare = (id: string, earlier: string) =>
    guarded(ask(`${session.base}/impressions/${id}/since/${earlier}`, ImpressionComparison));
  async function cancel(id: string): Promise<void> {
    const impression = await guarded(
      ask(`${session.base}/impressions/${id}/cancel`, Impression, { method: 'POST' }),
    );
    if (impression) keep(impression);
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
  const fileAddress = (impression: Impression): string =>
    `/api${session.base}/impressions/${impression.id}/files/${outputs[impression.output].opens}`;
  const downloadAddress = (impression: Impression): string =>
    `/api${session.base}/impressions/${impression.id}/download`;
  /** Where the one that ships is always found, or the newest until one is signed off. */
  const keptAddress = (edition: Edition): string =>
    `/api${session.base}/editions/${edition.id}/shipped/${outputs[edition.output].opens}`;
  return {
    name,
    note,
    signOff,
    takeBack,
    buildAgain,
    remove,
    compare,
    keptAddress,
    editions,
    lenses,
    impressions,
    failure,
    load,
    build,
    cancel,
    saveEdition,
    fileAddress,
    downloadAddress,
  };
}

export type Publishing = ReturnType<typeof usePublishing>;
