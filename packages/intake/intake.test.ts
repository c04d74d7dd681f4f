import { describe, expect, it } from 'vitest';
import { compose } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { ditaFiles, editionPackage } from '@ukiyo/press';
import { decodeXml, readFolder, readPackage } from './index.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const codes = (problems: readonly { code: string }[]): string[] => problems.map(({ code }) => code);

describe('packages', () => {
  it('go out and in again to the same publication, with ids, folders and names kept', async () => {
    const first = readPackage(await readFolder('demo/library'));
    expect(first.problems).toEqual([]);
    const files = ditaFiles(first.items, first.assets, first.lenses, first.facets);
    const second = readPackage(files);
    expect(second.problems).toEqual([]);
    expect(second.items).toEqual(first.items);
    expect(second.assets.map(({ id, folder, name }) => [id, folder, name])).toEqual(
      first.assets.map(({ id, folder, name }) => [id, folder, name]),
    );
    expect(second.lenses).toEqual(first.lenses);
    expect(first.facets).toHaveLength(5);
    expect(second.facets).toEqual(first.facets);
    const publish = ({ items, assets, lenses }: typeof first) =>
      compose({
        library: textLibrary(items, assets),
        map: 'installation-manual',
        lens: lenses.find(({ id }) => id === 'installer-tern-q')!,
      });
    expect(publish(second)).toEqual(publish(first));
  });
  it.each([
    ['help', 'installer-tern-q', {}],
    ['handbook', 'operator', {}],
    ['deep-water', 'installer-tern-d', {}],
    ['installation-manual', 'quay-velmark', { product: 'Tern Q', 'not-there-yet': 'X' }],
  ] as const)(
    'of one edition hold all it needs: %s composes the same in an empty library',
    async (map, lensId, variables) => {
      const all = readPackage(await readFolder('demo/library'));
      const library = textLibrary(all.items, all.assets, { lenses: all.lenses });
      const lens = all.lenses.find(({ id }) => id === lensId)!;
      const files = editionPackage({
        map,
        library,
        items: all.items,
        assets: all.assets,
        lens,
        facets: all.facets,
        variables,
      });
      const again = readPackage(files);
      expect(again.problems).toEqual([]);
      // The handbook leads into the manual, which says its titles and numbers.
      if (map !== 'handbook') expect(again.items.length).toBeLessThan(all.items.length);
      const then = compose({ library, map, lens, facets: all.facets, variables });
      const now = compose({
        library: textLibrary(again.items, again.assets, { lenses: again.lenses }),
        map,
        lens: again.lenses.find(({ id }) => id === lensId)!,
        facets: again.facets,
      });
      expect(Object.keys(then.targets).length).toBeGreaterThan(5);
      // Where the words of variables come from is another place of the map; they are the same
      // words.
      const plain = (publication: typeof then): unknown =>
        JSON.parse(
          JSON.stringify(publication, (key, value: unknown) =>
            ['origin', 'from', 'why', 'where'].includes(key) ? undefined : value,
          ),
        );
      expect(plain(now)).toEqual(plain(then));
      if (Object.keys(variables).length === 0) expect(now).toEqual(then);
    },
  );
});

describe('packages', () => {
  it('name the topic in which an element stands, as they did when they came in', () => {
    const nested = (id: string, inner = ''): string =>
      `<topic id="${id}"><title>${id}</title><body><p id="u">${id}</p></body>${inner}</topic>`;
    const references = ['c.dita', 'c.dita#c/u', 'c.dita#n', 'c.dita#n/u', 'all.dita#two/u', '#a/u'];
    const links = references.map((href) => `<p><xref href="${href}"/></p>`).join('');
    const files = new Map(
      Object.entries({
        'a.dita': `<topic id="a"><title>A</title><body>${links}<p id="u">a</p></body></topic>`,
        'c.dita': nested('c', nested('n')),
        'all.dita': `<dita>${nested('one')}${nested('two')}</dita>`,
      }).map(([path, text]) => [path, bytes(text)] as const),
    );
    const { items, problems } = readPackage(files);
    expect(problems).toEqual([]);
    const out = new TextDecoder().decode(ditaFiles(items, [], []).get('a.dita'));
    expect([...out.matchAll(/href="([^"]*)"/gu)].map(([, href]) => href)).toEqual(references);
  });
});

describe('packages', () => {
  it('say which images stand in for which, and through which lens a branch goes', () => {
    const mark = '<topicmeta><data name="alternate-of" href="pictures/plug.svg"/></topicmeta>';
    const files = new Map([
      [
        'm.ditamap',
        bytes(
          '<map id="m"><title>M</title><topicref href="t.dita">' +
            '<ditavalref href="lenses/sun.ditaval" format="ditaval"/></topicref></map>',
        ),
      ],
      [
        't.dita',
        bytes(
          '<concept id="t"><title>T</title><conbody><image href="pictures/plug.svg"/>' +
            '</conbody></concept>',
        ),
      ],
      [
        'stand-ins.ditamap',
        bytes(
          '<map>' +
            '<topicref href="pictures/plug-v.svg" format="svg" processing-role="resource-only" ' +
            `props="country(velmark)">${mark}</topicref>` +
            '</map>',
        ),
      ],
      ['pictures/plug.svg', bytes('<svg xmlns="http://www.w3.org/2000/svg"/>')],
      ['pictures/plug-v.svg', bytes('<svg xmlns="http://www.w3.org/2000/svg"/>')],
      [
        'lenses/sun.ditaval',
        bytes('<val><prop att="platform" val="mains" action="exclude"/></val>'),
      ],
    ]);
    const first = readPackage(files);
    expect(first.items.map(({ id }) => id)).toEqual(['m', 't']);
    expect(first.items[0]!.text).toContain('<ditavalref format="ditaval" href="lens:sun"/>');
    expect(first.assets.find(({ id }) => id === 'plug-v')).toMatchObject({
      alternateOf: 'plug',
      conditions: { props: 'country(velmark)' },
    });
    const out = ditaFiles(first.items, first.assets, first.lenses);
    expect(new TextDecoder().decode(out.get('m.ditamap'))).toContain('href="lenses/sun.ditaval"');
    const second = readPackage(out);
    expect([second.items, second.assets, second.lenses, second.problems]).toEqual([
      first.items,
      first.assets,
      first.lenses,
      [],
    ]);
  });
});

describe('packages', () => {
  it('turn paths into addresses and back', () => {
    const files = new Map([
      [
        'maps/m.ditamap',
        bytes(
          '<map id="m"><title>M</title><topicref href="../t/a%20b.dita#a/p"/>' +
            '<topicref href="https://example.org/"/></map>',
        ),
      ],
      [
        't/a b.dita',
        bytes(
          '<concept id="a"><title>A</title><conbody><p id="p"/><image href="pic.svg"/>' +
            '<xref href="missing.dita"/></conbody></concept>',
        ),
      ],
      ['t/pic.svg', bytes('<svg xmlns="http://www.w3.org/2000/svg"/>')],
    ]);
    const content = readPackage(files, new Set(['a']));
    expect(content.items.find(({ kind }) => kind === 'map')?.text).toContain('href="topic:a-2/p"');
    expect(content.items.find(({ kind }) => kind === 'topic')?.text).toContain('href="asset:pic"');
    const out = ditaFiles(content.items, content.assets, []);
    expect(new TextDecoder().decode(out.get('maps/m.ditamap'))).toContain(
      'href="../t/a%20b.dita#a/p"',
    );
    expect(new TextDecoder().decode(out.get('t/a b.dita'))).toMatch(
      /^<\?xml[^>]+\?>\n<!DOCTYPE concept PUBLIC "[^"]*DITA Concept\/\/EN" "concept\.dtd">/u,
    );
  });
  it('keep what cannot be read as it is, refuse paths that lead out, and say so', () => {
    const broken = '<concept id="b"><title>';
    const content = readPackage(
      new Map([
        ['b.dita', bytes(broken)],
        ['../evil.dita', bytes('<topic id="e"/>')],
        ['/etc/x.dita', bytes('<topic id="e"/>')],
        ['notes.docx', bytes('x')],
      ]),
    );
    expect(content.items).toEqual([
      { id: 'b', kind: 'topic', folder: '', name: 'b.dita', text: broken },
    ]);
    expect(codes(content.problems)).toEqual([
      'package.path',
      'package.path',
      'xml.not-well-formed',
      'package.unknown-file',
    ]);
  });
});

describe('encodings', () => {
  it.each([
    ['utf-8', bytes('<a>é</a>')],
    ['utf-8 with a mark', new Uint8Array([0xef, 0xbb, 0xbf, ...bytes('<a>é</a>')])],
    ['utf-16', new Uint8Array(Buffer.from('\uFEFF<a>é</a>', 'utf16le'))],
    [
      'latin-1',
      new Uint8Array(Buffer.from('<?xml version="1.0" encoding="ISO-8859-1"?><a>é</a>', 'latin1')),
    ],
  ])('%s is read', (_name, source) => {
    expect(decodeXml(source)).toMatchObject({
      problems: [],
      text: expect.stringContaining('<a>é</a>'),
    });
  });
  it('what is not what it says is reported and kept', () => {
    expect(codes(decodeXml(new Uint8Array([0x3c, 0x61, 0xff, 0x3e])).problems)).toEqual([
      'xml.encoding',
    ]);
    expect(
      codes(decodeXml(bytes('<?xml version="1.0" encoding="klingon"?><a/>')).problems),
    ).toEqual(['xml.encoding']);
  });
});
