import { LiveAnswer, type LiveDocument, type LivePerson, type LiveRequest } from '@ukiyo/contracts';
import {
  documentFrom,
  hasUnacknowledged,
  receiveSteps,
  unacknowledged,
  unacknowledgedWords,
  versionOf,
} from '@ukiyo/core/editing';
import { useDebounceFn, useThrottleFn } from '@vueuse/core';
import type { Node as EditorNode } from 'prosemirror-model';
import type { EditorState, Transaction } from 'prosemirror-state';
import { afterSteps, withCarets, withPeople } from './carets.ts';
import type { UnsentStore } from './unsent.ts';

/** The document with which an editor starts. */
export interface Opening {
  readonly document: EditorNode;
  readonly version: number;
  readonly client: string;
  /** Steps made on it that are not acknowledged yet. */
  readonly steps: readonly unknown[];
}

/** The answer after which the authority accepts nothing more from this editor, with the reason. */
export type Ended = Extract<LiveAnswer, { kind: 'refused' }>;

/** The connection to the authority of the topic; it connects again by itself when it is lost. */
export interface LiveLine {
  readonly isOpen: () => boolean;
  /** Opens the line, or opens it again. */
  readonly open: () => void;
  readonly close: () => void;
  readonly send: (request: LiveRequest) => void;
}

/** The page on which the topic is edited. */
export interface LivePage {
  readonly state: () => EditorState | undefined;
  readonly dispatch: (transaction: Transaction) => void;
  /** Replaces the document on the page. */
  readonly lay: (opening: Opening) => void;
  /** Called when the text in the library has been brought up to date. */
  readonly stored: (itemVersion: number, title: string) => void;
  /** Takes over what a click or a key has done to the page by now. */
  readonly catchUp: () => void;
}

/** The state of the work on one topic, for display. */
export interface LiveStatus {
  /** All people in the topic, including this editor. */
  readonly people: readonly LivePerson[];
  /** Text that could not be merged, to be offered to the person. */
  readonly lost: string;
  readonly ended: Ended | undefined;
  /** Whether the authority has acknowledged everything. */
  readonly isSafe: boolean;
  readonly isOpen: boolean;
}

export const closedStatus: LiveStatus = {
  people: [],
  lost: '',
  ended: undefined,
  isSafe: true,
  isOpen: false,
};

/** After this many ms without an answer to steps the line is opened again. */
const longestAnswer = 8000;
/** Changes are kept in the browser this many ms after the last one. */
const keepDelay = 400;
/** The caret is sent to others at most once in this many ms. */
const caretInterval = 100;

/**
 * Keeps a page in step with the authority of its topic. Steps are kept in this browser until they
 * are acknowledged, through lost connections and reloads; text that can no longer be merged is
 * offered to the person.
 */
export class LiveClient {
  readonly #line: LiveLine;
  readonly #page: LivePage;
  readonly #store: UnsentStore;
  readonly #tell: (status: LiveStatus) => void;
  #status = closedStatus;
  #topic: string | undefined;
  /** Known only to this editor and the authority. */
  #client = '';
  /** The public name of this editor. */
  #ownName = '';
  #epoch = '';
  /** The last document that the authority has acknowledged entirely. */
  #acknowledged: EditorNode | undefined;
  /** Whether steps were sent that are not answered yet. */
  #isWaiting = false;
  /** Whether the store of this browser has steps of this editor. */
  #isKept = false;
  #answerTimer: ReturnType<typeof setTimeout> | undefined;
  #isPageReady = false;
  /** Answers that wait until the page may be changed. */
  readonly #held: LiveAnswer[] = [];

  constructor(
    line: LiveLine,
    page: LivePage,
    store: UnsentStore,
    tell: (status: LiveStatus) => void,
  ) {
    this.#line = line;
    this.#page = page;
    this.#store = store;
    this.#tell = tell;
  }

  get ownName(): string {
    return this.#ownName;
  }

  /**
   * Opens a topic: first from steps that were left behind in this browser or from a document that
   * was read before, then from the authority.
   * @param topic a name that no other topic of any library has
   * @param ready once it resolves, the page can be changed; the line is opened before that, unless
   *   the page is laid first
   * @param early the document of the topic, if it was requested before; must not reject
   */
  async open(
    topic: string,
    ready: Promise<unknown> = Promise.resolve(),
    early: Promise<LiveDocument | undefined> = Promise.resolve(undefined),
  ): Promise<void> {
    this.close();
    this.#topic = topic;
    this.#isPageReady = false;
    const left = await this.#store.abandoned(topic);
    const start = left ?? (await early);
    if (start) await ready;
    if (this.#topic !== topic) return;
    const document = start && documentFrom(start.document);
    this.#client = left && document ? left.client : newClientName();
    this.#store.stayAlive(this.#client);
    if (start && document) {
      this.#epoch = start.epoch;
      this.#isKept = left !== undefined;
      const steps = left?.steps ?? [];
      this.#lay({ document, version: start.version, client: this.#client, steps });
    }
    this.#line.open();
    await ready;
    if (this.#topic !== topic) return;
    this.#isPageReady = true;
    this.#release();
  }

  close(): void {
    this.#line.close();
    this.#stopWaiting();
    this.#topic = undefined;
    this.#epoch = '';
    this.#acknowledged = undefined;
    this.#isKept = false;
    this.#held.length = 0;
    this.#update(closedStatus);
  }

  /** Called when the line is open: sends the known version and unacknowledged steps. */
  connected(): void {
    const state = this.#page.state();
    const known =
      this.#epoch !== '' && state
        ? { known: { epoch: this.#epoch, version: versionOf(state) } }
        : {};
    this.#line.send({ kind: 'open', client: this.#client, ...known });
    if (this.#epoch !== '') this.push();
  }

  disconnected(): void {
    this.#stopWaiting();
  }

  /** Handles a message of the authority; unknown messages are ignored. */
  hear(message: string): void {
    const answer = LiveAnswer.safeParse(JSON.parse(message)).data;
    if (answer) this.#held.push(answer);
    if (this.#held.length === 1) this.#release();
  }

  /** Sends new steps, and no more until they are acknowledged. */
  push(): void {
    this.#noteSafety();
    const state = this.#page.state();
    const maySend =
      !this.#isWaiting && !this.#status.ended && this.#line.isOpen() && this.#epoch !== '';
    if (!state || !maySend || !hasUnacknowledged(state)) return;
    this.#isWaiting = true;
    clearTimeout(this.#answerTimer);
    this.#answerTimer = setTimeout(() => this.#line.open(), longestAnswer);
    this.#line.send({
      kind: 'steps',
      epoch: this.#epoch,
      version: versionOf(state),
      steps: unacknowledged(state),
    });
  }

  /** Sends the caret to the others, if they have the same document. */
  readonly moveCaret = useThrottleFn(
    () => {
      const state = this.#page.state();
      if (!state || !this.#line.isOpen() || hasUnacknowledged(state)) return;
      const { anchor, head } = state.selection;
      this.#line.send({ kind: 'caret', caret: { version: versionOf(state), anchor, head } });
    },
    caretInterval,
    true,
  );

  /** Names the current version. */
  name(note: string): void {
    this.#line.send({ kind: 'name', note });
  }

  /** Discards the text that was offered. */
  forgetLost(): void {
    this.#update({ lost: '' });
  }

  /** Stores unacknowledged steps in this browser at once. */
  async keep(): Promise<void> {
    const state = this.#page.state();
    if (this.#topic === undefined || !state || !this.#acknowledged || !hasUnacknowledged(state))
      return;
    this.#isKept = true;
    await this.#store.keep(this.#topic, {
      client: this.#client,
      epoch: this.#epoch,
      version: versionOf(state),
      document: this.#acknowledged.toJSON() as unknown,
      steps: unacknowledged(state),
    });
  }
  readonly #keepSoon = useDebounceFn(() => this.keep(), keepDelay);

  #update(change: Partial<LiveStatus>): void {
    this.#status = { ...this.#status, ...change };
    this.#tell(this.#status);
  }

  #lay(opening: Opening): void {
    this.#acknowledged = opening.document;
    this.#page.lay(opening);
    this.#update({ isOpen: true });
    this.#noteSafety();
  }

  #noteSafety(): void {
    const state = this.#page.state();
    const isSafe = !state || !hasUnacknowledged(state);
    if (isSafe !== this.#status.isSafe) this.#update({ isSafe });
    if (!isSafe) void this.#keepSoon();
    else if (this.#isKept && this.#topic !== undefined) {
      this.#isKept = false;
      void this.#store.forget(this.#topic, this.#client);
    }
  }

  #stopWaiting(): void {
    this.#isWaiting = false;
    clearTimeout(this.#answerTimer);
  }

  /** Connects again for the whole document. */
  #begin(): void {
    this.#epoch = '';
    this.#line.open();
  }

  #release(): void {
    if (!this.#isPageReady) return;
    this.#page.catchUp();
    for (let answer = this.#held.shift(); answer; answer = this.#held.shift()) this.#take(answer);
  }

  #take(answer: LiveAnswer): void {
    if (answer.kind === 'welcome') this.#ownName = answer.client;
    else if (answer.kind === 'document') this.#replace(answer);
    else if (answer.kind === 'steps') this.#receive(answer);
    else if (answer.kind === 'stored') this.#page.stored(answer.itemVersion, answer.title);
    else if (answer.kind === 'refused') this.#refused(answer);
    else this.#showOthers(answer);
  }

  #replace(answer: Extract<LiveAnswer, { kind: 'document' }>): void {
    const document = documentFrom(answer.document);
    // Unacknowledged steps belong to a document that no longer exists.
    if (this.#status.isOpen) this.#giveBack();
    this.#epoch = answer.epoch;
    if (document) this.#lay({ document, version: answer.version, client: this.#client, steps: [] });
  }

  #receive({ version, steps, clients }: Extract<LiveAnswer, { kind: 'steps' }>): void {
    const state = this.#page.state();
    if (!state || !this.#acknowledged) return;
    const authors = clients.map((one) => (one === this.#ownName ? this.#client : one));
    const received = receiveSteps(state, version, steps, authors);
    if (!received) return this.#begin();
    this.#acknowledged = received.steps.reduce(
      (document, step) => step.apply(document).doc ?? document,
      this.#acknowledged,
    );
    this.#stopWaiting();
    if (received.lost !== '') this.#update({ lost: this.#status.lost + received.lost });
    this.#page.dispatch(afterSteps(state, received));
    this.push();
  }

  #showOthers(answer: Extract<LiveAnswer, { kind: 'people' | 'carets' }>): void {
    if (answer.kind === 'people') this.#update({ people: answer.people });
    const state = this.#page.state();
    if (!state) return;
    const others = this.#status.people.filter(({ client }) => client !== this.#ownName);
    this.#page.dispatch(
      answer.kind === 'people'
        ? withPeople(state, others)
        : withCarets(state, others, answer.carets),
    );
  }

  #giveBack(): void {
    const state = this.#page.state();
    if (state) this.#update({ lost: this.#status.lost + unacknowledgedWords(state) });
  }

  #refused(answer: Ended): void {
    if (answer.code === 'live.invalid' || answer.code === 'live.read-only') {
      // The page shows the shared document again; the text is not lost.
      this.#giveBack();
      this.#update({ isOpen: false });
      if (answer.code === 'live.invalid') return this.#begin();
    }
    this.#update({ ended: answer });
    this.#line.close();
    this.#stopWaiting();
  }
}

const newClientName = (): string =>
  [...crypto.getRandomValues(new Uint32Array(3))].map((number) => number.toString(36)).join('-');
