import { dirname, join, normalize } from 'node:path/posix';
import { allPlaces, type Publication } from '@ukiyo/core/compose';
import { composeTexts, concept, mapText } from '@ukiyo/core/testing';
import { describe, expect, it } from 'vitest';
import { markdownFiles } from '../plain/markdown.ts';
import { checkedHtml } from '../testing/checker.ts';
import { composeDemo, demoAssets } from '../testing/demo.ts';
import { siteFiles } from './index.ts';
import { siteAddress } from '../topics/index.ts';

const filing = { folders: 'chapters', naming: 'titles' } as const;
const help = composeDemo('help', 'installer-tern-q');
const pagesOf = (publication: Publication, options: object = filing): Map<string, string> =>
  new Map(
    [...siteFiles(publication, demoAssets, options).files].map(([path, content]) => [
      path,
      path.endsWith('.html') ? String(content) : '',
    ]),
  );
const wordsOf = (html: string): string => html.replace(/<[^<>]*>/gu, '¦');

describe('a site with a folder for each chapter', () => {
  const pages = pagesOf(help);

  it('has the pages of a chapter in a folder that is called as it is, which opens with it', () => {
    const chapter = help.places.find(({ children }) => children.length > 0)!;
    const own = siteAddress(help, chapter.anchor, filing)!;
    expect(own).toMatch(/^[a-z0-9-]+\/index\.html$/u);
    for (const { anchor, isChunked } of allPlaces(chapter.children))
      if (!isChunked) expect(dirname(siteAddress(help, anchor, filing)!)).toBe(dirname(own));
    expect(new Set([...pages.keys()].map((path) => path.toLowerCase())).size).toBe(pages.size);
  });
  it('leads from every page to files and places that are there', () => {
    let links = 0;
    for (const [path, html] of pages) {
      for (const [, reference] of html.matchAll(/\s(?:href|src|poster)="([^"]+)"/gu)) {
        if (/^(?:https?|mailto):/u.test(reference!)) continue;
        const [file = '', id] = reference!.split('#');
        const target = file === '' ? path : normalize(join(dirname(path), file));
        expect(pages.has(target), `${path} → ${reference}`).toBe(true);
        if (id !== undefined)
          expect(pages.get(target), `${path} → ${reference}`).toContain(`id="${id}"`);
        links += 1;
      }
    }
    expect(links).toBeGreaterThan(1500);
    expect(
      [...pages.keys()].filter((path) => path.includes('/') && path.endsWith('.html')).length,
    ).toBeGreaterThan(40);
  });
  it('has the pages of the flat layout without an error in the Nu HTML checker', () => {
    const flat = pagesOf(help, {});
    for (const { anchor, isChunked } of allPlaces(help.places))
      if (!isChunked && siteAddress(help, anchor))
        expect(wordsOf(pages.get(siteAddress(help, anchor, filing)!)!)).toBe(
          wordsOf(flat.get(siteAddress(help, anchor)!)!),
        );
    expect(
      checkedHtml(
        [...pages]
          .filter(([path]) => path.endsWith('.html'))
          .map(([path, html]) => [path.replaceAll('/', '-'), html]),
      ),
    ).toEqual([]);
  }, 60_000);
  it('leaves what is written as it is, and keeps apart from the folders of the site', () => {
    const publication = composeTexts([
      mapText(
        '<topicref href="topic:one"><topicref href="topic:two"/></topicref>' +
          '<topicref href="topic:three"><topicref href="topic:four"/></topicref>',
      ),
      concept('one', '', 'Assets'),
      concept(
        'two',
        '<p>&lt;a href="two.html" src=x> and <codeph>&lt;img src="x.png"></codeph> ' +
          '<xref href="topic:three"/> ' +
          '<xref href="https://quay.example/a.html" format="html" scope="external">out</xref>' +
          '</p>',
        'Assets',
      ),
      concept('three', '', 'ASSETS!'),
      concept('four', '', '../..'),
    ]);
    const made = pagesOf(publication);
    expect([...made.keys()].filter((path) => path.includes('/') && path.endsWith('.html'))).toEqual(
      ['assets-2/index.html', 'assets-2/assets.html', 'assets-3/index.html', 'assets-3/four.html'],
    );
    const two = made.get('assets-2/assets.html')!;
    expect(two).toContain(
      '&lt;a href="two.html" src=x&gt; and <code>&lt;img src="x.png"&gt;</code>',
    );
    expect(two).toContain('<a href="../assets-3/index.html">');
    expect(two).toContain('<a href="https://quay.example/a.html"');
  });
});

describe('names of 300 characters', () => {
  it('are cut where files are called after them, each another', () => {
    const long = 'Tide '.repeat(60).trim();
    const id = (end: string): string => `${'a'.repeat(299)}${end}`;
    const publication = composeTexts([
      mapText(`<topicref href="topic:${id('x')}"><topicref href="topic:${id('y')}"/></topicref>`),
      concept(id('x'), '', long),
      concept(id('y'), '', long),
    ]);
    for (const naming of ['ids', 'titles', 'numbers'] as const)
      for (const folders of ['one', 'chapters'] as const) {
        const names = [...pagesOf(publication, { naming, folders }).keys()];
        expect(new Set(names).size).toBe(names.length);
        for (const part of names.flatMap((path) => path.split('/')))
          expect(part.length).toBeLessThan(100);
      }
  });
});

describe('a folder of Markdown with a folder for each chapter', () => {
  it('leads to files that are there', () => {
    const { files } = markdownFiles(help, demoAssets, filing);
    const texts = [...files]
      .filter(([path]) => path.endsWith('.md'))
      .map(([path, content]) => [path, Buffer.from(content).toString()] as const);
    const found = texts.flatMap(([path, text]) =>
      [...text.matchAll(/\]\(<?([^)\s>#]+)/gu)].flatMap(([, file]) =>
        /^[a-z]+:/u.test(file!) ? [] : [normalize(join(dirname(path), file!))],
      ),
    );
    expect(found.filter((file) => !files.has(file))).toEqual([]);
    expect(found.length).toBeGreaterThan(150);
  });
});
