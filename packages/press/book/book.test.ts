import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { allPlaces } from '@ukiyo/core/compose';
import { shippedLooks, type SiteLook } from '@ukiyo/core/styles';
import { composeTexts, concept, mapText } from '@ukiyo/core/testing';
import { unzipSync } from 'fflate';
import { HtmlValidate } from 'html-validate';
import { describe, expect, it } from 'vitest';
import { composeDemo, demoAssets } from '../testing/demo.ts';
import { epub, onePage } from '../index.ts';

const id = '6f1c9f4e-98a0-4a52-9a1e-2b6f0a6c1d11';
const help = composeDemo('help', 'installer-tern-q', {}, { deliveryTargets: ['epub'] });
const decoded = (bytes: Uint8Array | undefined): string => new TextDecoder().decode(bytes);

/**
 * EPUBCheck of the W3C, as Debian has it (`epubcheck`, 4.2.6): what it prints of errors and
 * warnings.
 */
function checked(bytes: Uint8Array): string[] {
  const file = join(mkdtempSync(join(tmpdir(), 'ukiyo-epub-')), 'book.epub');
  writeFileSync(file, bytes);
  const { stdout, stderr } = spawnSync('java', ['-jar', '/usr/bin/epubcheck', file], {
    encoding: 'utf8',
  });
  const told = `${stdout}\n${stderr}`.split('\n');
  expect(told).toContain('EPUBCheck completed');
  return told.filter((line) => /^(ERROR|WARNING|FATAL)/u.test(line));
}

describe('an e-book', () => {
  it('has no error and no warning: the demo', () => {
    const { bytes, problems, pageCount } = epub(help, demoAssets, { id });
    expect(checked(bytes)).toEqual([]);
    expect(problems).toEqual([]);
    expect(pageCount).toBe(allPlaces(help.places).filter(({ isChunked }) => !isChunked).length);
  });
  it('has none either with strange titles and names, written from right to left', () => {
    const publication = composeTexts(
      [
        mapText(
          '<title>Map &lt;b&gt; &amp; “more”</title><topicref href="topic:one">' +
            '<topicref href="topic:two"/></topicref>',
        ),
        concept(
          'one',
          '<p>First<fn>A note &amp; more</fn>, see <xref href="topic:two"/>.</p><pre>a  b</pre>',
        ),
        concept('two', '<p>Second</p>'),
      ],
      { locale: 'ar' },
    );
    const { bytes } = epub(publication, () => undefined, { id });
    expect(checked(bytes)).toEqual([]);
    const opf = decoded(unzipSync(bytes)['EPUB/package.opf']);
    expect(opf).toContain('page-progression-direction="rtl"');
    expect(opf).toContain(`urn:uuid:${id}`);
  });
  it('is the same, byte for byte, however often it is made', () =>
    expect(
      Buffer.from(epub(help, demoAssets, { id }).bytes).equals(
        epub(help, demoAssets, { id }).bytes,
      ),
    ).toBe(true));
  it('says first what it is, and that uncompressed (EPUB Open Container Format 3.3, 4.3)', () => {
    const { bytes } = epub(help, demoAssets, { id });
    expect(decoded(bytes.slice(30, 58))).toBe('mimetypeapplication/epub+zip');
  });
});

describe('one page', () => {
  const { html, problems } = onePage(help, demoAssets);
  /** html-validate (npm), its recommended and document presets. */
  it('is valid HTML', async () => {
    const validator = new HtmlValidate({
      extends: ['html-validate:standard', 'html-validate:document', 'html-validate:a11y'],
      // Two tables may have one title.
      rules: {
        'long-title': 'off',
        'require-sri': 'off',
        'heading-level': 'off',
        'unique-landmark': 'off',
      },
    });
    const { results } = await validator.validateString(html);
    expect(
      results.flatMap(({ messages }) =>
        messages.map(({ ruleId, message }) => `${ruleId} ${message}`),
      ),
    ).toEqual([]);
    expect(problems).toEqual([]);
  });
  it('leads only to itself, and needs nothing beside it', () => {
    const ids = new Set([...html.matchAll(/\sid="([^"]+)"/gu)].map(([, one]) => one));
    for (const [, reference] of html.matchAll(/\s(?:href|src)="([^"]+)"/gu)) {
      if (reference!.startsWith('#')) expect(ids.has(reference!.slice(1)), reference).toBe(true);
      else expect(reference).toMatch(/^data:|^https:\/\/help\.brinewell\.example\//u);
    }
    expect(html).not.toContain('<script');
    for (const { label, content } of allPlaces(help.places))
      if (content) expect(html).toContain(label.replace(/&/gu, '&amp;'));
  });
  it('is not ended by rules that somebody wrote', () => {
    const { html: hostile } = onePage(help, demoAssets, {
      look: {
        ...(Object.values(shippedLooks)[0] as SiteLook),
        css: 'a::after { content: "</style><script>alert(1)</script>" }',
      },
    });
    expect(hostile).not.toContain('<script');
    expect(hostile.match(/<\/style>/gu)).toHaveLength(1);
  });
});
