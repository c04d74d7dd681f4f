import { mkdir, mkdtemp, readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { folderInto, type KeptFolder } from './folders.ts';

const picture = Uint8Array.from({ length: 900 }, (_, at) => (at * 7) % 256);
const site = (title: string): [string, string | Uint8Array][] => [
  ['index.html', `<h1>${title}</h1>`],
  ['pages/quay.html', '<p>Mooring at the quay.</p>'.repeat(40)],
  ['assets/quay.png', picture],
  ['assets/quay.svg', Buffer.from('<svg/>')],
];

describe('the folder of an output', () => {
  it('shares files that have not changed with the folder before, and outlives it', async () => {
    const root = await mkdtemp(join(tmpdir(), 'ukiyo-folders-'));
    const kept: KeptFolder = new Map();
    const write = async (name: string, title: string, remember: KeptFolder = kept) => {
      await mkdir(join(root, name));
      return folderInto(join(root, name), 'site', site(title), remember);
    };
    const numberOf = async (name: string, path: string): Promise<number> =>
      (await stat(join(root, name, 'site', path))).ino;

    await write('first', 'Tide gauges');
    const second = await write('second', 'Wave buoys');
    expect(await numberOf('second', 'pages/quay.html')).toBe(
      await numberOf('first', 'pages/quay.html'),
    );
    expect(await numberOf('second', 'assets/quay.png')).toBe(
      await numberOf('first', 'assets/quay.png'),
    );
    expect(await numberOf('second', 'index.html')).not.toBe(await numberOf('first', 'index.html'));
    expect(await readFile(join(root, 'first', 'site', 'index.html'), 'utf8')).toBe(
      '<h1>Tide gauges</h1>',
    );

    // The archive is the one that is made where nothing is remembered.
    expect(await write('alone', 'Wave buoys', new Map())).toEqual(second);
    const files = unzipSync(await readFile(join(root, 'second', 'site.zip')));
    expect(Object.entries(files).map(([path, bytes]) => [path, Buffer.from(bytes)])).toEqual(
      site('Wave buoys').map(([path, content]) => [path, Buffer.from(content)]),
    );

    // What is named twice in one folder never writes over what an earlier folder has.
    await mkdir(join(root, 'twice'));
    const twice = [...site('Tide gauges'), ['pages/quay.html', 'Otherwise'] as [string, string]];
    await expect(folderInto(join(root, 'twice'), 'site', twice, new Map(kept))).rejects.toThrow(
      'EEXIST',
    );
    expect(await readFile(join(root, 'first', 'site', 'pages/quay.html'), 'utf8')).toContain(
      'Mooring',
    );

    await rm(join(root, 'first'), { recursive: true });
    await rm(join(root, 'second'), { recursive: true });
    expect(await write('third', 'Wave buoys')).toEqual(second);
    expect(await readFile(join(root, 'third', 'site', 'pages/quay.html'), 'utf8')).toContain(
      'Mooring',
    );
    await rm(root, { recursive: true });
  });
});
