import { createHash } from 'node:crypto';
import { ItemId, LiveDocument, LiveRequest, type LiveAnswer } from '@ukiyo/contracts';
import type { FastifyRequest } from 'fastify';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import type { WebSocket } from '@fastify/websocket';
import { z } from 'zod';
import type { OpenLines } from '../access/lines.ts';
import { permissionToChange } from '../access/roles.ts';
import type { Sessions } from '../access/sessions.ts';
import type { LiveKey } from '../data/live.ts';
import type { ItemStore } from '../data/items.ts';
import { gone, type Authority } from '../live/authority.ts';
import { meter } from '../live/budget.ts';
import type { Member } from '../live/presence.ts';
import type { Room } from '../live/room.ts';
import { eventLine } from './events.ts';
import { allow, grantOf, notFound, Refused } from './guard.ts';

/**
 * Messages that an editor may send: each counts as one unit for every 32 kB begun. A person typing
 * sends some fifteen in a second.
 */
const messageRate = { perSecond: 60, most: 300 } as const;
const unitBytes = 32 * 1024;
/**
 * Bytes of answers that an editor has not read yet. Beyond that its line is closed; it connects
 * again and gets the document.
 */
const mostWaiting = 32 * 1024 * 1024;
/** Use of a session is recorded at most this often, in ms: typing makes no other request. */
const touchEvery = 60_000;

/** An ended line is cut after this, in milliseconds. */
const timeToClose = 500;

type RefusalCode = Extract<LiveAnswer, { kind: 'refused' }>['code'];

function messageIn(data: Buffer): LiveRequest | undefined {
  try {
    return LiveRequest.safeParse(JSON.parse(data.toString())).data;
  } catch {
    return undefined;
  }
}

/**
 * The id under which everybody hears of an editor. Only the person whose editor made up the secret
 * gets the same one again, so that a line and its acknowledgements cannot be taken over.
 */
const publicId = (person: string, secret: string): string =>
  createHash('sha256').update(`${person} ${secret}`).digest('hex').slice(0, 24);

/** One line between an editor and the authority of a topic. */
class EditorLine {
  #folder = '';
  #hasEnded = false;
  #member: Member | undefined;
  #room: Room | undefined;
  /** One message after the other, in the order in which they came. */
  #turn: Promise<void> = Promise.resolve();

  constructor(
    private readonly socket: WebSocket,
    private readonly key: LiveKey,
    private readonly request: FastifyRequest,
    private readonly stores: { readonly items: ItemStore; readonly authority: Authority },
  ) {}

  readonly send = (answer: string): void => {
    if (this.socket.bufferedAmount > mostWaiting) this.socket.terminate();
    else if (this.socket.readyState === this.socket.OPEN) this.socket.send(answer);
  };
  refuse(code: RefusalCode, message: string): void {
    this.send(JSON.stringify({ kind: 'refused', code, message } satisfies LiveAnswer));
  }
  hear(data: Buffer): void {
    const message = messageIn(data);
    if (!message)
      return this.refuse('live.not-understood', 'The server could not read this message.');
    this.#turn = this.#turn
      .then(() => this.#take(message))
      .catch((error: unknown) => this.fail(error));
  }
  /**
   * Takes nothing more, whether or not the other side answers that it has heard (RFC 6455, 7.1.1).
   */
  end(code: number): void {
    this.#hasEnded = true;
    this.socket.close(code);
    setTimeout(() => this.socket.terminate(), timeToClose).unref();
  }
  /** The editor comes again and sends what was not acknowledged. */
  fail(error: unknown): void {
    this.request.log.error(error);
    this.end(1011);
  }
  async leave(): Promise<void> {
    if (this.#room && this.#member) await this.stores.authority.leave(this.#room, this.#member);
  }

  async #open(message: Extract<LiveRequest, { kind: 'open' }>): Promise<void> {
    if (this.#member) return;
    const { project, item } = this.key;
    const { person } = grantOf(this.request);
    const member: Member = {
      client: publicId(person.id, message.client),
      name: person.name,
      send: this.send,
      end: () => this.end(4409),
    };
    this.#member = member;
    this.#folder = (await this.stores.items.folderOf(project, item)) ?? '';
    this.#room = await this.stores.authority.join(this.key, member, message.known);
    if (!this.#room)
      this.refuse(
        'live.unreadable',
        'This topic cannot be edited on the page: it is not in the library, its text cannot ' +
          'be read, or it is too large.',
      );
    // Gone again before it was let in.
    else if (this.socket.readyState !== this.socket.OPEN) await this.leave();
  }
  async #take(message: LiveRequest): Promise<void> {
    if (this.#hasEnded) return;
    if (message.kind === 'open') return this.#open(message);
    const room = this.#room;
    const member = this.#member;
    if (!room || !member) return;
    if (message.kind === 'caret') return room.moveCaret(member, message.caret);
    // Made on a document that is no more: the whole new one is on its way.
    if (message.kind === 'steps' && message.epoch !== room.epoch) return;
    if (!grantOf(this.request).permissions.has(permissionToChange(this.#folder)))
      return this.refuse('live.read-only', 'Your role does not allow changes to topics.');
    if (message.kind === 'name') return void (await room.write(message.note, member.name));
    const outcome = await room.submit(member, message.version, message.steps);
    if (outcome === 'gone') room.dismiss('live.gone', gone);
    if (typeof outcome === 'object')
      this.refuse('live.invalid', `This change cannot be kept: ${outcome.refusal}`);
  }
}

/**
 * Lets a line say as much as its budget allows; what comes faster waits in the network, and nothing
 * is lost.
 */
function metered(socket: WebSocket, hear: (data: Buffer) => void): void {
  const spend = meter(messageRate);
  socket.on('message', (data: Buffer) => {
    hear(data);
    const rest = spend(1 + data.byteLength / unitBytes, performance.now());
    if (rest <= 0) return;
    socket.pause();
    setTimeout(() => socket.resume(), rest);
  });
}

/** The lines between editors and the authority of their topic. */
export const liveRoutes =
  (
    { sessions, items }: { readonly sessions: Sessions; readonly items: ItemStore },
    lines: OpenLines,
    authority: Authority,
  ): FastifyPluginAsyncZod =>
  async (app) => {
    const params = z.object({ project: z.uuid(), id: ItemId });
    app.get(
      '/live/:id/document',
      allow('read', { params, response: { 200: LiveDocument } }),
      async ({ params: { project, id } }) => {
        const document = await authority.read({ project, item: id });
        if (!document) throw notFound('topic');
        return document;
      },
    );
    app.get(
      '/live/:id',
      { websocket: true, config: { permission: 'read' }, schema: { params } },
      (socket, request) => {
        const key = { project: request.params.project, item: request.params.id };
        const { access } = grantOf(request);
        const line = new EditorLine(socket, key, request, { items, authority });
        let closed: () => void;
        try {
          closed = eventLine(lines, request, `live:${key.project}/${key.item}`, () =>
            line.end(4401),
          );
        } catch (error) {
          if (!(error instanceof Refused)) throw error;
          line.refuse('live.too-many', error.message);
          return line.end(4429);
        }
        let touchedAt = Date.now();
        metered(socket, (data) => {
          line.hear(data);
          if (access.kind !== 'session' || Date.now() - touchedAt < touchEvery) return;
          touchedAt = Date.now();
          void sessions.touch(access.id).catch((error: unknown) => line.fail(error));
        });
        socket.on('error', (error) => request.log.info(error));
        socket.on('close', () => {
          closed();
          void line.leave().catch((error: unknown) => request.log.error(error));
        });
      },
    );
  };
