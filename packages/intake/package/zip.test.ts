import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync, type Zippable } from 'fflate';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { unpackZip, zipLimits } from '../index.ts';

let folder: string;
beforeEach(async () => void (folder = await mkdtemp(join(tmpdir(), 'ukiyo-zip-'))));
afterEach(() => rm(folder, { recursive: true, force: true }));

async function unpacked(bytes: Uint8Array): Promise<Map<string, string> | string> {
  const path = join(folder, 'package.zip');
  await writeFile(path, bytes);
  const into = await mkdtemp(join(folder, 'into-'));
  const files = await unpackZip(path, into);
  if ('code' in files) return `${files.code}: ${files.message}`;
  // Nothing lies anywhere but under a number of its own.
  expect((await readdir(into)).every((name) => /^\d+$/u.test(name))).toBe(true);
  return new Map([...files.keys()].map((name) => [name, Buffer.from(files.get(name)!).toString()]));
}
const topic = '<concept id="a"><title>A</title></concept>';
const good: Zippable = { 'a.dita': strToU8(topic), 'images/': new Uint8Array() };
const zip = (more: Zippable = {}): Buffer => Buffer.from(zipSync({ ...good, ...more }));

/** The central header of an entry (APPNOTE 4.3.12), for changing what it says. */
function headerOf(bytes: Buffer, name: string): number {
  for (let at = bytes.indexOf('PK\x01\x02', 0, 'latin1'); at !== -1;) {
    const length = bytes.readUInt16LE(at + 28);
    if (bytes.subarray(at + 46, at + 46 + length).toString() === name) return at;
    at = bytes.indexOf('PK\x01\x02', at + 4, 'latin1');
  }
  throw new Error(`There is no entry ${name}`);
}
const changed = (
  bytes: Buffer,
  change: (bytes: Buffer, header: number) => void,
  name = 'a.dita',
) => {
  const copy = Buffer.from(bytes);
  change(copy, headerOf(copy, name));
  return copy;
};
/** The same length, so that nothing else moves. */
const renamed = (bytes: Buffer, from: string, to: string): Buffer =>
  Buffer.from(bytes.toString('latin1').replaceAll(from, to), 'latin1');

describe('zip files', () => {
  it('are unpacked under names of their own', async () => {
    expect(await unpacked(zip({ 'b/c.txt': strToU8('hello') }))).toEqual(
      new Map([
        ['a.dita', topic],
        ['b/c.txt', 'hello'],
      ]),
    );
  });

  const encrypted = (bytes: Buffer): Buffer =>
    changed(bytes, (copy, at) => copy.writeUInt16LE(copy.readUInt16LE(at + 8) | 1, at + 8));
  const asLink = (bytes: Buffer): Buffer =>
    changed(bytes, (copy, at) => {
      copy.writeUInt16LE((3 << 8) | 20, at + 4);
      copy.writeUInt32LE((0o120777 << 16) >>> 0, at + 38);
    });
  const wrongSum = (bytes: Buffer): Buffer =>
    changed(bytes, (copy, at) => copy.writeUInt32LE(copy.readUInt32LE(at + 16) ^ 1, at + 16));
  const shorter = (bytes: Buffer): Buffer =>
    changed(bytes, (copy, at) => copy.writeUInt32LE(3, at + 24));
  const enormous = (bytes: Buffer): Buffer =>
    changed(bytes, (copy, at) => copy.writeUInt32LE(zipLimits.textSize + 1, at + 24));
  const torn = (bytes: Buffer): Buffer => bytes.subarray(0, bytes.length - 30);
  const twice = renamed(zip({ 'b.dita': strToU8(topic) }), 'b.dita', 'a.dita');

  it.each([
    ['that are none', Buffer.from('PK nonsense'), 'zip.unreadable', ''],
    ['that are torn', torn(zip()), 'zip.unreadable', ''],
    [
      'with a path that leads out',
      renamed(zip({ 'xx/evil': strToU8('x') }), 'xx/evil', '../evil'),
      'zip.unreadable',
      '../evil',
    ],
    [
      'with a path from the root',
      renamed(zip({ 'x/evil': strToU8('x') }), 'x/evil', '//evil'),
      'zip.unreadable',
      '//evil',
    ],
    [
      'with a path of another system',
      renamed(zip({ 'x-evil': strToU8('x') }), 'x-evil', 'x\\evil'),
      'zip.unreadable',
      'x\\evil',
    ],
    ['with a wrong checksum', wrongSum(zip()), 'zip.entry', '“a.dita” of the package is damaged'],
    ['with a wrong size', shorter(zip()), 'zip.entry', '“a.dita” of the package is damaged'],
    [
      'with a name that is there twice',
      twice,
      'zip.entry',
      '“a.dita” of the package is there twice',
    ],
    [
      'with an encrypted entry',
      encrypted(zip()),
      'zip.entry',
      '“a.dita” of the package is encrypted',
    ],
    ['with a link', asLink(zip()), 'zip.entry', '“a.dita” of the package is a link'],
    ['with a text that is too large', enormous(zip()), 'zip.too-large', '“a.dita”'],
  ])('%s are refused whole, with the entry by name', async (_what, bytes, code, says) => {
    const answer = await unpacked(bytes);
    expect(answer).toMatch(new RegExp(`^${code}: .*Nothing was imported\\.$`, 'u'));
    expect(answer).toContain(says);
  });

  it('with more entries than can be imported are refused before any is read', async () => {
    const many = Object.fromEntries(
      Array.from({ length: zipLimits.entries + 1 }, (_, index) => [
        `${index}.txt`,
        new Uint8Array(),
      ]),
    );
    expect(await unpacked(Buffer.from(zipSync(many, { level: 0 })))).toContain('40001 entries');
  });
});
