import {
  documentFrom,
  editorSchema,
  hasUnacknowledged,
  liveEditing,
  receiveSteps,
  unacknowledged,
  versionOf,
} from '@ukiyo/core/editing';
import type { LiveAnswer, LiveRequest } from '@ukiyo/contracts';
import { EditorState } from 'prosemirror-state';
import WebSocket from 'ws';

/**
 * Somebody who types without a browser, through the same line and with the same rules as the page.
 */
export class Robot {
  state: EditorState | undefined;
  /** Everything it typed, and how much of that the authority has acknowledged. */
  typed = '';
  #socket: WebSocket | undefined;
  #epoch = '';
  #ownName = '';
  #isWaiting = false;
  #isOver = false;
  #opened: () => void = () => undefined;

  constructor(
    private readonly address: string,
    private readonly cookie: string,
    readonly name: string,
    /** Which paragraph it writes in. */
    private readonly paragraph: number,
  ) {}

  /** Comes in; comes again by itself whenever the line breaks. */
  open(): Promise<void> {
    this.#connect();
    return new Promise((resolve) => (this.#opened = resolve));
  }
  #connect(): void {
    const socket = new WebSocket(this.address, { headers: { cookie: this.cookie } });
    this.#socket = socket;
    this.#isWaiting = false;
    socket.on('open', () => {
      this.#say({
        kind: 'open',
        client: this.name,
        ...(this.state ? { known: { epoch: this.#epoch, version: versionOf(this.state) } } : {}),
      });
      this.#push();
    });
    socket.on('message', (data) =>
      this.#hear(JSON.parse((data as Buffer).toString()) as LiveAnswer),
    );
    socket.on('error', () => undefined);
    socket.on('close', () => {
      if (!this.#isOver) setTimeout(() => this.#connect(), 200);
    });
  }
  #say(request: LiveRequest): void {
    this.#socket?.send(JSON.stringify(request));
  }
  #hear(answer: LiveAnswer): void {
    if (answer.kind === 'welcome') this.#ownName = answer.client;
    if (answer.kind === 'document') {
      if (this.state) throw new Error(`${this.name} was given a whole document again`);
      this.#epoch = answer.epoch;
      this.state = EditorState.create({
        doc: documentFrom(answer.document)!,
        plugins: [liveEditing({ version: answer.version, client: this.name })],
      });
      this.#opened();
    }
    if (answer.kind === 'refused') throw new Error(`${this.name}: ${answer.message}`);
    if (answer.kind !== 'steps' || !this.state) return;
    const authors = answer.clients.map((one) => (one === this.#ownName ? this.name : one));
    const received = receiveSteps(this.state, answer.version, answer.steps, authors);
    if (!received) throw new Error(`${this.name} missed steps`);
    this.state = this.state.apply(received.transaction);
    this.#isWaiting = false;
    this.#push();
  }
  #push(): void {
    if (
      !this.state ||
      this.#isWaiting ||
      this.#socket?.readyState !== WebSocket.OPEN ||
      this.#epoch === '' ||
      !hasUnacknowledged(this.state)
    )
      return;
    this.#isWaiting = true;
    this.#say({
      kind: 'steps',
      epoch: this.#epoch,
      version: versionOf(this.state),
      steps: unacknowledged(this.state),
    });
  }
  type(text: string): void {
    const { state } = this;
    if (!state) return;
    let end = 0;
    let count = 0;
    state.doc.descendants((node, position) => {
      if (node.type !== editorSchema.nodes['p']) return;
      if (count === this.paragraph) end = position + node.nodeSize - 1;
      count += 1;
    });
    this.state = state.apply(state.tr.insertText(text, end));
    this.typed += text;
    this.#push();
  }
  get isSafe(): boolean {
    return this.state !== undefined && !hasUnacknowledged(this.state);
  }
  close(): void {
    this.#isOver = true;
    this.#socket?.close();
  }
}
