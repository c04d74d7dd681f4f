import { SourceReading, SourceState, type SourceOrder } from '@ukiyo/contracts';
import { useMessage } from 'naive-ui';
import { computed, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from '../../parts/api.ts';
import { useAttempts } from '../../parts/attempts.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import { useSources } from '../../parts/sources.ts';

const topics = (count: number): string => `${count} ${count === 1 ? 'topic' : 'topics'}`;

/** One linked source, how its files stand, and what is done with it. */
export function useSourceStage(folder: () => string) {
  const session = useSession();
  const library = useLibrary();
  const sources = useSources();
  const message = useMessage();
  const state = shallowRef<SourceState>();
  const { attempt, isBusy } = useAttempts();
  const address = (): string => `${session.base}/sources/${encodeURIComponent(folder())}`;
  const waiting = computed(
    () =>
      state.value?.plan.filter(({ state: now }) => now === 'new' || now === 'changed').length ?? 0,
  );

  const show = (next: SourceState): void => {
    if (next.folder === folder()) state.value = next;
    sources.keep(next);
  };
  const look = (): Promise<boolean> =>
    attempt(async () => {
      state.value = undefined;
      if (folder() !== '') show(await ask(address(), SourceState));
    });
  const begin = (): Promise<boolean> =>
    attempt(async () => {
      await Promise.all([library.ensure(), sources.load()]);
      await look();
    });
  async function take(decisions: SourceOrder['decisions']): Promise<void> {
    const reading = await ask(`${address()}/read`, SourceReading, {
      method: 'POST',
      body: { decisions },
    });
    show(reading);
    const done = [
      ...(reading.added > 0 ? [`${topics(reading.added)} new`] : []),
      ...(reading.changed > 0 ? [`${topics(reading.changed)} changed`] : []),
    ];
    message.success(done.length > 0 ? `${done.join(', ')}.` : 'Nothing has changed.');
  }
  const read = (decisions: SourceOrder['decisions'] = {}): Promise<boolean> =>
    attempt(() => take(decisions));
  const link = (): Promise<boolean> =>
    attempt(async () => {
      show(await ask(address(), SourceState, { method: 'PUT' }));
      await take({});
    });
  const unlink = (): Promise<boolean> =>
    attempt(async () => {
      await ask(address(), z.null(), { method: 'DELETE' });
      await sources.load();
      await look();
    });
  return { state, waiting, isBusy, begin, look, read, link, unlink };
}
