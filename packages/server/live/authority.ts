import { createHash } from 'node:crypto';
import type { Item, LiveDocument, SaveItem } from '@ukiyo/contracts';
import { editorSchema } from '@ukiyo/core/editing';
import type { LiveKey, LiveLog } from '../data/live.ts';
import type { ItemStore } from '../data/items.ts';
import type { Drafting } from './drafting.ts';
import type { Member } from './presence.ts';
import { Room, type Author, type RoomGround } from './room.ts';

/** The result of saving a whole text; undefined if the topic was removed. */
export type Replaced = { readonly saved: Item } | { readonly conflict: Item } | undefined;

/**
 * The authority over topics that are being edited: it orders their steps, checks each of them, and
 * keeps the texts of the library up to date.
 */
export interface Authority {
  /** Undefined if the topic does not exist or cannot be edited. */
  join(
    key: LiveKey,
    member: Member,
    known?: { epoch: string; version: number },
  ): Promise<Room | undefined>;
  leave(room: Room, member: Member): Promise<void>;
  /**
   * The document of a topic, for an editor that joins as soon as its program has been read.
   * Undefined if the topic does not exist or cannot be edited.
   */
  read(key: LiveKey): Promise<LiveDocument | undefined>;
  /**
   * Saves a whole text of a topic that is being edited: the difference becomes a step.
   */
  readonly replace: (key: LiveKey, change: SaveItem, author: Author) => Promise<Replaced>;
  /** Writes the acknowledged steps of an open topic to its text, before the text is read. */
  flush(key: LiveKey): Promise<void>;
  /**
   * Writes all steps to their texts that are not in them yet: after a crash, and before texts are
   * read.
   */
  readonly flushAll: (project?: string) => Promise<void>;
  /** The log of a topic has reached this version. */
  readonly follow: (key: LiveKey, version: number) => void;
  /** A topic was removed. */
  readonly remove: (key: LiveKey) => void;
  close(): Promise<void>;
}

/** For this many ms a room is kept open for an editor that has read its document. */
const timeToJoin = 10_000;

/** Programs with the same fingerprint read and write the same documents. */
const schemaFingerprint = createHash('sha256')
  .update(
    JSON.stringify([
      Object.values(editorSchema.nodes).map(({ name, spec }) => [
        name,
        spec.content,
        spec.marks,
        Object.keys(spec.attrs ?? {}),
      ]),
      Object.values(editorSchema.marks).map(({ name, spec }) => [
        name,
        spec.excludes,
        Object.keys(spec.attrs ?? {}),
      ]),
    ]),
  )
  .digest('hex');

/** Sent to members of a topic that is removed. */
export const gone = 'This topic was removed from the library.';

const nameOf = ({ project, item }: LiveKey): string => `${project}/${item}`;

export interface AuthorityNeeds {
  readonly live: LiveLog;
  readonly items: ItemStore;
  readonly drafting: Drafting;
}

/** The version of an editor that was a member before. */
type Known = { epoch: string; version: number } | undefined;

/** The rooms that are open; each is closed when its last member leaves. */
class Rooms {
  readonly #open = new Map<string, Promise<Room | undefined>>();
  readonly #ground: RoomGround;

  constructor(ground: RoomGround) {
    this.#ground = ground;
  }

  /** The room that is open or being opened. */
  find(key: LiveKey): Promise<Room | undefined> | undefined {
    return this.#open.get(nameOf(key));
  }

  enter(key: LiveKey): Promise<Room | undefined> {
    const name = nameOf(key);
    const known = this.#open.get(name);
    if (known) return known;
    const opening = Room.open(key, this.#ground).then(
      (room) => {
        if (!room) this.#open.delete(name);
        return room;
      },
      (error: unknown) => {
        this.#open.delete(name);
        throw error;
      },
    );
    this.#open.set(name, opening);
    return opening;
  }

  /** Adds a member to the room of a topic; opens another if it was closed in the meantime. */
  async join(key: LiveKey, member: Member, known: Known): Promise<Room | undefined> {
    for (;;) {
      const opening = this.enter(key);
      const room = await opening;
      if (room && this.find(key) !== opening) continue;
      await room?.join(member, known);
      return room;
    }
  }

  /** Closes a room without members. */
  async closeIfEmpty(room: Room): Promise<void> {
    if (!room.isEmpty) return;
    await room.write('');
    const name = nameOf(room.key);
    const opening = this.#open.get(name);
    // Another room of the topic may have taken its place.
    if ((await opening) === room && room.isEmpty && this.#open.get(name) === opening)
      this.#open.delete(name);
  }

  forget(key: LiveKey): void {
    this.#open.delete(nameOf(key));
  }

  async close(): Promise<void> {
    for (const opening of this.#open.values()) await (await opening)?.write('');
    this.#open.clear();
  }
}

/** Saves the whole text of a topic whose live editing ends with it. */
async function saveText(
  { live: log, items }: AuthorityNeeds,
  { project, item }: LiveKey,
  change: SaveItem,
  author: string,
): Promise<Replaced> {
  await log.end({ project, item });
  const outcome = await items.save(project, item, change, author);
  return outcome && 'live' in outcome ? undefined : outcome;
}

/**
 * Makes the difference to a whole text a step in its room; tries again if another person's step
 * comes first.
 * @returns `unreadable` when the text cannot be edited live
 */
async function replaceIn(
  { items, drafting }: AuthorityNeeds,
  room: Room,
  change: SaveItem,
  author: Author,
): Promise<Replaced | 'unreadable'> {
  const { project, item } = room.key;
  for (;;) {
    if (!(await room.write(''))) return undefined;
    const current = await items.find(project, item);
    if (!current) return undefined;
    if (current.version !== change.version) return { conflict: current };
    const { document, version: at } = room.current;
    const difference = await drafting.difference(document, change.text);
    if (!difference) return 'unreadable';
    const { step } = difference;
    const outcome = step === undefined ? 'kept' : await room.submit(author, at, [JSON.parse(step)]);
    if (outcome === 'gone') return undefined;
    if (outcome === 'behind') continue;
    if (typeof outcome === 'object')
      throw new Error(`A text could not be made a step: ${outcome.refusal}`);
    await room.write(change.note, author.name);
    const saved = await items.find(project, item);
    return saved && { saved };
  }
}

/** @param failed called with errors that keep a text from following its log */
export function createAuthority(
  needs: AuthorityNeeds,
  failed: (error: unknown) => void,
): Authority {
  const { live: log, drafting } = needs;
  const rooms = new Rooms({ log, drafting, schema: schemaFingerprint, failed });
  return {
    join: (key, member, known) => rooms.join(key, member, known),
    async leave(room, member) {
      room.leave(member);
      await rooms.closeIfEmpty(room);
    },
    async replace(key, change, author) {
      const room = await rooms.enter(key);
      if (!room) return saveText(needs, key, change, author.name);
      try {
        const replaced = await replaceIn(needs, room, change, author);
        if (replaced !== 'unreadable') return replaced;
        room.dismiss('live.unreadable', 'The text was replaced by one that cannot be edited here.');
        rooms.forget(key);
        return await saveText(needs, key, change, author.name);
      } finally {
        await rooms.closeIfEmpty(room);
      }
    },
    async read(key) {
      const room = await rooms.enter(key);
      if (!room) return undefined;
      setTimeout(() => void rooms.closeIfEmpty(room).catch(failed), timeToJoin).unref();
      return room.read();
    },
    async flush(key) {
      await (await rooms.find(key))?.write('');
    },
    async flushAll(project) {
      for (const key of await log.unwritten()) {
        if (project !== undefined && key.project !== project) continue;
        // The steps of a topic that cannot be written stay in the log; the others are written.
        try {
          const room = await rooms.enter(key);
          await room?.write('');
          if (room) await rooms.closeIfEmpty(room);
        } catch (error) {
          failed(error);
        }
      }
    },
    follow(key, version) {
      void rooms
        .find(key)
        ?.then((room) => room?.follow(version))
        .catch(failed);
    },
    remove(key) {
      void rooms.find(key)?.then((room) => room?.dismiss('live.gone', gone));
      rooms.forget(key);
    },
    close: () => rooms.close(),
  };
}
