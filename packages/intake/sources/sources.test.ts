import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { validate, writeCanonical } from '@ukiyo/core/grammar';
import spec from 'commonmark-spec';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  planReading,
  readSourceFolder,
  sourceLimits,
  type LinkedFile,
  type SourceDifference,
} from '../index.ts';
import { textHash } from './plan.ts';
import { withTopicLinks, readOutside } from './topic.ts';

const topicFromMarkdown = (
  path: string,
  text: string,
  id: string,
  itemAt: (path: string) => string | undefined,
) => {
  const { root, problems } = readOutside(text, id);
  return root ? withTopicLinks(path, root, itemAt) : { root, problems };
};
const topic = (text: string, path = 'notes/first.md'): string => {
  const { root, problems } = topicFromMarkdown(
    path,
    text,
    'first',
    (other) => ({ 'notes/second.md': 'second', 'about.md': 'about' })[other],
  );
  return [
    root ? writeCanonical(root) : 'no topic',
    ...problems.map(
      ({ code, message, where: { line } }) =>
        `${code}${line === undefined ? '' : `:${line}`} ${message}`,
    ),
  ].join('\n');
};

describe('a Markdown file from outside', () => {
  it('is a topic, with its headings as parts and deeper ones as words', () => {
    const made = topic(
      '# Firmware 4.2\n\n> What is new.\n\nRuns on **all** stations.\n' +
        '\n## Mended\n\n### At sea\n\n- The gauge wakes.\n\n---\n' +
        '\n<!-- not yet -->\n\nEnd.\n',
    );
    expect(made).toContain('<title>Firmware 4.2</title>');
    expect(made).toContain('<shortdesc>What is new.</shortdesc>');
    expect(made).toMatch(/<section>\s*<title>Mended<\/title>\s*<p><b>At sea<\/b><\/p>/u);
    expect(made).not.toContain('not yet');
  });
  it('links to the topics of other files in its folder, and otherwise only to the web', () => {
    const made = topic(
      '# A\n\n[B](second.md#top), [C](../about.md), [web](https://tern.example/x), ' +
        '[out](../../etc/passwd), [run](javascript:alert(1)), [here](#a).\n',
    );
    expect(made).toContain(
      '<xref href="topic:second">B</xref>, <xref href="topic:about">C</xref>, ' +
        '<xref format="html" href="https://tern.example/x" scope="external">web</xref>, out, ' +
        'run, here.',
    );
    expect(made.match(/source\.link/gu)).toHaveLength(2);
    expect(made).not.toContain('href="javascript');
  });
  it('leaves images out, and says which', () => {
    const made = topic('# A\n\n![The mast](img/mast.png)\n\nSee ![](x.png) this.\n');
    expect(made).toContain('<p>The mast</p>');
    expect(made).toContain(
      'source.image The image “img/mast.png” is not taken along; its words are.',
    );
    expect(made.match(/source\.image/gu)).toHaveLength(2);
  });
  it('is refused with its line where it has HTML, also below front matter', () => {
    expect(topic('---\ntitle: A\n---\n# A\n\nText.\n\n<table></table>\n')).toBe(
      'no topic\nmarkdown.no-place:8 HTML has no place in this topic.',
    );
  });
  it('is a valid topic or refused with a reason, for all examples of CommonMark 0.31', () => {
    let made = 0;
    for (const { markdown } of spec.tests) {
      const { root, problems } = topicFromMarkdown(
        'a.md',
        `# A\n\n${markdown}`,
        'a',
        () => undefined,
      );
      if (root) {
        made += 1;
        expect(validate(root), markdown).toEqual([]);
      } else expect(problems.length, markdown).toBeGreaterThan(0);
    }
    expect(made).toBeGreaterThan(400);
  });
});

/** Files outside and topics here, read as often as one likes. */
function desk() {
  const files = new Map<string, string>();
  const topics = new Map<string, string>();
  let linked: readonly LinkedFile[] = [];
  const plan = (decisions: Record<string, 'outside' | 'here'> = {}): Promise<SourceDifference> =>
    planReading({
      files,
      linked,
      textOf: (item) => topics.get(item),
      taken: new Set(['taken', ...topics.keys()]),
      decisions,
    });
  const read = async (
    decisions?: Record<string, 'outside' | 'here'>,
  ): Promise<SourceDifference> => {
    const reading = await plan(decisions);
    for (const { item, text } of [...reading.added, ...reading.changed]) topics.set(item, text);
    linked = reading.linked;
    return reading;
  };
  const states = (reading: SourceDifference): string =>
    reading.files.map(({ path, state }) => `${path} ${state}`).join(', ');
  return { files, topics, plan, read, states };
}

describe('reading again', () => {
  it('takes what is new and what has changed, and nothing twice', async () => {
    const { files, topics, read, states } = desk();
    files.set('a.md', '# A\n\nOne. [B](taken.md)\n').set('taken.md', '# B\n\nTwo.\n');
    expect(states(await read())).toBe('a.md new, taken.md new');
    expect([...topics.keys()]).toEqual(['a', 'taken-2']);
    expect(topics.get('a')).toContain('href="topic:taken-2"');
    expect(states(await read())).toBe('a.md same, taken.md same');
    files.set('a.md', '# A\n\nOne and a half.\n');
    const { changed, added } = await read();
    expect([changed.map(({ item }) => item), added]).toEqual([['a'], []]);
    expect(topics.get('a')).toContain('One and a half.');
  });
  it('leaves what was changed in both places until somebody says which holds', async () => {
    const { files, topics, read, states } = desk();
    files.set('a.md', '# A\n\nOne.\n');
    await read();
    topics.set('a', topics.get('a')!.replace('One.', 'Mine.'));
    expect(states(await read())).toBe('a.md same');
    files.set('a.md', '# A\n\nTheirs.\n');
    const { problems } = await read();
    expect(problems).toMatchObject([{ code: 'source.both', where: { item: 'a' } }]);
    expect(topics.get('a')).toContain('Mine.');
    expect(states(await read({ 'a.md': 'here' }))).toBe('a.md same');
    expect((await read()).problems).toEqual([]);
    files.set('a.md', '# A\n\nTheirs again.\n');
    expect(states(await read())).toBe('a.md both');
    expect(states(await read({ 'a.md': 'outside' }))).toBe('a.md changed');
    expect(topics.get('a')).toContain('Theirs again.');
  });
  it('keeps topics of missing files, leaves removed ones removed, reports the rest', async () => {
    const { files, topics, read, states } = desk();
    files.set('a.md', '# A\n').set('b.md', '# B\n').set('c.md', '# C\n').set('d.md', '<p>D</p>\n');
    expect(states(await read())).toBe('a.md new, b.md new, c.md new, d.md refused');
    files.delete('a.md');
    topics.delete('b');
    files.set('b.md', '# B2\n').set('c.md', '<p>C</p>\n');
    const reading = await read();
    expect(states(reading)).toBe('b.md removed, c.md refused, d.md refused, a.md gone');
    expect(topics.has('b')).toBe(false);
    expect(topics.get('a')).toContain('<title>A</title>');
    expect(reading.problems.map(({ code }) => code)).toEqual([
      'source.refused',
      'source.refused',
      'source.gone',
    ]);
    files.set('a.md', '# A\n').set('c.md', '# C\n');
    expect(states(await read())).toBe('a.md same, b.md removed, c.md same, d.md refused');
  });
  it('follows a file that was renamed or moved, and reads nothing twice', async () => {
    const { files, topics, read, states } = desk();
    files
      .set('a.md', '# A\n\nOne.\n')
      .set('b.md', '# B\n\nTwo.\n')
      .set('out.md', '# Out\n\n[Away](../away.md)\n');
    expect((await read()).problems.map(({ code }) => code)).toEqual(['source.link']);
    // What was left out is told at each reading.
    expect((await read()).problems.map(({ code }) => code)).toEqual(['source.link']);
    files.set('deep/c.md', files.get('a.md')!).delete('a.md');
    const moved = await read();
    expect([states(moved), moved.linked.find(({ item }) => item === 'a')?.path]).toEqual([
      'b.md same, deep/c.md same, out.md same',
      'deep/c.md',
    ]);
    files.set('deep/c.md', '# A\n\nThree.\n');
    expect(states(await read())).toBe('b.md same, deep/c.md changed, out.md same');
    expect(topics.get('a')).toContain('Three.');
    // Two that say the same are two.
    files.set('e.md', files.get('b.md')!);
    expect(states(await read())).toBe('b.md same, deep/c.md same, e.md new, out.md same');
  });
});

describe('reading again', () => {
  it('makes no link to a file that cannot be a topic, until it can', async () => {
    const { files, topics, read } = desk();
    files
      .set('a.md', '# A\n\n[Raw](raw.md), [B](b.md)\n')
      .set('b.md', '# B\n')
      .set('raw.md', '# Raw\n\n<p>x</p>\n');
    expect((await read()).problems.map(({ code }) => code)).toEqual([
      'source.link',
      'source.refused',
    ]);
    expect(topics.get('a')).toContain('<p>Raw, <xref href="topic:b">B</xref></p>');
    files.set('raw.md', '# Raw\n\nx\n');
    expect((await read()).problems).toEqual([]);
    expect(topics.get('a')).toContain('<xref href="topic:raw">Raw</xref>');
  });
  it('gives the id of a topic that was removed to no other file', async () => {
    const { files, topics, read } = desk();
    files.set('b/a.md', '# B\n');
    const item = (await read()).files[0]!.item!;
    topics.delete(item);
    files.set('b-a.md', '# Another\n');
    expect((await read()).added.map((one) => one.item)).toEqual([`${item}-2`]);
  });
  it('never overwrites words written here, in any order of events', async () => {
    const act = fc.oneof(
      fc.record({
        kind: fc.constant('outside' as const),
        at: fc.constantFrom('a', 'b'),
        word: fc.stringMatching(/^[a-z]{1,6}$/u),
      }),
      fc.record({
        kind: fc.constant('here' as const),
        at: fc.constantFrom('a', 'b'),
        word: fc.stringMatching(/^[a-z]{1,6}$/u),
      }),
      fc.record({ kind: fc.constant('read' as const), at: fc.constant(''), word: fc.constant('') }),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(act, { maxLength: 14 }), async (acts) => {
        const { files, topics, read } = desk();
        files.set('a.md', '# A\n\nOne.\n').set('b.md', '# B\n\nTwo.\n');
        await read();
        const taken = new Map(topics);
        for (const { kind, at, word } of acts) {
          if (kind === 'outside') files.set(`${at}.md`, `# ${at}\n\nOut ${word}.\n`);
          if (kind === 'here')
            topics.set(at, topics.get(at)!.replace('</title>', ` ${word}</title>`));
          if (kind !== 'read') continue;
          const before = new Map(topics);
          for (const { item, text } of (await read()).changed) {
            expect(before.get(item)).toBe(taken.get(item));
            taken.set(item, text);
          }
        }
      }),
    );
  });
  it('knows a text by its hash', async () => {
    expect(textHash('')).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
  });
});

describe('a folder from outside', () => {
  const folder = mkdtempSync(join(tmpdir(), 'source-'));
  const other = mkdtempSync(join(tmpdir(), 'elsewhere-'));
  beforeAll(() => {
    mkdirSync(join(folder, 'deep/.hidden'), { recursive: true });
    writeFileSync(join(folder, 'a.md'), '# A\n');
    writeFileSync(join(folder, 'deep/b.markdown'), '\ufeff# B\n');
    writeFileSync(join(folder, 'deep/.hidden/c.md'), '# C\n');
    writeFileSync(join(folder, 'picture.png'), 'x');
    writeFileSync(join(folder, 'old.md'), Buffer.from([0x23, 0x20, 0xe9, 0x0a]));
    writeFileSync(join(folder, 'large.md'), '#'.repeat(sourceLimits.bytes + 1));
    writeFileSync(join(other, 'secret.md'), '# Secret\n');
    symlinkSync(other, join(folder, 'link'));
    symlinkSync(join(other, 'secret.md'), join(folder, 'link.md'));
  });
  afterAll(() => [folder, other].forEach((path) => rmSync(path, { recursive: true })));
  it('is read as far as it is Markdown, its own, and of a size', async () => {
    const { files, problems } = await readSourceFolder(folder);
    expect([...files]).toEqual([
      ['a.md', '# A\n'],
      ['deep/b.markdown', '# B\n'],
    ]);
    expect(problems.map(({ code, message }) => `${code} ${message}`)).toEqual([
      'source.too-large “large.md” is larger than one megabyte and is not read.',
      'source.encoding “old.md” is not written in UTF-8 and is not read.',
    ]);
  });
  it('that is not there is an error', async () => {
    await expect(readSourceFolder(join(folder, 'nowhere'))).rejects.toThrow('ENOENT');
  });
});
