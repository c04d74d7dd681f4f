import { compose, ComposeMemory, type Publication } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demo, demoAssets } from '../testing/demo.ts';
import { siteFiles, type SiteOptions } from '../site/index.ts';
import { siteMemory } from './memory.ts';

const open = ['product', 'platform', 'country'];
const choices = open.map((facet) => ({ facet, label: '', pick: 'one' as const, preset: [] }));

/** A library that changes while its site is built again and again. */
function ground(lens: string, options: SiteOptions) {
  const library = textLibrary(demo.items, demo.assets, { lenses: demo.lenses });
  const memory = new ComposeMemory();
  const sites = siteMemory();
  const chosen = demo.lenses.find(({ id }) => id === lens);
  const asked = {
    library,
    map: 'help',
    facets: demo.facets,
    open: options.choices ? open : [],
    ...(chosen ? { lens: chosen } : {}),
  };
  const texts = new Map(demo.items.map((item) => [item.id, item]));
  const change = (id: string, edit: (text: string) => string): void => {
    const item = texts.get(id)!;
    texts.set(id, { ...item, text: edit(item.text) });
    library.set(texts.get(id)!);
  };
  const filesOf = (publication: Publication, more: SiteOptions = {}) =>
    new Map(siteFiles(publication, demoAssets, { ...options, ...more }).files);
  return {
    change,
    kept: () => filesOf(compose(asked, memory), { memory: sites }),
    anew: () => filesOf(compose(asked)),
  };
}
type Files = ReadonlyMap<string, string | Uint8Array>;
/** Paths of files that are not the same, or there only once. */
const differing = (one: Files, other: Files): string[] =>
  [...new Set([...one.keys(), ...other.keys()])].filter(
    (path) =>
      one.get(path) !== other.get(path) &&
      !Buffer.from(one.get(path) ?? '').equals(Buffer.from(other.get(path) ?? '')),
  );

const topics = demo.items.filter(({ text }) => text.includes('</title>') && !text.includes('<map'));
const changes = fc.record({
  topic: fc.constantFrom(...topics.map(({ id }) => id)),
  change: fc.constantFrom<[string, (text: string) => string][]>(
    ['its title', (text) => text.replace('</title>', ' again</title>')],
    ['a footnote', (text) => text.replace('</p>', '<fn>One more.</fn></p>')],
    ['a figure fewer', (text) => text.replace(/<fig[\s>].*?<\/fig>/su, '')],
    [
      'a figure more',
      (text) =>
        text.replace(/<(con|ref)body>/u, '<$1body><fig><title>One more</title><p>Shown.</p></fig>'),
    ],
    ['its short description', (text) => text.replace('</shortdesc>', ' Again.</shortdesc>')],
    ['who it is for', (text) => text.replace('<p>', '<p platform="battery">')],
  ),
});

describe('what a site keeps between builds', () => {
  it.each<[string, string, SiteOptions]>([
    ['for all readers alike', 'battery-de', {}],
    ['in which readers choose', 'reader-chooses', { choices }],
  ])(
    'never shows in its files, %s: they are those of a build that keeps nothing, after any change',
    (_, lens, options) => {
      const { change: edit, kept, anew } = ground(lens, options);
      kept();
      fc.assert(
        fc.property(changes, ({ topic, change: [, change] }) => {
          edit(topic, change);
          expect(differing(kept(), anew())).toEqual([]);
        }),
        { numRuns: 6, endOnFailure: true },
      );
    },
  );

  it('makes topics again that name a changed one, and keeps the others', () => {
    const { change, kept } = ground('battery-de', {});
    const before = kept();
    change('menu-tree', (text) => text.replace('</title>', ', newly arranged</title>'));
    const after = kept();
    const otherwise = differing(before, after);
    expect(otherwise).toContain('menu-tree.html');
    const naming = [...before]
      .filter(
        ([path, content]) => path.endsWith('.html') && String(content).includes('>Menu tree<'),
      )
      .map(([path]) => path);
    expect(naming.length).toBeGreaterThan(3);
    expect(otherwise).toEqual(expect.arrayContaining(naming));
    expect(otherwise.length).toBeLessThan(after.size / 2);
  });

  it('is apart for other style sheets, languages and readers', () => {
    const publication = compose({
      library: textLibrary(demo.items, demo.assets),
      map: 'help',
      facets: demo.facets,
    });
    const memory = siteMemory();
    const pageIn = (one: Publication, options: SiteOptions) =>
      siteFiles(one, demoAssets, { ...options, memory }).file('menu-tree.html');
    const plain = pageIn(publication, {});
    const german = { ...publication, locale: 'de' };
    expect(pageIn(german, {})).toBe(siteFiles(german, demoAssets).file('menu-tree.html'));
    expect(pageIn(publication, { traced: 'menu-tree' })).toContain('data-at=');
    expect(pageIn(publication, {})).toBe(plain);
  });
});
