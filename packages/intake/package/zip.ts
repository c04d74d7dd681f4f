import { buffer } from 'node:stream/consumers';
import { problem, type Problem } from '@ukiyo/core/problems';
import { fromBufferPromise } from 'yauzl';

/** Bounds on what a package may hold: enough for a library of 10,000 topics, too little for a zip bomb. */
export const zipLimits = {
  entries: 40_000,
  entrySize: 64 * 1024 * 1024,
  totalSize: 1024 * 1024 * 1024,
} as const;

/**
 * Unpacks a zip file in memory, within `zipLimits`.
 * Problems: `zip.unreadable`, `zip.too-large`, `zip.entry`; what could be read is returned all the same.
 */
export async function readZip(
  bytes: Uint8Array,
): Promise<{ files: Map<string, Uint8Array>; problems: Problem[] }> {
  const files = new Map<string, Uint8Array>();
  const problems: Problem[] = [];
  let total = 0;
  try {
    const zip = await fromBufferPromise(Buffer.from(bytes), { strictFileNames: true });
    for await (const entry of zip.eachEntry()) {
      if (entry.fileName.endsWith('/')) continue;
      total += entry.uncompressedSize;
      if (
        files.size >= zipLimits.entries ||
        entry.uncompressedSize > zipLimits.entrySize ||
        total > zipLimits.totalSize
      ) {
        problems.push(
          problem(
            'error',
            'zip.too-large',
            `The package is larger than can be taken in; “${entry.fileName}” and what follows is left out.`,
          ),
        );
        break;
      }
      try {
        // The unzipper checks the declared size while it reads, so an entry that lies fails instead of growing.
        files.set(entry.fileName, await buffer(await zip.openReadStreamPromise(entry)));
      } catch (error) {
        problems.push(
          problem(
            'error',
            'zip.entry',
            `“${entry.fileName}” in the package is damaged (${reason(error)}). It is left out.`,
          ),
        );
      }
    }
    zip.close();
  } catch (error) {
    problems.push(
      problem(
        'error',
        'zip.unreadable',
        `This is not a zip file that can be read (${reason(error)}).`,
      ),
    );
  }
  return { files, problems };
}

const reason = (error: unknown): string => (error instanceof Error ? error.message : String(error));
