import { createHash } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { normalise, writeCanonical } from '@ukiyo/core/grammar';
import { freeId } from '@ukiyo/core/library';
import type { ReadMarkdown } from '@ukiyo/core/markdown';
import { textOf, type Element } from '@ukiyo/core/markup';
import { problem, type Problem } from '@ukiyo/core/problems';
import { withTopicLinks, readOutside } from './topic.ts';

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
 * changed outside and here, and waits for a decision; `removed` has no topic here
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

/** A source, and what the library has of it. */
export interface ReadingInput {
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

export interface SourceDifference {
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

/** IDs of the topics that files are or become, by path. */
function itemsOf(
  paths: readonly string[],
  known: ReadonlyMap<string, LinkedFile>,
  { linked, taken }: ReadingInput,
): Map<string, string> {
  // Also those of topics that were removed: they are not brought back under another file.
  const ids = new Set([...taken, ...linked.map(({ item }) => item)]);
  return new Map(
    paths.map((path) => {
      const id = known.get(path)?.item ?? freeId(path.replace(/\.[^./]*$/u, ''), ids, 'topic');
      ids.add(id);
      return [path, id];
    }),
  );
}

/** What reading one file comes to. */
interface FileReading {
  readonly plan: PlannedFile;
  readonly topic?: WrittenTopic;
  /** What is known of the file once this is written; nothing of one that is no topic. */
  readonly linked: LinkedFile | undefined;
  readonly problems: readonly Problem[];
}

interface FileNow {
  readonly path: string;
  readonly item: string;
  readonly before: LinkedFile | undefined;
  /** Hash of the file. */
  readonly hash: string;
  /** The text of the topic as it is now. */
  readonly text: string | undefined;
  readonly decision: 'outside' | 'here' | undefined;
}

/** A file that cannot be a topic: the topic that it was stays as it is. */
function refused({ path, item, before }: FileNow, problems: readonly Problem[]): FileReading {
  const where = before ? { item } : {};
  const reasons = problems.map(
    ({ message, where: { line } }) => `${line === undefined ? '' : `line ${line}: `}${message}`,
  );
  const message = `“${path}” cannot be a topic: ${reasons.join(' ')}`;
  return {
    plan: { path, state: 'refused', ...where },
    linked: before,
    problems: [problem('warning', 'source.refused', message, where)],
  };
}

/** A file that is a topic, its links led to the topics of the other files. */
function planFile(
  { path, item, before, hash, text: now, decision }: FileNow,
  root: Element,
  found: readonly Problem[],
): FileReading {
  const text = writeCanonical(root);
  const title = textOf(root.children[0]!);
  const written = textHash(text);
  const state = stateOf(
    before?.text,
    before && now !== undefined ? textHash(now) : undefined,
    written,
    decision,
  );
  const isWaiting = state === 'both' || state === 'removed';
  const left = found.map((one) => ({
    ...one,
    message: `“${path}”: ${one.message}`,
    where: state === 'new' ? {} : { item },
  }));
  return {
    plan: { path, state, item, title },
    topic: { item, root, text },
    linked: isWaiting
      ? before
      : { path, item, text: written, ...(found.length === 0 ? { file: hash } : {}) },
    problems: state === 'both' ? [changedTwice({ path, item, title })] : isWaiting ? [] : left,
  };
}

/** A linked file that is not in the folder any more. */
const gone = (file: LinkedFile): FileReading => ({
  plan: { path: file.path, state: 'gone', item: file.item },
  linked: file,
  problems: [
    problem(
      'warning',
      'source.gone',
      `“${file.path}” is not in its folder any more. Its topic stays as it is.`,
      { item: file.item },
    ),
  ],
});

/**
 * What reading a linked source again would write, before anything is. Nothing that was written here
 * is overwritten without a decision. Others have their turn between two files.
 */
export async function planReading(input: ReadingInput): Promise<SourceDifference> {
  const { files, linked, textOf: textNow, decisions = {} } = input;
  const paths = [...files.keys()].sort();
  const hashes = new Map(paths.map((path) => [path, textHash(files.get(path)!)]));
  const known = knownFiles(hashes, linked);
  const items = itemsOf(paths, known, input);
  const isSame = (path: string): boolean =>
    known.get(path)?.file === hashes.get(path) && textNow(items.get(path)!) !== undefined;
  const readings = new Map<string, ReadMarkdown>();
  for (const path of paths) {
    if (isSame(path)) continue;
    await setImmediate();
    readings.set(path, readOutside(files.get(path)!, items.get(path)!));
  }
  const topicOf = (path: string): string | undefined =>
    known.has(path) || readings.get(path)?.root !== undefined ? items.get(path) : undefined;

  const read: FileReading[] = [];
  for (const path of paths) {
    const before = known.get(path);
    const item = items.get(path)!;
    const reading = readings.get(path);
    if (!reading) {
      read.push({ plan: { path, state: 'same', item }, linked: before, problems: [] });
      continue;
    }
    await setImmediate();
    const hash = hashes.get(path)!;
    const now = { path, item, before, hash, text: textNow(item), decision: decisions[path] };
    if (reading.root) {
      const { root, problems } = withTopicLinks(path, reading.root, topicOf);
      read.push(planFile(now, normalise(root), problems));
    } else read.push(refused(now, reading.problems));
  }
  const there = new Set([...known.values()].map(({ item }) => item));
  read.push(...linked.filter(({ item }) => !there.has(item)).map(gone));
  const topicsThat = (state: FileState): WrittenTopic[] =>
    read.flatMap(({ plan, topic }) => (plan.state === state && topic ? [topic] : []));
  return {
    files: read.map(({ plan }) => plan),
    added: topicsThat('new'),
    changed: topicsThat('changed'),
    linked: read.flatMap((one) => one.linked ?? []),
    problems: read.flatMap(({ problems }) => problems),
  };
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
