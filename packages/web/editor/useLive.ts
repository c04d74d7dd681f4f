import { LiveAnswer, type Caret, type LivePerson, type LiveRequest } from '@ukiyo/contracts';
import {
  documentFrom,
  hasUnacknowledged,
  receiveSteps,
  unacknowledged,
  unacknowledgedWords,
  versionOf,
} from '@ukiyo/core/editing';
import { useDebounceFn, useEventListener, useThrottleFn, useWebSocket } from '@vueuse/core';
import type { Node as EditorNode } from 'prosemirror-model';
import type { EditorState } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { computed, onUnmounted, ref, shallowRef, type ShallowRef } from 'vue';
import { useSession } from '../parts/session.ts';
import { othersIn, withOthers, type Other } from './others.ts';
import { abandonedUnsent, forgetUnsent, keepUnsent, stayAlive } from './unsent.ts';

/** A document as an editor begins with it. */
export interface Opening {
  readonly document: EditorNode;
  readonly version: number;
  readonly client: string;
  /** Steps that were made on it and not acknowledged yet. */
  readonly steps: readonly unknown[];
}

interface LivePage {
  readonly view: ShallowRef<EditorView | undefined>;
  readonly lay: (opening: Opening) => void;
  /** The library holds the text as it was a moment ago. */
  readonly written: (itemVersion: number, title: string) => void;
}

/** Why nothing more is taken from this editor. */
export type Ended = Extract<LiveAnswer, { kind: 'refused' }>;

const longestAnswer = 8000;
const handSettles = 40;
const longestUnheard = 1000;
const safetySettles = 250;
/** Where the selection of the browser begins and ends. */
function whereSelected(): readonly (Node | number | null | undefined)[] {
  const selection = document.getSelection();
  return [
    selection?.anchorNode,
    selection?.anchorOffset,
    selection?.focusNode,
    selection?.focusOffset,
  ];
}
const retryAfter = (retries: number): number => Math.min(300 * 2 ** retries, 5000);

/**
 * Keeps the page and the authority of its topic in step. What is not acknowledged yet is kept in
 * this browser until it is, through lost connections and reloads; words that can no longer be
 * fitted in are given back.
 */
export function useLive(page: LivePage) {
  const session = useSession();
  const topic = ref<string>();
  const people = shallowRef<readonly LivePerson[]>([]);
  const lost = ref('');
  const ended = shallowRef<Ended>();
  const isSafe = ref(true);
  /** Safe for a moment already: what is said of it does not flicker while somebody types. */
  const isSettled = ref(true);
  const isOpen = ref(false);
  /** Known to this editor and its authority alone. */
  let client = '';
  /** As everybody hears of it. */
  let ownName = '';
  let epoch = '';
  /** The last document that the authority has acknowledged whole. */
  let acknowledged: EditorNode | undefined;
  let isWaiting = false;
  let isKept = false;
  let late: ReturnType<typeof setTimeout> | undefined;

  const address = computed(() =>
    topic.value === undefined
      ? undefined
      : `/api${session.base}/live/${encodeURIComponent(topic.value)}`,
  );
  const line = useWebSocket(address, {
    immediate: false,
    autoConnect: false,
    autoReconnect: { delay: retryAfter },
    onConnected: greet,
    onDisconnected: stopWaiting,
    onMessage: (_socket, { data }) => hear(data),
  });
  const say = (request: LiveRequest): void => void line.send(JSON.stringify(request), false);
  const state = (): EditorState | undefined => page.view.value?.state;
  const nameOfTopic = (): string => `${session.base}/${topic.value ?? ''}`;

  function newClient(): void {
    client = [...crypto.getRandomValues(new Uint32Array(3))]
      .map((number) => number.toString(36))
      .join('-');
    stayAlive(client);
  }
  function lay(opening: Opening): void {
    acknowledged = opening.document;
    page.lay(opening);
    isOpen.value = true;
    noteSafety();
  }

  /**
   * Opens a topic: first what was left behind of it in this browser, then what the authority has.
   */
  async function open(id: string): Promise<void> {
    close();
    topic.value = id;
    const left = await abandonedUnsent(nameOfTopic());
    if (topic.value !== id) return;
    const document = left && documentFrom(left.document);
    if (left && document) {
      client = left.client;
      stayAlive(client);
      epoch = left.epoch;
      isKept = true;
      lay({ document, version: left.version, client, steps: left.steps });
    } else newClient();
    line.open();
  }
  function close(): void {
    line.close();
    stopWaiting();
    topic.value = undefined;
    epoch = '';
    acknowledged = undefined;
    isOpen.value = false;
    isSafe.value = true;
    isSettled.value = true;
    isKept = false;
    held.length = 0;
    people.value = [];
    lost.value = '';
    ended.value = undefined;
  }

  function greet(): void {
    const current = state();
    say({
      kind: 'open',
      client,
      ...(epoch !== '' && current ? { known: { epoch, version: versionOf(current) } } : {}),
    });
    if (epoch !== '') push();
  }
  /** Comes again for the whole document. */
  function begin(): void {
    epoch = '';
    line.open();
  }
  function stopWaiting(): void {
    isWaiting = false;
    clearTimeout(late);
  }

  /**
   * A click or an arrow key moves the browser's selection first, and the page hears of it a moment
   * later: on a busy machine a long one. A change by somebody else in between would put the caret
   * back, so it waits until the page has heard.
   */
  let handAt = -Infinity;
  let heard = whereSelected();
  const noteHand = (event: Event): void => {
    if (!(event instanceof KeyboardEvent) || event.key.length > 1) handAt = performance.now();
  };
  useEventListener(document, ['pointerdown', 'pointerup', 'keydown'], noteHand, { capture: true });
  useEventListener(document, 'selectionchange', () => void (heard = whereSelected()));
  function isUnheard(): boolean {
    const since = performance.now() - handAt;
    return (
      since < handSettles ||
      (since < longestUnheard && whereSelected().some((part, index) => part !== heard[index]))
    );
  }
  const held: LiveAnswer[] = [];
  function hear(data: unknown): void {
    const answer = LiveAnswer.safeParse(JSON.parse(String(data))).data;
    if (answer) held.push(answer);
    if (held.length === 1) release();
  }
  function release(): void {
    if (isUnheard()) return void setTimeout(release, handSettles / 4);
    for (let answer = held.shift(); answer; answer = held.shift()) take(answer);
  }
  function take(answer: LiveAnswer): void {
    if (answer.kind === 'welcome') ownName = answer.client;
    else if (answer.kind === 'document') {
      const document = documentFrom(answer.document);
      const current = state();
      // What was not acknowledged belongs to a document that is no more.
      if (isOpen.value && current) lost.value += unacknowledgedWords(current);
      epoch = answer.epoch;
      if (document) lay({ document, version: answer.version, client, steps: [] });
    } else if (answer.kind === 'steps') receive(answer.version, answer.steps, answer.clients);
    else if (answer.kind === 'people') showPeople(answer.people);
    else if (answer.kind === 'carets') placeOthers(answer.carets);
    else if (answer.kind === 'written') page.written(answer.itemVersion, answer.title);
    else refused(answer);
  }

  function receive(version: number, steps: readonly unknown[], clients: readonly string[]): void {
    const view = page.view.value;
    if (!view || !acknowledged) return;
    const authors = clients.map((one) => (one === ownName ? client : one));
    const received = receiveSteps(view.state, version, steps, authors);
    if (!received) return begin();
    acknowledged = received.steps.reduce(
      (document, step) => step.apply(document).doc ?? document,
      acknowledged,
    );
    stopWaiting();
    lost.value += received.lost;
    const { transaction, ends } = received;
    if (ends.size > 0)
      withOthers(
        transaction,
        othersIn(view.state).map((other) =>
          moved(other, ends, transaction.mapping.map(other.head)),
        ),
      );
    view.dispatch(transaction);
    push();
  }
  const moved = (other: Other, ends: ReadonlyMap<string, number>, mapped: number): Other => {
    const end = ends.get(other.client) ?? mapped;
    return { ...other, anchor: end, head: end };
  };

  function showPeople(all: readonly LivePerson[]): void {
    people.value = all;
    const view = page.view.value;
    if (!view) return;
    const known = new Map(othersIn(view.state).map((other) => [other.client, other]));
    const others = all.flatMap(({ client: who, name, place, caret }) => {
      const at = known.get(who) ?? caret;
      return who === ownName || !at
        ? []
        : [{ client: who, name, place, anchor: at.anchor, head: at.head }];
    });
    view.dispatch(withOthers(view.state.tr, others));
  }
  function placeOthers(
    carets: readonly { readonly client: string; readonly caret: Caret }[],
  ): void {
    const view = page.view.value;
    if (!view) return;
    const placed = carets.flatMap(({ client: who, caret: { anchor, head } }): Other[] => {
      const person = people.value.find((one) => one.client === who);
      if (!person || who === ownName) return [];
      return [{ client: who, name: person.name, place: person.place, anchor, head }];
    });
    const moved = new Set(placed.map((one) => one.client));
    const resting = othersIn(view.state).filter((other) => !moved.has(other.client));
    view.dispatch(withOthers(view.state.tr, [...resting, ...placed]));
  }

  function refused(answer: Ended): void {
    const current = state();
    if (answer.code === 'live.invalid' || answer.code === 'live.read-only') {
      // The page shows again what holds for everybody; the words are not lost.
      if (current) lost.value += unacknowledgedWords(current);
      isOpen.value = false;
      if (answer.code === 'live.invalid') return begin();
    }
    ended.value = answer;
    line.close();
    stopWaiting();
  }

  /** Sends what is new; until it is acknowledged nothing more is sent. */
  function push(): void {
    noteSafety();
    const current = state();
    if (
      !current ||
      isWaiting ||
      ended.value ||
      line.status.value !== 'OPEN' ||
      epoch === '' ||
      !hasUnacknowledged(current)
    )
      return;
    isWaiting = true;
    clearTimeout(late);
    late = setTimeout(() => line.open(), longestAnswer);
    say({ kind: 'steps', epoch, version: versionOf(current), steps: unacknowledged(current) });
  }

  function noteSafety(): void {
    const current = state();
    isSafe.value = !current || !hasUnacknowledged(current);
    if (isSafe.value) void settle();
    else isSettled.value = false;
    if (isSafe.value && isKept) {
      isKept = false;
      void forgetUnsent(nameOfTopic(), client);
    } else if (!isSafe.value) void keep();
  }
  const settle = useDebounceFn(() => (isSettled.value = isSafe.value), safetySettles);
  const keep = useDebounceFn(() => keepNow(), 400);
  async function keepNow(): Promise<void> {
    const current = state();
    if (!current || !acknowledged || !hasUnacknowledged(current)) return;
    isKept = true;
    await keepUnsent(nameOfTopic(), {
      client,
      epoch,
      version: versionOf(current),
      document: acknowledged.toJSON() as unknown,
      steps: unacknowledged(current),
    });
  }
  useEventListener(window, 'pagehide', () => void keepNow());

  const moveCaret = useThrottleFn(
    () => {
      const current = state();
      if (!current || line.status.value !== 'OPEN' || hasUnacknowledged(current)) return;
      say({
        kind: 'caret',
        caret: {
          version: versionOf(current),
          anchor: current.selection.anchor,
          head: current.selection.head,
        },
      });
    },
    100,
    true,
  );
  const name = (note: string): void => say({ kind: 'name', note });

  const saved = computed(() => {
    if (!isOpen.value) return '';
    if (ended.value) return 'Not kept any more';
    if (line.status.value !== 'OPEN')
      return isSafe.value ? 'Offline' : 'Offline: kept in this browser';
    return isSettled.value ? 'Saved' : 'Saving …';
  });
  onUnmounted(close);
  return {
    open,
    close,
    push,
    moveCaret,
    name,
    people,
    lost,
    ended,
    isSafe,
    isOpen,
    saved,
    ownName: () => ownName,
  };
}
