import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, readFileSync } from 'node:fs';
import { mkdir, rename, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';

/**
 * Files by the SHA-256 of their content: the same bytes are kept once, and never change under their
 * name.
 */
export interface BlobStore {
  put(bytes: Uint8Array): Promise<string>;
  /** Takes a file of the data folder as it lies there; it need not fit into memory. */
  putFile(path: string): Promise<string>;
  getNow(hash: string): Uint8Array;
  /** Where the bytes lie. */
  fileOf(hash: string): string;
}

/** @param drafts a folder of the same disk, whose old files are removed by the server */
export function blobStore(folder: string, drafts: string): BlobStore {
  const fileOf = (hash: string): string => {
    if (!/^[0-9a-f]{64}$/u.test(hash)) throw new Error('Not the name of a stored file');
    return join(folder, hash.slice(0, 2), hash);
  };
  async function place(hash: string, bring: (path: string) => Promise<void>): Promise<string> {
    const path = fileOf(hash);
    const isKnown = await stat(path).then(
      () => true,
      () => false,
    );
    if (isKnown) return hash;
    await mkdir(dirname(path), { recursive: true });
    await bring(path);
    return hash;
  }
  return {
    put: (bytes) =>
      place(createHash('sha256').update(bytes).digest('hex'), async (path) => {
        // Written elsewhere and renamed: a reader never sees half of it.
        const draft = join(drafts, randomUUID());
        await mkdir(drafts, { recursive: true });
        await writeFile(draft, bytes);
        await rename(draft, path);
      }),
    async putFile(path) {
      const hash = createHash('sha256');
      await pipeline(createReadStream(path), hash);
      return place(hash.digest('hex'), (kept) => rename(path, kept));
    },
    getNow: (hash) => readFileSync(fileOf(hash)),
    fileOf,
  };
}
