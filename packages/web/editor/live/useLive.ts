import { useDebounceFn, useEventListener, useWebSocket } from '@vueuse/core';
import { computed, onUnmounted, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue';
import type { EditorView } from 'prosemirror-view';
import { isActWaiting } from '../../parts/onceCurrent.ts';
import { useSession } from '../../parts/session.ts';
import { closedStatus, LiveClient, type LivePage } from './client.ts';
import { useHands } from './hands.ts';
import { unsentStore } from './unsent.ts';

interface LiveHost extends Pick<LivePage, 'lay' | 'written'> {
  readonly view: ShallowRef<EditorView | undefined>;
}

/** “Saved” appears once everything has been safe for this many ms, so that it does not flicker. */
const safeDelay = 250;
const retryDelay = (retries: number): number => Math.min(300 * 2 ** retries, 5000);

/** Whether everything has been safe for a while. */
function useSettled(isSafe: Ref<boolean>): Ref<boolean> {
  const isSettled = ref(true);
  const settle = useDebounceFn(() => (isSettled.value = isSafe.value), safeDelay);
  watch(
    isSafe,
    (safe) => {
      if (safe) void settle();
      else isSettled.value = false;
    },
    { flush: 'sync' },
  );
  return isSettled;
}

/** Live editing of one topic with others, for the lifetime of the component. */
export function useLive({ view, lay, written }: LiveHost) {
  const session = useSession();
  const topic = ref<string>();
  const status = shallowRef(closedStatus);
  const address = computed(() =>
    topic.value === undefined
      ? undefined
      : `/api${session.base}/live/${encodeURIComponent(topic.value)}`,
  );
  const line = useWebSocket(address, {
    immediate: false,
    autoConnect: false,
    autoReconnect: { delay: retryDelay },
    onConnected: () => client.connected(),
    onDisconnected: () => client.disconnected(),
    onMessage: (_socket, { data }) => client.hear(String(data)),
  });
  const isConnected = (): boolean => line.status.value === 'OPEN';
  const client = new LiveClient(
    {
      isOpen: isConnected,
      open: () => line.open(),
      close: () => line.close(),
      send: (request) => void line.send(JSON.stringify(request), false),
    },
    {
      state: () => view.value?.state,
      dispatch: (transaction) => view.value?.dispatch(transaction),
      lay,
      written,
      isBusy: useHands(),
    },
    unsentStore,
    (next) => void (status.value = next),
  );
  useEventListener(window, 'pagehide', () => void client.keep());

  /** @param ready once it resolves, the page can be changed */
  async function open(id: string, ready: Promise<unknown>): Promise<void> {
    client.close();
    topic.value = id;
    await client.open(`${session.base}/${id}`, ready);
  }
  function close(): void {
    client.close();
    topic.value = undefined;
  }
  onUnmounted(close);

  const isSafe = computed(() => status.value.isSafe && !isActWaiting.value);
  const isOpen = computed(() => status.value.isOpen);
  const ended = computed(() => status.value.ended);
  const isSettled = useSettled(isSafe);
  const saved = computed(() => {
    if (!isOpen.value) return '';
    if (ended.value) return 'Not kept any more';
    if (!isConnected()) return status.value.isSafe ? 'Offline' : 'Offline: kept in this browser';
    return isSettled.value ? 'Saved' : 'Saving …';
  });
  return {
    open,
    close,
    push: () => client.push(),
    moveCaret: () => void client.moveCaret(),
    name: (note: string) => client.name(note),
    people: computed(() => status.value.people),
    lost: computed({ get: () => status.value.lost, set: () => client.forgetLost() }),
    ended,
    isSafe,
    isOpen,
    saved,
    ownName: () => client.ownName,
  };
}
