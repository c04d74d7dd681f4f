import { createHash } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { normalise, writeCanonical } from '@ukiyo/core/grammar';
import { freeId } from '@ukiyo/core/library';
import type { ReadMarkdown } from '@ukiyo/core/markdown';
import { textOf, type Element } from '@ukiyo/core/markup';
import { problem, type Problem } from '@ukiyo/core/problems';
import { amongOthers, readOutside } from './topic.ts';

/** A file of a linked source with the topic that it is. */
export interface LinkedFile {
  readonly path: string;
  readonly item: string;
  /** Hash (SHA-256, hex) of the text of the topic, as it was last taken from the file. */
  readonly text: string;
  /**
   * Hash of the file, where nothing of it was left out: while it is the same, it need not be read
   * again.
   */
  readonly file?: string;
}

/**
 * How a file and its topic stand: `new` and `changed` are taken when the source is read; `both` was
 * changed outside and here, and waits for somebody to say which holds; `removed` has no topic here
 * any more; `gone` is not in the folder any more; `refused` cannot be a topic.
 */
export type FileState = 'same' | 'new' | 'changed' | 'both' | 'removed' | 'gone' | 'refused';

export interface PlannedFile {
  readonly path: string;
  readonly state: FileState;
  readonly item?: string;
  /** Of the topic, as the file has it. */
  readonly title?: string;
}

interface SourceAsItStands {
  /** Texts of the Markdown files in the folder, by path. */
  readonly files: ReadonlyMap<string, string>;
  readonly linked: readonly LinkedFile[];
  /** The text of a topic as it is in the library now. */
  readonly textOf: (item: string) => string | undefined;
  /** Ids that new topics do not get. */
  readonly taken: ReadonlySet<string>;
  /** For files that were changed in both places: which of them holds. */
  readonly decisions?: Readonly<Record<string, 'outside' | 'here'>>;
}

interface WrittenTopic {
  readonly item: string;
  readonly root: Element;
  readonly text: string;
}

export interface Reading {
  readonly files: readonly PlannedFile[];
  readonly added: readonly WrittenTopic[];
  readonly changed: readonly WrittenTopic[];
  /** What is known of the files once this is written. */
  readonly linked: readonly LinkedFile[];
  /** `source.*`; each says its file. */
  readonly problems: readonly Problem[];
}

export const textHash = (text: string): string => createHash('sha256').update(text).digest('hex');

/** `source.both`: a file and its topic were both changed. */
export const changedTwice = ({ path, item, title = path }: Omit<PlannedFile, 'state'>): Problem =>
  problem(
    'warning',
    'source.both',
    `“${path}” has changed, and so has its topic “${title}”: which of them holds is for ` +
      'somebody to say.',
    item === undefined ? {} : { item },
  );

/**
 * Files by what is known of them; one that was not there before and says the same as one that is
 * gone is that one, elsewhere.
 */
function knownFiles(
  hashes: ReadonlyMap<string, string>,
  linked: readonly LinkedFile[],
): Map<string, LinkedFile> {
  const known = new Map(
    linked.filter(({ path }) => hashes.has(path)).map((one) => [one.path, one]),
  );
  const gone = new Map(
    linked.flatMap((one) =>
      hashes.has(one.path) || one.file === undefined ? [] : [[one.file, one]],
    ),
  );
  for (const [path, hash] of hashes) {
    const moved = known.has(path) ? undefined : gone.get(hash);
    if (!moved) continue;
    known.set(path, { ...moved, path });
    gone.delete(hash);
  }
  return known;
}

/**
 * What reading a linked source again would write, before anything is. Nothing that was written here
 * is written over, unless somebody said so. Others have their turn between two files.
 */
export async function planReading({
  files,
  linked,
  textOf: textNow,
  taken,
  decisions = {},
}: SourceAsItStands): Promise<Reading> {
  const paths = [...files.keys()].sort();
  const hashes = new Map(paths.map((path) => [path, textHash(files.get(path)!)]));
  const known = knownFiles(hashes, linked);
  // Also those of topics that were removed: they are not brought back under another file.
  const ids = new Set([...taken, ...linked.map(({ item }) => item)]);
  const items = new Map<string, string>();
  for (const path of paths) {
    const id = known.get(path)?.item ?? freeId(path.replace(/\.[^./]*$/u, ''), ids, 'topic');
    ids.add(id);
    items.set(path, id);
  }
  const plan: PlannedFile[] = [];
  const added: WrittenTopic[] = [];
  const changed: WrittenTopic[] = [];
  const kept: LinkedFile[] = [];
  const problems: Problem[] = [];

  const isSame = (path: string): boolean =>
    known.get(path)?.file === hashes.get(path) && textNow(items.get(path)!) !== undefined;
  const readings = new Map<string, ReadMarkdown>();
  for (const path of paths) {
    if (isSame(path)) continue;
    await setImmediate();
    readings.set(path, readOutside(files.get(path)!, items.get(path)!));
  }
  const isTopic = (path: string): boolean =>
    known.has(path) || readings.get(path)?.root !== undefined;

  for (const path of paths) {
    const before = known.get(path);
    const item = items.get(path)!;
    const reading = readings.get(path);
    if (!reading) {
      plan.push({ path, state: 'same', item });
      kept.push(before!);
      continue;
    }
    await setImmediate();
    const now = before && textNow(item);
    const where = before ? { item } : {};
    if (!reading.root) {
      const reasons = reading.problems
        .map(
          ({ message, where: { line } }) =>
            `${line === undefined ? '' : `line ${line}: `}${message}`,
        )
        .join(' ');
      problems.push(
        problem('warning', 'source.refused', `“${path}” cannot be a topic: ${reasons}`, where),
      );
      plan.push({ path, state: 'refused', ...(before ? { item } : {}) });
      if (before) kept.push(before);
      continue;
    }
    const { root: among, problems: found } = amongOthers(path, reading.root, (other) =>
      isTopic(other) ? items.get(other) : undefined,
    );
    const root = normalise(among);
    const text = writeCanonical(root);
    const hash = textHash(text);
    const title = textOf(root.children[0]!);
    const state = stateOf(
      before?.text,
      now === undefined ? undefined : textHash(now),
      hash,
      decisions[path],
    );
    plan.push({ path, state, item, title });
    if (state === 'new') added.push({ item, root, text });
    if (state === 'changed') changed.push({ item, root, text });
    kept.push(
      state === 'both' || state === 'removed'
        ? before!
        : { path, item, text: hash, ...(found.length === 0 ? { file: hashes.get(path)! } : {}) },
    );
    if (state === 'both') problems.push(changedTwice({ path, item, title }));
    if (state === 'new' || state === 'changed' || state === 'same')
      problems.push(
        ...found.map((one) => ({
          ...one,
          message: `“${path}”: ${one.message}`,
          where: state === 'new' ? {} : { item },
        })),
      );
  }
  const there = new Set([...known.values()].map(({ item }) => item));
  for (const one of linked) {
    if (there.has(one.item)) continue;
    problems.push(
      problem(
        'warning',
        'source.gone',
        `“${one.path}” is not in its folder any more. Its topic stays as it is.`,
        { item: one.item },
      ),
    );
    plan.push({ path: one.path, state: 'gone', item: one.item });
    kept.push(one);
  }
  return { files: plan, added, changed, linked: kept, problems };
}

/**
 * @param taken as it was last taken
 * @param now as it is here, undefined where it is not
 * @param outside as the file has it
 */
function stateOf(
  taken: string | undefined,
  now: string | undefined,
  outside: string,
  decision?: 'outside' | 'here',
): FileState {
  if (taken === undefined) return 'new';
  if (now === undefined) return 'removed';
  if (outside === taken || outside === now) return 'same';
  if (now === taken || decision === 'outside') return 'changed';
  return decision === 'here' ? 'same' : 'both';
}
