import { createHash } from 'node:crypto';
import { createWriteStream, linkSync } from 'node:fs';
import { mkdir, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { finished } from 'node:stream/promises';
import { crc32, deflateRawSync } from 'node:zlib';
import { outputs, type Output } from '@ukiyo/contracts';
import { Zip, type ZipInputFile } from 'fflate';

/** What was written. */
export interface WrittenFolder {
  readonly bytes: number;
  /** SHA-256 of what is downloaded. */
  readonly fingerprint: string;
}

/** A file as it was written before, for the next time that it is the same. */
interface KeptFile {
  /** A text itself, of anything else its SHA-256. */
  readonly content: string;
  readonly file: string;
  readonly size: number;
  readonly crc: number;
  /** As it stands in the archive; absent where the file is of a kind that is packed already. */
  readonly packed?: Uint8Array<ArrayBuffer>;
}
/** By their paths in the folder. */
export type KeptFolder = Map<string, KeptFile>;

export async function fileInto(
  folder: string,
  output: Output,
  content: string | Uint8Array,
): Promise<WrittenFolder> {
  const bytes = Buffer.from(content);
  await writeFile(join(folder, outputs[output].file), bytes);
  return { bytes: bytes.byteLength, fingerprint: createHash('sha256').update(bytes).digest('hex') };
}

/**
 * Files into a folder that is called as their output is, and into an archive beside it.
 * @param kept files of earlier folders, and afterwards those of this one: what is the same is one
 * file on the disk under both names, and not packed again
 */
export async function folderInto(
  folder: string,
  output: Output,
  files: Iterable<readonly [path: string, content: string | Uint8Array]>,
  kept: KeptFolder = new Map(),
): Promise<WrittenFolder> {
  const archive = archiveAt(join(folder, outputs[output].file));
  const made = new Set<string>();
  for (const [path, content] of files) {
    if (archive.hasFailed()) break;
    const own = join(folder, output, path);
    if (!made.has(dirname(own))) await mkdir(dirname(own), { recursive: true });
    made.add(dirname(own));
    const fingerprint =
      typeof content === 'string' ? content : createHash('sha256').update(content).digest('hex');
    const known = kept.get(path);
    const isSame = known?.content === fingerprint;
    const file = isSame
      ? { ...known, file: own }
      : packed(path, own, Buffer.from(content), fingerprint);
    // Never over a file that is there: it can be one of an earlier folder, too.
    if (!isSame || !isLinked(known.file, own)) await writeFile(own, content, { flag: 'wx' });
    kept.set(path, file);
    archive.add(path, file, content);
  }
  for (const [path, { file }] of kept)
    if (!file.startsWith(join(folder, output))) kept.delete(path);
  return archive.end();
}

/** Files into an archive alone, one after the other: together they need not have room in memory. */
export async function archiveInto(
  path: string,
  files: Iterable<readonly [path: string, content: Uint8Array]>,
): Promise<void> {
  const archive = archiveAt(path);
  for (const [name, content] of files) {
    if (archive.hasFailed()) break;
    archive.add(name, packed(name, '', Buffer.from(content), ''), content);
  }
  await archive.end();
}

function packed(path: string, file: string, bytes: Buffer, content: string): KeptFile {
  const kept = { content, file, size: bytes.byteLength, crc: crc32(bytes) };
  return isPackedAlready(path) ? kept : { ...kept, packed: deflateRawSync(bytes) };
}

/** Whether a file has got a second name; not where it is gone, or on another disk. */
function isLinked(file: string, name: string): boolean {
  try {
    linkSync(file, name);
    return true;
  } catch {
    return false;
  }
}

const isPackedAlready = (path: string): boolean =>
  /\.(?:png|jpe?g|gif|webp|avif|woff2?|mp4|webm|mp3|m4a|ogg|zip)$/iu.test(path);

/**
 * Of every file in an archive: what is the same has the same bytes. The day is the first that zip
 * files can tell.
 */
const alwaysTheSame = new Date(1980, 0, 1);

function archiveAt(path: string) {
  const out = createWriteStream(path);
  // Heard from the beginning: a disk can be full before the last file is written.
  let failure: Error | undefined;
  out.on('error', (error) => (failure ??= error));
  const hash = createHash('sha256');
  // Small files are written together.
  let waiting: Uint8Array[] = [];
  let size = 0;
  const flush = (): void => {
    const together = Buffer.concat(waiting);
    waiting = [];
    size = 0;
    hash.update(together);
    out.write(together);
  };
  const zip = new Zip((error, chunk) => {
    if (error) {
      out.destroy(error);
      return;
    }
    waiting.push(chunk);
    size += chunk.byteLength;
    if (size >= 1_000_000) flush();
  });
  return {
    hasFailed: () => failure !== undefined,
    add(name: string, { size, crc, packed }: KeptFile, content: string | Uint8Array): void {
      const entry: ZipInputFile = {
        filename: name,
        size,
        crc,
        compression: packed ? 8 : 0,
        mtime: alwaysTheSame,
      };
      zip.add(entry);
      entry.ondata!(null, packed ?? Buffer.from(content), true);
    },
    async end(): Promise<WrittenFolder> {
      zip.end();
      flush();
      out.end();
      await finished(out).catch(
        (error: unknown) => (failure ??= error instanceof Error ? error : new Error(String(error))),
      );
      if (failure) throw failure;
      const { size } = await stat(path);
      return { bytes: size, fingerprint: hash.digest('hex') };
    },
  };
}

const plainly: Readonly<Record<string, string>> = {
  ENOSPC: 'There is no space left on the disk of the server.',
  EDQUOT: 'There is no space left for the server on its disk.',
  EACCES: 'The server may not write into its folder of impressions.',
  EROFS: 'The folder of impressions can only be read.',
  ENOTDIR: 'The folder of impressions is no folder.',
  EMFILE: 'Too many files are open on the server.',
};
/**
 * Why files could not be written, as a sentence for people; undefined for other errors.
 */
export const whyNotWritten = (error: unknown): string | undefined =>
  plainly[error instanceof Error && 'code' in error ? String(error.code) : ''];
