import { readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { problem, type Problem } from '@ukiyo/core/problems';

/** What is more than this is not read. */
export const sourceLimits = { files: 2000, bytes: 1024 * 1024, depth: 12 };

export interface FolderTexts {
  /** By path below the folder, with forward slashes. */
  readonly files: ReadonlyMap<string, string>;
  /** `source.too-many`, `source.too-large`, `source.encoding`, each with the file. */
  readonly problems: readonly Problem[];
}

/**
 * The Markdown files below a folder. Links are not followed, hidden folders not looked into. Throws
 * where the folder cannot be read.
 */
export async function readSourceFolder(root: string): Promise<FolderTexts> {
  const files = new Map<string, string>();
  const problems: Problem[] = [];
  const decoder = new TextDecoder('utf-8', { fatal: true });
  const look = async (folder: string, depth: number): Promise<void> => {
    for (const entry of (await readdir(join(root, folder), { withFileTypes: true })).sort((a, b) =>
      a.name < b.name ? -1 : 1,
    )) {
      const path = folder === '' ? entry.name : `${folder}/${entry.name}`;
      if (entry.name.startsWith('.')) continue;
      if (entry.isDirectory() && depth < sourceLimits.depth) await look(path, depth + 1);
      if (!entry.isFile() || !/\.(md|markdown)$/iu.test(entry.name)) continue;
      if (files.size === sourceLimits.files) {
        if (problems.at(-1)?.code !== 'source.too-many')
          problems.push(
            problem(
              'warning',
              'source.too-many',
              `There are more than ${sourceLimits.files} files; those from “${path}” on are ` +
                'not read.',
            ),
          );
        return;
      }
      const file = join(root, path);
      if ((await stat(file)).size > sourceLimits.bytes) {
        problems.push(
          problem(
            'warning',
            'source.too-large',
            `“${path}” is larger than one megabyte and is not read.`,
          ),
        );
        continue;
      }
      try {
        files.set(path, decoder.decode(await readFile(file)));
      } catch (error) {
        if (!(error instanceof TypeError)) throw error;
        problems.push(
          problem(
            'warning',
            'source.encoding',
            `“${path}” is not written in UTF-8 and is not read.`,
          ),
        );
      }
    }
  };
  await look('', 0);
  return { files, problems };
}
