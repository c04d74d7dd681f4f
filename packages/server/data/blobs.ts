import { createHash, randomUUID } from 'node:crypto';
import { mkdir, readFile, rename, stat, writeFile } from 'node:fs/promises';
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

/** Files by the SHA-256 of their content: the same bytes are kept once, and never change under their name. */
export interface BlobStore {
  put(bytes: Uint8Array): Promise<string>;
  get(hash: string): Promise<Uint8Array>;
  getNow(hash: string): Uint8Array;
}

export function blobStore(folder: string): BlobStore {
  const pathOf = (hash: string): string => {
    if (!/^[0-9a-f]{64}$/u.test(hash)) throw new Error('Not the name of a stored file');
    return join(folder, hash.slice(0, 2), hash);
  };
  return {
    async put(bytes) {
      const hash = createHash('sha256').update(bytes).digest('hex');
      const path = pathOf(hash);
      const known = await stat(path).then(
        () => true,
        () => false,
      );
      if (known) return hash;
      await mkdir(dirname(path), { recursive: true });
      // Written beside and renamed: a reader never sees half a file.
      const draft = `${path}.${randomUUID()}`;
      await writeFile(draft, bytes);
      await rename(draft, path);
      return hash;
    },
    get: (hash) => readFile(pathOf(hash)),
    getNow: (hash) => readFileSync(pathOf(hash)),
  };
}
