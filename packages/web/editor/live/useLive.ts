import { useDebounceFn, useEventListener, useWebSocket } from '@vueuse/core';
import {
  computed,
  onUnmounted,
  ref,
  shallowRef,
  watch,
  type ComputedRef,
  type Ref,
  type ShallowRef,
} from 'vue';
import type { EditorView } from 'prosemirror-view';
import { LiveDocument } from '@ukiyo/contracts';
import { catchUp } from '../arrivals.ts';
import { earlyAnswer } from '../../parts/early.ts';
import { isActWaiting } from '../../parts/onceCurrent.ts';
import { useSession } from '../../parts/session.ts';
import { closedStatus, LiveClient, type LivePage, type LiveStatus } from './client.ts';
import { unsentStore } from './unsent.ts';

interface LiveHost extends Pick<LivePage, 'lay' | 'stored'> {
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

interface Line {
  readonly isConnecting: () => boolean;
  readonly isConnected: () => boolean;
}
/** Whether the topic is saved, in words; none until it is open and the line was tried. */
function useSaved(
  status: Readonly<Ref<LiveStatus>>,
  isSafe: Ref<boolean>,
  { isConnecting, isConnected }: Line,
): ComputedRef<string> {
  const isSettled = useSettled(isSafe);
  return computed(() => {
    const { isOpen, ended, isSafe: isAcknowledged } = status.value;
    if (!isOpen || isConnecting()) return '';
    if (ended) return 'Not kept any more';
    if (!isConnected()) return isAcknowledged ? 'Offline' : 'Offline: kept in this browser';
    return isSettled.value ? 'Saved' : 'Saving …';
  });
}

/** The document of a topic that was requested while the program was read. */
async function earlyDocument(address: string): Promise<LiveDocument | undefined> {
  const answer = await earlyAnswer(address.replace(/^\/api/u, ''));
  if (!answer?.ok) return undefined;
  const content: unknown = await answer.json().catch(() => undefined);
  return LiveDocument.safeParse(content).data;
}

/** Live editing of one topic with others, for the lifetime of the component. */
export function useLive({ view, lay, stored }: LiveHost) {
  const session = useSession();
  const topic = ref<string>();
  const status = shallowRef(closedStatus);
  const address = computed(() =>
    topic.value === undefined
      ? undefined
      : `/api${session.base}/live/${encodeURIComponent(topic.value)}`,
  );
  /** Until the first attempt to connect has succeeded or failed. */
  const isConnecting = ref(true);
  const line = useWebSocket(address, {
    immediate: false,
    autoConnect: false,
    autoReconnect: { delay: retryDelay },
    onConnected() {
      isConnecting.value = false;
      client.connected();
    },
    onDisconnected() {
      isConnecting.value = false;
      client.disconnected();
    },
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
      stored,
      catchUp: () => view.value && catchUp(view.value),
    },
    unsentStore,
    (next) => void (status.value = next),
  );
  useEventListener(window, 'pagehide', () => void client.keep());

  /** @param ready once it resolves, the page can be changed */
  async function open(id: string, ready: Promise<unknown>): Promise<void> {
    client.close();
    topic.value = id;
    isConnecting.value = true;
    await client.open(`${session.base}/${id}`, ready, earlyDocument(`${address.value}/document`));
  }
  function close(): void {
    client.close();
    topic.value = undefined;
  }
  onUnmounted(close);

  const isSafe = computed(() => status.value.isSafe && !isActWaiting.value);
  const isOpen = computed(() => status.value.isOpen);
  const ended = computed(() => status.value.ended);
  const saved = useSaved(status, isSafe, {
    isConnecting: () => isConnecting.value,
    isConnected,
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
