import { createHash } from 'node:crypto';
import type { Item, SaveItem } from '@ukiyo/contracts';
import { editorSchema } from '@ukiyo/core/editing';
import type { LiveKey, LiveLog } from '../data/live.ts';
import type { ItemStore } from '../data/items.ts';
import type { Drafting } from './drafting.ts';
import type { Member } from './presence.ts';
import { Room, type Author } from './room.ts';

/** What became of a whole text; undefined when the topic is gone. */
export type Replaced = { readonly saved: Item } | { readonly conflict: Item } | undefined;

/**
 * Whom everybody who edits a topic asks: it decides the order of steps, checks each, and keeps the
 * text of the library up to date.
 */
export interface Authority {
  /** Undefined when the topic is not there or cannot be edited. */
  join(
    key: LiveKey,
    member: Member,
    known?: { epoch: string; version: number },
  ): Promise<Room | undefined>;
  leave(room: Room, member: Member): Promise<void>;
  /**
   * Takes a whole text for a topic that is edited live: the difference becomes a step like any
   * other.
   */
  readonly replace: (key: LiveKey, change: SaveItem, author: Author) => Promise<Replaced>;
  /** Writes the acknowledged steps of a topic that is open here, before its text is read. */
  flush(key: LiveKey): Promise<void>;
  /**
   * Writes every step that no text holds yet: after a crash, and before something reads the texts.
   */
  readonly flushAll: (project?: string) => Promise<void>;
  /** A topic's log reaches to this version now. */
  readonly follow: (key: LiveKey, version: number) => void;
  /** A topic was removed. */
  readonly remove: (key: LiveKey) => void;
  close(): Promise<void>;
}

/** Two programs with the same fingerprint read and write the same documents. */
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

/** Said to everybody who has a topic open that is removed. */
export const gone = 'This topic was removed from the library.';

const nameOf = ({ project, item }: LiveKey): string => `${project}/${item}`;

export interface AuthorityNeeds {
  readonly live: LiveLog;
  readonly items: ItemStore;
  readonly drafting: Drafting;
}

/** @param failed is told what keeps a text from following its log */
export function createAuthority(
  { live: log, items, drafting }: AuthorityNeeds,
  failed: (error: unknown) => void,
): Authority {
  const rooms = new Map<string, Promise<Room | undefined>>();

  function roomOf(key: LiveKey): Promise<Room | undefined> {
    const name = nameOf(key);
    const known = rooms.get(name);
    if (known) return known;
    const ground = { log, drafting, schema: schemaFingerprint, failed };
    const opening = Room.open(key, ground).then(
      (room) => {
        if (!room) rooms.delete(name);
        return room;
      },
      (error: unknown) => {
        rooms.delete(name);
        throw error;
      },
    );
    rooms.set(name, opening);
    return opening;
  }
  /** Lets go of a room that nobody is in. */
  async function closeIfEmpty(room: Room): Promise<void> {
    if (!room.isEmpty) return;
    await room.write('');
    const name = nameOf(room.key);
    const opening = rooms.get(name);
    // Another room of the topic may have taken its place.
    if ((await opening) === room && room.isEmpty && rooms.get(name) === opening) rooms.delete(name);
  }
  /** As the whole text of a topic that is not edited live from now on. */
  async function saveText(key: LiveKey, change: SaveItem, { name }: Author): Promise<Replaced> {
    rooms.delete(nameOf(key));
    await log.end(key);
    const outcome = await items.save(key.project, key.item, change, name);
    return outcome && 'live' in outcome ? undefined : outcome;
  }
  async function replaceIn(room: Room, change: SaveItem, author: Author): Promise<Replaced> {
    const { project, item } = room.key;
    for (;;) {
      if (!(await room.write(''))) return undefined;
      const current = await items.find(project, item);
      if (!current) return undefined;
      if (current.version !== change.version) return { conflict: current };
      const { document, version: at } = room.current;
      const difference = await drafting.difference(document, change.text);
      if (!difference) {
        room.dismiss('live.unreadable', 'The text was replaced by one that cannot be edited here.');
        return saveText(room.key, change, author);
      }
      const outcome =
        difference.step === undefined
          ? 'kept'
          : await room.submit(author, at, [JSON.parse(difference.step)]);
      if (outcome === 'gone') return undefined;
      if (outcome === 'behind') continue;
      if (typeof outcome === 'object')
        throw new Error(`A text could not be made a step: ${outcome.refusal}`);
      await room.write(change.note, author.name);
      const saved = await items.find(project, item);
      return saved && { saved };
    }
  }

  return {
    async join(key, member, known) {
      for (;;) {
        const opening = roomOf(key);
        const room = await opening;
        // Meanwhile it may have been let go of.
        if (room && rooms.get(nameOf(key)) !== opening) continue;
        await room?.join(member, known);
        return room;
      }
    },
    async leave(room, member) {
      room.leave(member);
      await closeIfEmpty(room);
    },
    async replace(key, change, author) {
      const room = await roomOf(key);
      if (!room) return saveText(key, change, author);
      try {
        return await replaceIn(room, change, author);
      } finally {
        await closeIfEmpty(room);
      }
    },
    async flush(key) {
      await (await rooms.get(nameOf(key)))?.write('');
    },
    async flushAll(project) {
      for (const key of await log.unwritten()) {
        if (project !== undefined && key.project !== project) continue;
        // A topic that cannot be written keeps its steps in the log; the others are written.
        try {
          const room = await roomOf(key);
          await room?.write('');
          if (room) await closeIfEmpty(room);
        } catch (error) {
          failed(error);
        }
      }
    },
    follow(key, version) {
      void rooms
        .get(nameOf(key))
        ?.then((room) => room?.follow(version))
        .catch(failed);
    },
    remove(key) {
      void rooms.get(nameOf(key))?.then((room) => room?.dismiss('live.gone', gone));
      rooms.delete(nameOf(key));
    },
    async close() {
      for (const opening of rooms.values()) await (await opening)?.write('');
      rooms.clear();
    },
  };
}
