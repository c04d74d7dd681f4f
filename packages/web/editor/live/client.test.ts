import type { LiveAnswer, LiveRequest } from '@ukiyo/contracts';
import {
  applySteps,
  documentFrom,
  liveEditing,
  stepTo,
  toEditor,
  fromEditor,
} from '@ukiyo/core/editing';
import { element } from '@ukiyo/core/markup';
import type { Node as EditorNode } from 'prosemirror-model';
import { EditorState } from 'prosemirror-state';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { closedStatus, LiveClient, type Opening } from './client.ts';
import type { Unsent } from './unsent.ts';

const epoch = '11111111-1111-4111-8111-111111111111';
const documentWith = (words: string): EditorNode =>
  documentFrom(
    toEditor(
      element('concept', { id: 'c' }, [
        element('title', {}, ['Winding']),
        element('conbody', {}, [element('p', {}, [words])]),
      ]),
    ).toJSON(),
  )!;

/** Puts the steps of all editors in one order, as the server does, over lines that can be cut. */
class Authority {
  document = documentWith('Wind it.');
  readonly steps: unknown[] = [];
  readonly clients: string[] = [];
  epoch = epoch;
  /** Hears what is said, and never answers. */
  isSilent = false;
  readonly lines = new Set<(answer: LiveAnswer) => void>();

  hear(name: string, request: LiveRequest, answer: (answer: LiveAnswer) => void): void {
    if (this.isSilent) return;
    if (request.kind === 'open') {
      answer({ kind: 'welcome', client: name });
      if (request.known?.epoch === this.epoch) this.#send(request.known.version, answer);
      else
        answer({
          kind: 'document',
          epoch: this.epoch,
          version: this.steps.length,
          document: this.document.toJSON(),
        });
    }
    if (request.kind !== 'steps' || request.version !== this.steps.length) return;
    this.take(request.steps, name);
  }
  take(steps: readonly unknown[], name: string): void {
    const applied = applySteps(this.document, steps);
    if ('refusal' in applied) throw new Error(applied.refusal);
    this.document = applied.document;
    const before = this.steps.length;
    this.steps.push(...steps);
    this.clients.push(...steps.map(() => name));
    for (const line of this.lines) this.#send(before, line);
  }
  #send(version: number, answer: (answer: LiveAnswer) => void): void {
    const steps = this.steps.slice(version);
    answer({ kind: 'steps', version, steps, clients: this.clients.slice(version) });
  }
}

/** What editors of this browser keep, and which of them are still there. */
function memory() {
  const kept = new Map<string, Unsent>();
  const alive = new Set<string>();
  return {
    kept,
    alive,
    store: {
      stayAlive: (client: string) => void alive.add(client),
      keep: async (topic: string, unsent: Unsent) =>
        void kept.set(`${topic} ${unsent.client}`, structuredClone(unsent)),
      forget: async (topic: string, client: string) => void kept.delete(`${topic} ${client}`),
      abandoned: async (topic: string) =>
        [...kept].find(([key, { client }]) => key.startsWith(topic) && !alive.has(client))?.[1],
    },
  };
}

/** One editor with its page and its line to the authority. */
class Editor {
  state: EditorState | undefined;
  status = closedStatus;
  /** What a key has done to the page, which has not told it yet. */
  untold = '';
  isOpen = false;
  opened = 0;
  readonly said: LiveRequest['kind'][] = [];
  readonly client: LiveClient;
  readonly #authority: Authority;
  readonly #hear = (answer: LiveAnswer): void => this.client.hear(JSON.stringify(answer));

  constructor(authority: Authority, name: string, store = memory().store) {
    this.#authority = authority;
    const line = {
      isOpen: () => this.isOpen,
      open: () => {
        this.cut();
        this.opened += 1;
        this.isOpen = true;
        authority.lines.add(this.#hear);
        this.client.connected();
      },
      close: () => this.cut(),
      send: (request: LiveRequest) => {
        this.said.push(request.kind);
        authority.hear(name, request, this.#hear);
      },
    };
    const page = {
      state: () => this.state,
      dispatch: (transaction: EditorState['tr']) =>
        void (this.state = this.state!.apply(transaction)),
      lay: (opening: Opening) => {
        const state = EditorState.create({
          doc: opening.document,
          plugins: [liveEditing(opening)],
        });
        const left = applySteps(opening.document, opening.steps);
        const steps = 'steps' in left ? left.steps : [];
        this.state = state.apply(steps.reduce((all, step) => all.step(step), state.tr));
      },
      stored: () => undefined,
      catchUp: () => {
        const words = this.untold;
        this.untold = '';
        if (words !== '') this.write(words);
      },
    };
    this.client = new LiveClient(line, page, store, (status) => void (this.status = status));
  }
  cut(): void {
    this.isOpen = false;
    this.#authority.lines.delete(this.#hear);
    this.client.disconnected();
  }
  reconnect(): void {
    this.isOpen = true;
    this.#authority.lines.add(this.#hear);
    this.client.connected();
  }
  get text(): string {
    return this.state!.doc.textContent;
  }
  write(words: string): void {
    this.state = this.state!.apply(
      this.state!.tr.insertText(words, this.state!.doc.content.size - 3),
    );
    this.client.push();
  }
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('brings two editors to the same text, and says when everything is acknowledged', async () => {
  const authority = new Authority();
  const [one, other] = [new Editor(authority, 'one'), new Editor(authority, 'other')];
  await one.client.open('t');
  await other.client.open('t');
  expect(one.status).toMatchObject({ isOpen: true, isSafe: true });
  authority.isSilent = true;
  one.write(' Daily');
  expect(one.status.isSafe).toBe(false);
  authority.isSilent = false;
  other.write(' Twice');
  await vi.advanceTimersByTimeAsync(10_000);
  expect(one.status.isSafe).toBe(true);
  expect(one.text).toContain('Daily');
  expect(one.text).toContain('Twice');
  expect(other.text).toBe(one.text);
  expect(authority.document.textContent).toBe(one.text);
});

it('goes on where it was when the line comes back', async () => {
  const authority = new Authority();
  const [one, other] = [new Editor(authority, 'one'), new Editor(authority, 'other')];
  await one.client.open('t');
  await other.client.open('t');
  one.cut();
  one.write(' Alone');
  other.write(' Meanwhile');
  expect(one.status.isSafe).toBe(false);
  one.reconnect();
  expect(one.status).toMatchObject({ isSafe: true, lost: '' });
  expect(other.text).toBe(one.text);
  expect(one.text).toContain('Alone');
  expect(one.text).toContain('Meanwhile');
});

it('begins with a document that was read before, and asks only for what is newer', async () => {
  const authority = new Authority();
  const early = { epoch, version: 0, document: authority.document.toJSON() as unknown };
  const other = new Editor(authority, 'other');
  await other.client.open('t');
  other.write(' Twice');
  const one = new Editor(authority, 'one');
  const heard = vi.spyOn(authority, 'hear');
  await one.client.open('t', Promise.resolve(), Promise.resolve(early));
  expect(heard.mock.calls[0]![1]).toMatchObject({ known: { epoch, version: 0 } });
  expect(one.text).toContain('Twice');
  one.write(' Daily');
  expect(one.status).toMatchObject({ isOpen: true, isSafe: true, lost: '' });
  expect(other.text).toBe(one.text);
});

it('shows a document that was read before without a line, and keeps what is typed', async () => {
  const authority = new Authority();
  authority.isSilent = true;
  const early = { epoch, version: 0, document: authority.document.toJSON() as unknown };
  const one = new Editor(authority, 'one');
  await one.client.open('t', Promise.resolve(), Promise.resolve(early));
  one.write(' Early');
  expect(one.status).toMatchObject({ isOpen: true, isSafe: false });
  authority.isSilent = false;
  one.reconnect();
  expect(authority.document.textContent).toContain('Early');
  expect(one.status.isSafe).toBe(true);
});

it('takes the whole document where the one that was read before is of another epoch', async () => {
  const authority = new Authority();
  const other = '22222222-2222-4222-8222-222222222222';
  const document = documentWith('Older.').toJSON() as unknown;
  const one = new Editor(authority, 'one');
  await one.client.open(
    't',
    Promise.resolve(),
    Promise.resolve({ epoch: other, version: 7, document }),
  );
  expect(one.text).toContain('Wind it.');
  expect(one.status).toMatchObject({ isOpen: true, lost: '' });
});

it('opens the line anew when steps are not answered in eight seconds', async () => {
  const authority = new Authority();
  const one = new Editor(authority, 'one');
  await one.client.open('t');
  authority.isSilent = true;
  one.write(' Slowly');
  await vi.advanceTimersByTimeAsync(7_900);
  expect(one.opened).toBe(1);
  authority.isSilent = false;
  await vi.advanceTimersByTimeAsync(200);
  expect(one.opened).toBe(2);
  expect(authority.document.textContent).toContain('Slowly');
});

it('gives words back when the document they were written on is no more', async () => {
  const authority = new Authority();
  const one = new Editor(authority, 'one');
  await one.client.open('t');
  one.cut();
  one.write(' Unkept words');
  authority.epoch = '22222222-2222-4222-8222-222222222222';
  authority.document = documentWith('Another text.');
  authority.steps.length = 0;
  one.reconnect();
  expect(one.status.lost).toContain('Unkept words');
  expect(one.text).toContain('Another text.');
  one.client.forgetLost();
  expect(one.status.lost).toBe('');
});

it('gives words back that were typed into a paragraph somebody removed', async () => {
  const authority = new Authority();
  const one = new Editor(authority, 'one');
  await one.client.open('t');
  one.cut();
  one.write(' Typed into it');
  const { document } = authority;
  const root = fromEditor(document);
  const step = stepTo(document, { ...root, children: root.children.slice(0, 1) })!;
  authority.take([step.toJSON()], 'other');
  one.reconnect();
  expect(one.status).toMatchObject({ isSafe: true });
  expect(one.status.lost).toContain('Typed into it');
});

it('keeps what is not acknowledged in the browser, and the next editor sends it', async () => {
  const authority = new Authority();
  const { kept, alive, store } = memory();
  const one = new Editor(authority, 'one', store);
  await one.client.open('t');
  one.cut();
  one.write(' Kept here');
  expect(kept.size).toBe(0);
  await vi.advanceTimersByTimeAsync(500);
  expect(kept.size).toBe(1);
  // The page is closed: nobody holds its name any more.
  alive.clear();
  const next = new Editor(authority, 'next', store);
  await next.client.open('t');
  expect(next.text).toContain('Kept here');
  expect(authority.document.textContent).toContain('Kept here');
  expect(kept.size).toBe(0);
});

it('sends nothing more once it was refused, and keeps its page', async () => {
  const authority = new Authority();
  const one = new Editor(authority, 'one');
  await one.client.open('t');
  one.client.hear(JSON.stringify({ kind: 'refused', code: 'live.gone', message: 'Removed.' }));
  expect(one.status.ended?.code).toBe('live.gone');
  expect(one.isOpen).toBe(false);
  const before = one.said.length;
  one.write(' Into nothing');
  expect(one.said).toHaveLength(before);
  expect(one.text).toContain('Into nothing');
});

it('takes over what the page has not told yet, before it changes the page', async () => {
  const authority = new Authority();
  const [one, other] = [new Editor(authority, 'one'), new Editor(authority, 'other')];
  await one.client.open('t');
  await other.client.open('t');
  one.untold = ' Untold';
  other.write(' First');
  other.write(' Second');
  await vi.advanceTimersByTimeAsync(20);
  expect(one.text).toContain('Untold');
  expect(one.text).toBe(other.text);
});

it('opens the line at once, and shows nothing before the page is ready', async () => {
  const authority = new Authority();
  const [one, other] = [new Editor(authority, 'one'), new Editor(authority, 'other')];
  await other.client.open('t');
  let ready = (): void => undefined;
  const opening = one.client.open('t', new Promise<void>((resolve) => (ready = resolve)));
  await vi.advanceTimersByTimeAsync(0);
  expect(one.isOpen).toBe(true);
  other.write(' Meanwhile');
  await vi.advanceTimersByTimeAsync(100);
  expect(one.state).toBeUndefined();
  ready();
  await opening;
  expect(one.text).toContain('Meanwhile');
  expect(one.text).toBe(other.text);
});

it('passes over messages that it does not understand', async () => {
  const authority = new Authority();
  const one = new Editor(authority, 'one');
  await one.client.open('t');
  one.client.hear('{"kind":"song"}');
  authority.take([], 'other');
  one.write(' Still here');
  expect(authority.document.textContent).toContain('Still here');
});
