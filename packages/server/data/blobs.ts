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

export function blobStore(folder: string): BlobStore {
  const fileOf = (hash: string): string => {
    if (!/^[0-9a-f]{64}$/u.test(hash)) throw new Error('Not the name of a stored file');
    return join(folder, hash.slice(0, 2), hash);
  };
  /** Has a file made beside its place and renamed: a reader never sees half of it. */
  async function place(hash: string, make: (draft: string) => Promise<void>): Promise<string> {
    const path = fileOf(hash);
    const isKnown = await stat(path).then(
      () => true,
      () => false,
    );
    if (isKnown) return hash;
    await mkdir(dirname(path), { recursive: true });
    const draft = `${path}.${randomUUID()}`;
    await make(draft);
    await rename(draft, path);
    return hash;
  }
  return {
    put: (bytes) =>
      place(createHash('sha256').update(bytes).digest('hex'), (draft) => writeFile(draft, bytes)),
    async putFile(path) {
      const hash = createHash('sha256');
      await pipeline(createReadStream(path), hash);
      return place(hash.digest('hex'), (draft) => rename(path, draft));
    },
    getNow: (hash) => readFileSync(fileOf(hash)),
    fileOf,
  };
}
