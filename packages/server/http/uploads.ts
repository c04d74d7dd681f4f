import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Readable } from 'node:stream';
import { Refused } from './guard.ts';

/** Bytes of one uploaded file. */
export const largestFile = 200 * 1024 * 1024;

interface Upload {
  readonly filename: string;
  readonly mimetype: string;
  readonly file: Readable & { readonly truncated: boolean };
}

const noFile = (): Refused => new Refused(400, 'no-file', 'The request contains no file.');
const tooLarge = ({ filename }: Upload): Refused =>
  new Refused(
    413,
    'file-too-large',
    `“${filename}” is larger than ${largestFile / 1024 / 1024} MB.`,
  );

/** Files that are there for one request. */
export interface TemporaryFiles {
  /** Gives an empty folder, and removes it with all that is in it when the work is done. */
  use<Made>(work: (folder: string) => Promise<Made>): Promise<Made>;
  /**
   * The same, with the one file that came with a request.
   * @throws Refused when there is none, or it is too large
   */
  withUpload<Made>(
    upload: Upload | undefined,
    work: (path: string, upload: Upload) => Promise<Made>,
  ): Promise<Made>;
}

/**
 * What a server that died has left behind is removed after so long, in milliseconds; nothing takes
 * a tenth of it.
 */
const leftBehindAfter = 6 * 3_600_000;

export function temporaryFiles(dataFolder: string): TemporaryFiles {
  const folder = join(dataFolder, 'temporary');
  async function clear(): Promise<void> {
    for (const name of await readdir(folder).catch(() => [])) {
      const path = join(folder, name);
      const found = await stat(path).catch(() => undefined);
      if (found && found.mtimeMs < Date.now() - leftBehindAfter)
        await rm(path, { recursive: true, force: true });
    }
  }
  async function use<Made>(work: (folder: string) => Promise<Made>): Promise<Made> {
    await clear();
    const own = join(folder, randomUUID());
    await mkdir(own, { recursive: true });
    try {
      return await work(own);
    } finally {
      await rm(own, { recursive: true, force: true });
    }
  }
  return {
    use,
    withUpload: async (upload, work) => {
      if (!upload) throw noFile();
      return use(async (own) => {
        const path = join(own, 'upload');
        await pipeline(upload.file, createWriteStream(path));
        if (upload.file.truncated) throw tooLarge(upload);
        return work(path, upload);
      });
    },
  };
}
