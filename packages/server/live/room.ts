import type { Caret, LiveAnswer, LiveDocument } from '@ukiyo/contracts';
import { applySteps, documentFrom, type AppliedSteps } from '@ukiyo/core/editing';
import type { LiveKey, LiveLog } from '../data/live.ts';
import type { Drafting } from './drafting.ts';
import { Growth, tooLarge } from './limits.ts';
import { Presence, tell, type Member } from './presence.ts';

type Document = Extract<AppliedSteps, { document: unknown }>['document'];

/** What a room needs from the server. */
export interface RoomGround {
  readonly log: LiveLog;
  readonly drafting: Drafting;
  /** Fingerprint of the schema of documents in this program. */
  readonly schema: string;
  /** Called with errors that keep the text from following the log. */
  readonly failed: (error: unknown) => void;
}

/** The state in which a room is opened. */
interface Start {
  readonly epoch: string;
  readonly document: Document;
  readonly version: number;
  /** The version of the stored text. */
  readonly stored: number;
}

export interface Author {
  readonly client: string;
  readonly name: string;
}

/** The text is written after a pause in typing, and at the latest after a while; in ms. */
const restBeforeWriting = 800;
const longestUnstored = 8000;
/** Steps kept in memory for editors that fall behind; older ones are read from the log. */
const recentSteps = 500;

interface Held {
  readonly step: unknown;
  readonly client: string;
}

/**
 * The document of one topic in this process. It applies steps one after the other, writes them to
 * the log and sends them to all members.
 */
export class Room {
  readonly #presence = new Presence();
  readonly #authors = new Set<string>();
  readonly #growth = new Growth();
  #recent: Held[] = [];
  #turn: Promise<unknown> = Promise.resolve();
  readonly epoch: string;
  #stored: number;
  #dirtySince = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #coming = 0;

  private document: Document;
  private version: number;

  private constructor(
    readonly key: LiveKey,
    private readonly ground: RoomGround,
    { epoch, document, version, stored }: Start,
  ) {
    this.epoch = epoch;
    this.document = document;
    this.version = version;
    this.#stored = stored;
  }

  /** Undefined if the topic does not exist, or its text or its log cannot be read. */
  static async open(key: LiveKey, ground: RoomGround): Promise<Room | undefined> {
    const { log, drafting, schema } = ground;
    const opened = await log.open(key, schema, drafting.begin);
    const start = opened && documentFrom(opened.document.document);
    const applied =
      start &&
      applySteps(
        start,
        opened.steps.map(({ step }) => step),
      );
    const room =
      applied && 'document' in applied
        ? new Room(key, ground, {
            epoch: opened.document.epoch,
            document: applied.document,
            version: opened.document.version + opened.steps.length,
            stored: opened.document.version,
          })
        : undefined;
    if (!opened || (room && opened.document.schema === schema)) return room;
    // A log of another schema: its steps are written to the text as far as they can be read, and
    // the document is read from that text.
    if (room) {
      for (const { person } of opened.steps) room.#authors.add(person);
      await room.write('');
    }
    await log.end(key);
    return Room.open(key, ground);
  }

  get isEmpty(): boolean {
    return this.#presence.isEmpty && this.#coming === 0;
  }

  /** Acts on one document run one after the other. */
  #inTurn<Value>(act: () => Promise<Value>): Promise<Value> {
    const next = this.#turn.then(act);
    this.#turn = next.catch(() => undefined);
    return next;
  }

  /** @param known the version that the editor has, if it was a member before */
  join(member: Member, known?: { epoch: string; version: number }): Promise<void> {
    this.#coming += 1;
    return this.#inTurn(async () => {
      this.#coming -= 1;
      this.#presence.enter(member);
      tell([member], { kind: 'welcome', client: member.client });
      if (known?.epoch === this.epoch && known.version <= this.version)
        await this.#sendSince(member, known.version);
      else this.#sendWhole(member);
    });
  }
  leave(member: Member): void {
    this.#presence.leave(member);
  }
  /** The current document, for an editor that is about to join. */
  read(): Promise<LiveDocument> {
    return this.#inTurn(async () => this.#whole());
  }

  #whole(): LiveDocument {
    const document = this.document.toJSON() as unknown;
    return { epoch: this.epoch, version: this.version, document };
  }
  #sendWhole(member: Member): void {
    tell([member], { kind: 'document', ...this.#whole() });
  }
  async #sendSince(member: Member, version: number): Promise<void> {
    const behind = this.version - version;
    const held: Held[] =
      behind <= this.#recent.length
        ? this.#recent.slice(this.#recent.length - behind)
        : await this.ground.log.since(this.key, this.epoch, version);
    if (held.length === behind)
      tell([member], {
        kind: 'steps',
        version,
        steps: held.map(({ step }) => step),
        clients: held.map(({ client }) => client),
      });
    else this.#sendWhole(member);
  }

  /**
   * Applies the steps if they were made on the current version. Otherwise the editor is about to
   * receive newer steps, and sends its own again after them.
   */
  submit(
    author: Author,
    version: number,
    steps: readonly unknown[],
  ): Promise<'kept' | 'behind' | 'gone' | { refusal: string }> {
    return this.#inTurn(async () => {
      if (version !== this.version) return 'behind';
      const applied = applySteps(this.document, steps);
      if ('refusal' in applied) return applied;
      if (!this.#growth.admits(applied.document, JSON.stringify(steps).length))
        return { refusal: tooLarge };
      const { client, name: person } = author;
      const made = { epoch: this.epoch, version, steps, client, person };
      const kept = await this.ground.log.append(this.key, made);
      if (kept === 'raced') await this.#follow();
      if (kept !== 'kept') return kept === 'raced' ? 'behind' : 'gone';
      this.#take(
        applied.document,
        steps.map((step) => ({ step, client: author.client })),
        [author.name],
      );
      return 'kept';
    });
  }

  #take(document: Document, steps: readonly Held[], authors: readonly string[]): void {
    const version = this.version;
    this.document = document;
    this.version += steps.length;
    this.#recent = [...this.#recent, ...steps].slice(-recentSteps);
    for (const author of authors) this.#authors.add(author);
    const answer: LiveAnswer = {
      kind: 'steps',
      version,
      steps: steps.map(({ step }) => step),
      clients: steps.map(({ client }) => client),
    };
    tell(this.#presence.members, answer);
    this.#writeSoon();
  }

  /** The log has reached this version: another process of this database may have added to it. */
  follow(version: number): Promise<void> {
    return this.#inTurn(async () => {
      if (version > this.version) await this.#follow();
    });
  }
  async #follow(): Promise<void> {
    const newer = await this.ground.log.since(this.key, this.epoch, this.version);
    const applied =
      newer.length > 0
        ? applySteps(
            this.document,
            newer.map(({ step }) => step),
          )
        : undefined;
    if (applied && 'document' in applied)
      this.#take(
        applied.document,
        newer,
        newer.map(({ person }) => person),
      );
  }

  moveCaret(member: Member, caret: Caret): void {
    this.#presence.moveCaret(member, caret);
  }

  #writeSoon(): void {
    const now = Date.now();
    if (this.#dirtySince === 0) this.#dirtySince = now;
    clearTimeout(this.#timer);
    const wait = Math.max(0, Math.min(restBeforeWriting, this.#dirtySince + longestUnstored - now));
    // A text that could not be written is written with the next step, or when the room or the
    // server closes.
    this.#timer = setTimeout(() => void this.write('').catch(this.ground.failed), wait);
  }

  /**
   * Writes text, derived data and revision. A note names the revision. False if the topic was
   * removed.
   */
  write(note: string, author?: string): Promise<boolean> {
    return this.#inTurn(async () => {
      clearTimeout(this.#timer);
      if (this.#stored === this.version && note === '') return true;
      const { version, document } = this.current;
      const { text, title } = await this.ground.drafting.draft(document);
      const authors = author ?? [...this.#authors].join(', ');
      const itemVersion = await this.ground.log.write(this.key, {
        epoch: this.epoch,
        version,
        document,
        text,
        note,
        author: authors,
      });
      if (itemVersion === undefined) return false;
      this.#stored = version;
      this.#dirtySince = 0;
      this.#authors.clear();
      tell(this.#presence.members, { kind: 'stored', version, itemVersion, title });
      return true;
    });
  }

  /** Tells all members that the room accepts no more steps. */
  dismiss(code: Extract<LiveAnswer, { kind: 'refused' }>['code'], message: string): void {
    clearTimeout(this.#timer);
    tell(this.#presence.members, { kind: 'refused', code, message });
    this.#presence.clear();
  }

  /** The document as JSON, and its version. */
  get current(): { document: string; version: number } {
    return { document: JSON.stringify(this.document.toJSON()), version: this.version };
  }
}
