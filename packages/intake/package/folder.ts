import { readdir, readFile } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';

/** All files below a folder, by path with forward slashes. Links are not followed. */
export async function readFolder(root: string): Promise<Map<string, Uint8Array>> {
  const entries = await readdir(root, { recursive: true, withFileTypes: true });
  const files = entries
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name));
  return new Map(
    await Promise.all(
      files.map(async (file): Promise<[string, Uint8Array]> => [
        relative(root, file).split(sep).join('/'),
        await readFile(file),
      ]),
    ),
  );
}
