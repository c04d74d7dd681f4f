import { createWriteStream, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { crc32 } from 'node:zlib';
import { problem, type Problem } from '@ukiyo/core/problems';
import { limits } from '@ukiyo/core/markup';
import { openPromise, type Entry, type ZipFile } from 'yauzl';
import { isTextFile, type PackageFiles } from './files.ts';

const megabyte = 1024 * 1024;

/**
 * Bounds on what a package may hold: enough for a library of 10,000 topics, too little for a zip
 * bomb. In bytes.
 */
export const zipLimits = {
  entries: 40_000,
  entrySize: 200 * megabyte,
  totalSize: 2048 * megabyte,
  /**
   * A text of the most characters that are read, each of up to three bytes (UTF-8 of what UTF-16
   * has as one unit).
   */
  textSize: 3 * limits.size,
  /** All texts together: they are in memory at once, to find what leads to what. */
  totalText: 100 * megabyte,
} as const;

/** Characters of a path in a package. */
const longestName = 400;

/** What makes a package one that is not taken in. */
class Fault extends Error {
  constructor(
    readonly code: 'zip.unreadable' | 'zip.too-large' | 'zip.entry',
    message: string,
  ) {
    super(message);
  }
}
const faulty = (name: string, why: string): Fault =>
  new Fault('zip.entry', `The entry “${name}” of the package ${why}. Nothing was imported.`);
const tooLarge = (what: string): Fault =>
  new Fault('zip.too-large', `${what}. Nothing was imported.`);

/**
 * Kinds of files in the upper half of the external attributes that a Unix program has written
 * (APPNOTE 4.4.15; stat(2)).
 */
const kindMask = 0o170000;
const regularFile = 0o100000;
const madeOnUnix = 3;

function isRegular({ versionMadeBy, externalFileAttributes }: Entry): boolean {
  const kind = (externalFileAttributes >>> 16) & kindMask;
  return versionMadeBy >> 8 !== madeOnUnix || kind === 0 || kind === regularFile;
}

/** Everything that the directory of the package says, looked at before anything is unpacked. */
async function entriesOf(zip: ZipFile): Promise<Entry[]> {
  if (zip.entryCount > zipLimits.entries)
    throw tooLarge(
      `The package has ${zip.entryCount} entries; at most ${zipLimits.entries} can be imported`,
    );
  const entries = new Map<string, Entry>();
  let total = 0;
  let totalText = 0;
  for await (const entry of zip.eachEntry()) {
    const { fileName, uncompressedSize } = entry;
    if (entries.has(fileName)) throw faulty(fileName, 'is there twice');
    if (fileName.length > longestName)
      throw faulty(
        `${fileName.slice(0, 60)}…`,
        `has a name of more than ${longestName} characters`,
      );
    if (fileName.endsWith('/')) continue;
    if (entry.isEncrypted()) throw faulty(fileName, 'is encrypted');
    if (!isRegular(entry)) throw faulty(fileName, 'is a link or a device, not a file');
    const isText = isTextFile(fileName);
    if (uncompressedSize > (isText ? zipLimits.textSize : zipLimits.entrySize))
      throw tooLarge(`The entry “${fileName}” of the package is too large`);
    total += uncompressedSize;
    totalText += isText ? uncompressedSize : 0;
    const most =
      totalText > zipLimits.totalText
        ? `${zipLimits.totalText / megabyte} MB of text`
        : total > zipLimits.totalSize
          ? `${zipLimits.totalSize / megabyte} MB`
          : undefined;
    if (most !== undefined)
      throw tooLarge(`The package is too large: with “${fileName}” it has more than ${most}`);
    entries.set(fileName, entry);
  }
  return [...entries.values()];
}

/** Passes bytes on and adds up their checksum; the unzipper itself looks at their number alone. */
function summing(): Transform & { sum: number } {
  const summer = Object.assign(
    new Transform({
      transform(chunk: Buffer, _encoding, done) {
        summer.sum = crc32(chunk, summer.sum);
        done(null, chunk);
      },
    }),
    { sum: 0 },
  );
  return summer;
}

async function unpackEntry(zip: ZipFile, entry: Entry, file: string): Promise<void> {
  const summer = summing();
  try {
    await pipeline(await zip.openReadStreamPromise(entry), summer, createWriteStream(file));
  } catch (error) {
    throw faulty(entry.fileName, `is damaged (${reason(error)})`);
  }
  if (summer.sum !== entry.crc32)
    throw faulty(entry.fileName, 'is damaged (its checksum is wrong)');
}

/**
 * Unpacks a zip file into a folder, under names of its own, so that no name in it can lead
 * anywhere. All or nothing: anything that is wrong with the package itself is a reason to take
 * nothing of it. Problems: `zip.unreadable`, `zip.too-large`, `zip.entry`, with the entry by name
 * @param folder an empty folder, which the caller removes
 */
export async function unpackZip(path: string, folder: string): Promise<PackageFiles | Problem> {
  try {
    const zip = await openPromise(path, { strictFileNames: true, autoClose: false });
    try {
      const files = new Map<string, string>();
      for (const entry of await entriesOf(zip)) {
        const file = join(folder, String(files.size));
        await unpackEntry(zip, entry, file);
        files.set(entry.fileName, file);
      }
      return {
        keys: () => files.keys(),
        get: (name) => {
          const file = files.get(name);
          return file === undefined ? undefined : readFileSync(file);
        },
      };
    } finally {
      zip.close();
    }
  } catch (error) {
    if (error instanceof Fault) return problem('error', error.code, error.message);
    return problem(
      'error',
      'zip.unreadable',
      `The package cannot be read as a zip file (${reason(error)}). Nothing was imported.`,
    );
  }
}

const reason = (error: unknown): string => (error instanceof Error ? error.message : String(error));
