import { allPlaces } from '@ukiyo/core/compose';
import { readableText } from '@ukiyo/core/library';
import { composeTexts, concept, mapText } from '@ukiyo/core/testing';
import { lookLayouts, shippedLooks, type SiteLook } from '@ukiyo/core/styles';
import { HtmlValidate } from 'html-validate';
import MiniSearch, { type AsPlainObject } from 'minisearch';
import { describe, expect, it } from 'vitest';
import {
  searchIn,
  searchOptions,
  type AssetFile,
  type AssetSource,
  type SearchDocument,
} from '../shared/index.ts';
import { searchIndex } from './searching.ts';
import { composeDemo, demoAssets } from '../testing/demo.ts';
import { siteFiles } from './index.ts';
import { siteAddress } from '../topics/index.ts';

type Files = Map<string, string | Uint8Array>;
const page = (files: Files, name: string): string => String(files.get(name));
const data = (files: Files, file: string, name: string): unknown => {
  const window: { siteData?: Record<string, unknown> } = {};
  // The file is our own output: running it is what a page does with it.
  // eslint-disable-next-line @typescript-eslint/no-implied-eval, @typescript-eslint/no-unsafe-call
  new Function('window', page(files, file))(window);
  return window.siteData?.[name];
};
const htmlOf = (files: Files): [string, string][] =>
  [...files]
    .filter(([path]) => path.endsWith('.html'))
    .map(([path, content]) => [path, String(content)]);

const open = ['product', 'platform', 'country'];
const publication = composeDemo('help', 'reader-chooses', {}, { open });
const site = siteFiles(publication, demoAssets, {
  choices: open.map((facet) => ({ facet, label: '', pick: 'one', preset: [] })),
});
const files: Files = new Map(site.files);
const pages = htmlOf(files);

describe('the help site of the demo', () => {
  it('carries the licences of its typefaces and of its search', () => {
    const text = page(files, 'notices.txt');
    const typefaces = [...files.keys()].flatMap(
      (path) => /^fonts\/(.+)-latin/u.exec(path)?.[1] ?? [],
    );
    expect(typefaces.length).toBeGreaterThan(3);
    for (const name of [...typefaces, 'minisearch'])
      expect(text).toMatch(new RegExp(`\\b${name} \\d`, 'u'));
    expect(text).toContain('SIL OPEN FONT LICENSE');
  });
  it('has a page for every place, and no problems', () => {
    expect(publication.problems).toEqual([]);
    expect(site.problems).toEqual([]);
    expect(pages.length).toBe(
      allPlaces(publication.places).filter(({ isChunked }) => !isChunked).length + 5,
    );
  });
  /** html-validate (npm), its recommended and document presets. */
  it('is valid HTML on every page', async () => {
    const validator = new HtmlValidate({
      extends: ['html-validate:standard', 'html-validate:document', 'html-validate:a11y'],
      rules: { 'long-title': 'off', 'require-sri': 'off' },
    });
    const station = htmlOf(
      new Map(siteFiles(composeDemo('station-interface', 'developer'), demoAssets).files),
    ).map(([path, content]): [string, string] => [`station/${path}`, content]);
    expect(station.length).toBeGreaterThan(10);
    for (const [path, content] of [...pages, ...station]) {
      const { results } = await validator.validateString(content);
      expect(
        results.flatMap(({ messages }) =>
          messages.map(({ ruleId, message, line }) => `${path}:${line} ${ruleId} ${message}`),
        ),
      ).toEqual([]);
    }
  });
  it('has no dead link, no missing file and nothing from elsewhere', () => {
    const ids = new Map(
      pages.map(([path, content]) => [
        path,
        new Set([...content.matchAll(/\sid="([^"]+)"/gu)].map(([, id]) => id)),
      ]),
    );
    for (const [path, content] of pages) {
      for (const [, reference] of content.matchAll(/\s(?:href|src)="([^"]+)"/gu)) {
        const [file = '', fragment] = reference!.split('#');
        expect(reference).not.toMatch(/^(https?:)?\/\//u);
        if (file !== '') expect(files.has(file), `${path} → ${reference}`).toBe(true);
        if (fragment !== undefined)
          expect(ids.get(file === '' ? path : file)?.has(fragment), `${path} → ${reference}`).toBe(
            true,
          );
      }
    }
    for (const [, reference] of page(files, 'style.css').matchAll(/url\('([^']+)'\)/gu))
      expect(files.has(reference!)).toBe(true);
  });
  it('links index entries to places that are there', () => {
    const words = data(files, 'words-data.js', 'words') as { t: string; h: [string, string][] }[];
    expect(words.length).toBeGreaterThan(60);
    for (const { t, h } of words) {
      for (const [href] of h) {
        const [file = '', fragment] = href.split('#');
        expect(files.has(file), t).toBe(true);
        if (fragment !== undefined) expect(page(files, file)).toContain(`id="${fragment}"`);
      }
    }
  });
});

describe('the help site of the demo', () => {
  it('finds every topic by its title, and one by a rare word in another form', () => {
    const { index, locale } = data(files, 'search-index.js', 'search') as {
      index: Parameters<typeof MiniSearch.loadJS>[0];
      locale: string;
    };
    const search = MiniSearch.loadJS<SearchDocument>(index, searchOptions(locale));
    for (const place of allPlaces(publication.places).filter(({ content }) => content)) {
      const found = searchIn(search, place.label, locale)
        .slice(0, 3)
        .map((hit) => String(hit.id));
      expect(found, place.label).toContain(siteAddress(publication, place.anchor));
    }
    expect(String(search.search('calibrating')[0]?.['title'])).toContain('calibration');
  });
  it('indexes exactly as the search engine itself would', () => {
    const documents = allPlaces(publication.places)
      .filter(({ content }) => content)
      .map(({ anchor, label, shortDescription, content }) => ({
        id: anchor,
        title: label,
        lead: shortDescription,
        text: readableText(content!),
      }));
    const own = new MiniSearch(searchOptions('en'));
    own.addAll(documents);
    // The order of terms means nothing, and averages are added up in another order.
    const comparable = ({ index, averageFieldLength, ...rest }: AsPlainObject): unknown => ({
      ...rest,
      average: averageFieldLength.map((length) => length.toFixed(6)),
      index: new Map(index),
    });
    expect(comparable(JSON.parse(searchIndex(documents, 'en')) as AsPlainObject)).toEqual(
      comparable(JSON.parse(JSON.stringify(own)) as AsPlainObject),
    );
  });
  it('puts what the lens drops into no file', () => {
    const textOf = (all: Iterable<string | Uint8Array>): string =>
      [...all].map((content) => (typeof content === 'string' ? content : '')).join('\n');
    for (const words of ['pressure sensor', 'fitted with an acoustic sensor', 'Set the pile clamp'])
      expect(textOf(files.values())).toContain(words);
    const everything = textOf(
      new Map(siteFiles(composeDemo('help', 'installer-tern-q'), demoAssets).files).values(),
    );
    expect(everything).toContain('pressure sensor');
    expect(everything).not.toContain('fitted with an acoustic sensor');
    expect(everything).not.toContain('Set the pile clamp');
  });
});

describe('what the edition marks', () => {
  it('has its colours and its line, on blocks, items, rows and words', () => {
    const lens = {
      name: 'x',
      rules: [
        {
          facet: 'product',
          value: 'd',
          action: 'mark' as const,
          look: { background: '#f6e7c3', bar: true },
        },
      ],
    };
    const body =
      '<p product="d">P</p><ul><li product="d">I</li></ul><p>a <ph product="d">W</ph></p>' +
      '<simpletable><strow product="d"><stentry>R</stentry></strow></simpletable><steps>' +
      '<step product="d"><cmd>S</cmd></step></steps>';
    const html = page(
      new Map(
        siteFiles(
          composeTexts([mapText('<topicref href="topic:a"/>'), concept('a', body)], { lens }),
          () => undefined,
        ).files,
      ),
      'a.html',
    );
    const marked = [
      ...html.matchAll(
        /<(\w+) class="marked barred" style="background:#f6e7c3">(?:<p(?: class="cmd")?>)?(\w)/gu,
      ),
    ].map(([, name, word]) => [name, word]);
    expect(marked).toEqual([
      ['div', 'P'],
      ['div', 'I'],
      ['span', 'W'],
      ['div', 'R'],
      ['div', 'S'],
    ]);
  });
});

describe('links without words of their own', () => {
  it('name their target in the form they ask for; there are no pages', () => {
    const form = (name: string): string =>
      `<p>${name}: <xref href="topic:b/f" outputclass="words-${name}"/>.</p>`;
    const publication = composeTexts([
      mapText('<topicref href="topic:a"/><topicref href="topic:b"/>'),
      concept('a', ['usual', 'title', 'number', 'page'].map(form).join('')),
      concept('b', '<fig id="f"><title>Cabinet</title><p>x</p></fig>'),
    ]);
    const html = page(new Map(siteFiles(publication, () => undefined).files), 'a.html');
    const said = [...html.matchAll(/<p>(\w+): <a href="b.html#[^"]+">([^<]*)<\/a>/gu)].map(
      ([, name, words]) => [name, words],
    );
    expect(said).toEqual([
      ['usual', 'Figure 2-1'],
      ['title', 'Cabinet'],
      ['number', 'Figure 2-1, Cabinet'],
      ['page', 'Figure 2-1'],
    ]);
  });
});

describe('video, sound and what the reader opens', () => {
  const files = (body: string): Files => {
    const assets = [
      { id: 'v', name: 'v.webm', mediaType: 'video/webm' },
      { id: 'i', name: 'i.png', mediaType: 'image/png' },
    ];
    const publication = composeTexts([mapText('<topicref href="topic:a"/>'), concept('a', body)], {
      assets,
    });
    expect(publication.problems).toEqual([]);
    const bytes = new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0]);
    return new Map(
      siteFiles(publication, (id) => ({ ...assets.find((one) => one.id === id)!, bytes })).files,
    );
  };
  it('play on demand with poster and words; external media by address; no active content', () => {
    const own = files(
      '<object data="asset:v" type="video/webm"><desc>Turn the key</desc>' +
        '<param name="poster" value="asset:i" valuetype="ref"/></object>',
    );
    expect(page(own, 'a.html')).toContain(
      '<video src="assets/v.webm" controls preload="metadata" poster="assets/i.png" ' +
        'aria-label="Turn the key">',
    );
    expect([...own.keys()]).toEqual(expect.arrayContaining(['assets/v.webm', 'assets/i.png']));
    expect(page(own, 'a.html')).toContain('<p class="media-words">Turn the key</p>');
    expect(
      page(
        files('<object data="https://tides.example/fog.mp3"><desc>Fog horn</desc></object>'),
        'a.html',
      ),
    ).toContain('<audio src="https://tides.example/fog.mp3" controls');
  });
  it('are closed parts with their heading, and words that need the script to close', () => {
    const html = page(
      files(
        '<section outputclass="expandable" id="s"><title>More</title><p>deep</p><p>a ' +
          '<ph outputclass="expandable">b</ph></p></section><section outputclass="expandable">' +
          '<p>no heading</p></section>',
      ),
      'a.html',
    );
    expect(html).toMatch(
      /<details id="[^"]+" class="section"><summary><h2>More<\/h2><\/summary><p>deep<\/p>/u,
    );
    expect(html).toContain('a <span class="expandable">b</span>');
    expect(html.match(/<details/gu)).toHaveLength(1);
  });
  it('terms say what they mean where one points at them', () => {
    const publication = composeTexts([
      mapText('<topicref href="topic:a"/><glossref href="topic:g" keys="g" print="yes"/>'),
      concept('a', '<p><term keyref="g">datum</term></p>'),
      '<glossentry id="g"><glossterm>datum</glossterm><glossdef>The zero of ' +
        'heights.</glossdef></glossentry>',
    ]);
    expect(page(new Map(siteFiles(publication, () => undefined).files), 'a.html')).toContain(
      'title="The zero of heights."',
    );
  });
});

describe('areas of an image', () => {
  it('say their tooltip, and open beside what is read where they are told to', () => {
    const image = { id: 'i', name: 'i.png', mediaType: 'image/png', width: 10, height: 10 };
    const area = (link: string): string =>
      `<area><shape>rect</shape><coords>0,0,5,5</coords>${link}</area>`;
    const dialLink =
      '<xref href="https://tides.example/" format="html" scope="external" ' +
      'outputclass="new-window">Dial<desc>Turns</desc></xref>';
    const body =
      '<imagemap id="k"><image href="asset:i"><alt>Clock</alt>' +
      `</image>${area(dialLink)}${area('<xref href="topic:b">Hand</xref>')}</imagemap>`;
    const publication = composeTexts(
      [
        mapText('<topicref href="topic:a"/><topicref href="topic:b"/>'),
        concept('a', body),
        concept('b'),
      ],
      { assets: [image] },
    );
    const html = page(
      new Map(siteFiles(publication, () => ({ ...image, bytes: new Uint8Array([1]) })).files),
      'a.html',
    );
    const [dial, hand] = [...html.matchAll(/<area [^>]*>/gu)].map(([tag]) => tag) as [
      string,
      string,
    ];
    for (const part of [
      'href="https://tides.example/"',
      'alt="Dial"',
      'title="Turns"',
      'target="_blank"',
      'rel="noopener"',
    ])
      expect(dial).toContain(part);
    expect(hand).toContain('title="Hand"');
    expect(hand).not.toContain('target=');
  });

  it('belong to their own image where a page has several', () => {
    const bytes = new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
    const image = { id: 'i', name: 'i.png', mediaType: 'image/png', width: 10, height: 10 };
    const dial =
      '<imagemap><image href="asset:i"/><area><shape>rect</shape><coords>0,0,5,5</coords>' +
      '<xref href="topic:a"/></area></imagemap>';
    const publication = composeTexts(
      [mapText('<topicref href="topic:a"/>'), concept('a', dial + dial)],
      { assets: [image] },
    );
    const { files } = siteFiles(publication, () => ({ ...image, bytes }));
    const html = page(new Map(files), 'a.html');
    const named = (pattern: RegExp): (string | undefined)[] =>
      [...html.matchAll(pattern)].map(([, name]) => name);
    const used = named(/usemap="#([^"]+)"/gu);
    expect(used).toEqual(named(/<map name="([^"]+)"/gu));
    expect(new Set(used).size).toBe(2);
  });
});

describe('topics on one page', () => {
  const map = mapText(
    '<topicref href="topic:care" chunk="to-content"><topicref href="topic:rinse"/>' +
      '<topicref href="topic:dry" outputclass="without-heading"/>' +
      '<topicref href="topic:store" chunk="to-content"/></topicref>',
  );
  const topics = [
    concept(
      'care',
      '<section><title>Why</title><p>Salt<fn>Of the sea</fn>. See ' +
        '<xref href="topic:dry"/>.</p></section>',
      'Care',
    ),
    concept(
      'rinse',
      '<section><title>How</title><p>Fresh water<fn>Not from the tap</fn></p></section>',
      'Rinse',
    ),
    concept('dry', '<p>Chamois</p>', 'Dry'),
    concept('store', '<p>In the shed</p>', 'Store'),
  ];
  const files: Files = new Map(siteFiles(composeTexts([map, ...topics]), () => undefined).files);
  const care = page(files, 'care.html');

  it('follow each other on one page, with headings of their depth', () => {
    expect(htmlOf(files).map(([path]) => path)).toEqual([
      'index.html',
      'contents.html',
      '404.html',
      'care.html',
      'store.html',
    ]);
    expect(
      [...care.matchAll(/<h(\d)[^>]*>(?:<span class="number">([\d.]+)<\/span> )?([^<]+)/gu)].map(
        ([, level, number = '', text]) => `${level} ${number} ${text}`,
      ),
    ).toEqual(['1 1 Care', '2  Why', '2 1.1 Rinse', '3  How', '2  In this section']);
    expect(care.indexOf('Chamois')).toBeGreaterThan(care.indexOf('Fresh water'));
    expect(care).toContain('href="store.html"');
  });
  it('are reached by links, contents and search; footnotes are numbered through', async () => {
    expect(care).toContain('href="care.html#dry"');
    expect(care).toMatch(/id="dry"/u);
    expect([...care.matchAll(/id="(fn-\d)"/gu)].map(([, id]) => id)).toEqual(['fn-1', 'fn-2']);
    expect(data(files, 'contents-data.js', 'contents')).toMatchObject([
      { h: 'care.html', c: [{ h: 'care.html#rinse' }, { h: 'store.html' }] },
    ]);
    const { index } = data(files, 'search-index.js', 'search') as { index: AsPlainObject };
    const found = MiniSearch.loadJS(index, searchOptions('en')).search('chamois');
    expect(found.map((hit) => [String(hit.id), String(hit['title'])])).toEqual([
      ['care.html#dry', 'Care'],
    ]);
    const { results } = await new HtmlValidate({
      extends: ['html-validate:standard', 'html-validate:document', 'html-validate:a11y'],
      rules: { 'require-sri': 'off' },
    }).validateString(care);
    expect(results.flatMap(({ messages }) => messages.map(({ message }) => message))).toEqual([]);
  });
});

describe('a link to another publication', () => {
  const handbook = '<map id="h"><title>Handbook</title><topicref href="topic:care"/></map>';
  const map = mapText(
    '<topicref href="topic:a"/>' +
      '<mapref href="map:h" format="ditamap" scope="peer" keyscope="book"/>',
  );
  const texts = [
    map,
    handbook,
    concept('a', '<p><xref href="topic:care"/> <xref href="topic:care">how</xref></p>'),
    concept('care', '', 'Care &amp; use'),
  ];
  const build = (options: Parameters<typeof composeTexts>[1] = {}): string =>
    page(new Map(siteFiles(composeTexts(texts, options), () => undefined).files), 'a.html');

  it('leads to the page of that site', () => {
    const html = build({
      peerEditions: () => [
        { address: (publication, anchor) => `../book/${siteAddress(publication, anchor) ?? ''}` },
      ],
    });
    expect(html).toContain(
      '<a href="../book/care.html" class="peer" title="Handbook">Care &amp; use</a> ' +
        '<a href="../book/care.html" class="peer" title="Handbook">how</a>',
    );
  });
  it('names it in words where it has no address', () => {
    expect(build()).toContain(
      'Care &amp; use (<cite>Handbook</cite>) how (“1 Care &amp; use”, <cite>Handbook</cite>)',
    );
  });
});

describe('hostile content', () => {
  const build = (title: string, body: string): Files =>
    new Map(
      siteFiles(
        composeTexts([
          `<map id="m"><title>${title}</title><topicref href="topic:a"/></map>`,
          concept('a', body, title),
        ]),
        () => undefined,
      ).files,
    );

  it('in titles and text is only text, also in the data of scripts', () => {
    const files = build(
      '&lt;/script&gt;&lt;img src=x onerror=alert(1)&gt; {{ x }} &quot;',
      '<p>&lt;script&gt;alert(1)&lt;/script&gt;<indexterm>&lt;/script&gt;</indexterm></p>',
    );
    for (const [path, content] of files) {
      if (!path.endsWith('.html') && !path.endsWith('-data.js') && path !== 'search-index.js')
        continue;
      expect(String(content), path).not.toMatch(/<\/script><img|<img src=x|<script>alert/u);
    }
    expect(page(files, 'a.html')).toContain(
      '<h1><span class="number">1</span> &lt;/script&gt;&lt;img src=x',
    );
    expect(data(files, 'contents-data.js', 'contents')).toMatchObject([
      { t: '</script><img src=x onerror=alert(1)> {{ x }} "' },
    ]);
  });
  it('cannot make a link act', () => {
    const files = build(
      'A',
      '<p><xref href="javascript:alert(1)">x</xref>' +
        '<xref href="https://example.org/?a=1&amp;b=&quot;2">y</xref></p>',
    );
    expect(page(files, 'a.html')).not.toContain('javascript:');
    // A quotation mark may not stand in an address (RFC 3986, 2).
    expect(page(files, 'a.html')).toContain('href="https://example.org/?a=1&amp;b=%222"');
  });
  it('gives topics with strange or equal names a file of their own', () => {
    const publication = composeTexts([
      mapText(
        '<topicref href="topic:Ä.b"/><topicref href="topic:Ä.b"/><topicref href="topic:index"/>',
      ),
      concept('Ä.b'),
      concept('index'),
    ]);
    const files: Files = new Map(siteFiles(publication, () => undefined).files);
    expect(htmlOf(files).map(([path]) => path)).toEqual([
      'index.html',
      'contents.html',
      '404.html',
      'xc4-b.html',
      'xc4-b-2.html',
      'index-2.html',
    ]);
  });
});

const harbour = shippedLooks['harbour']!;
const plain = composeTexts([
  mapText('<topicref href="topic:one"><topicref href="topic:two"/></topicref>'),
  concept('one', '<p>First.</p>'),
  concept('two', '<p>Second.</p>'),
]);
const drawing: AssetFile = {
  id: 'sign',
  name: 'sign.svg',
  mediaType: 'image/svg+xml',
  bytes: new TextEncoder().encode('<svg xmlns="http://www.w3.org/2000/svg"/>'),
};
const script: AssetFile = {
  id: 'script',
  name: 'logo.png',
  mediaType: 'image/png',
  bytes: new TextEncoder().encode('<script>alert(1)</script>'),
};
const source: AssetSource = (id) => [drawing, script].find((one) => one.id === id);
const made = (look: Partial<SiteLook>, address = '') => {
  const site = siteFiles(plain, source, { look: { ...harbour, ...look }, address });
  return { files: new Map(site.files) as Files, codes: site.problems.map(({ code }) => code) };
};

describe('what stands around the pages of a site', () => {
  it.each(lookLayouts)('is valid HTML in every layout: %s', async (layout) => {
    const links = [{ label: 'Shop', href: 'https://shop.brinewell.example/?a=1&b=2' }];
    const { files } = made({
      layout,
      links,
      logo: { asset: 'sign', height: 28 },
      favicon: 'sign',
      caption: 'Coast <b>',
      footer: 'Made by the sea',
      feedback: 'help@brinewell.example',
      css: 'a {}',
    });
    const validator = new HtmlValidate({
      extends: ['html-validate:standard', 'html-validate:document', 'html-validate:a11y'],
      rules: { 'long-title': 'off', 'require-sri': 'off' },
    });
    for (const [path, content] of htmlOf(files)) {
      const { results } = await validator.validateString(content);
      expect(
        results.flatMap(({ messages }) =>
          messages.map(({ ruleId, message }) => `${path}: ${ruleId} ${message}`),
        ),
      ).toEqual([]);
    }
    expect(page(files, 'one.html')).toContain(
      '<img class="logo" src="assets/sign.svg" alt="" height="28">',
    );
    expect(page(files, 'one.html')).toContain('Coast &lt;b&gt;');
    expect(files.has('own.css')).toBe(true);
    expect(page(files, 'one.html').includes('id="chapters"')).toBe(
      layout === 'chapters along the top',
    );
  });
  it('refuses logos that are scripts and rules that reach outside, and reports them', () => {
    const { files, codes } = made({
      logo: { asset: 'script', height: 28 },
      favicon: 'gone',
      css: '</style><script>x</script> @import url(https://evil.example/x.css);',
    });
    expect(codes.toSorted()).toEqual(['image.unreadable', 'look.css', 'look.image']);
    expect(files.has('own.css')).toBe(false);
    const everything = [...files.values()]
      .map((content) => (typeof content === 'string' ? content : ''))
      .join('');
    expect(everything).not.toMatch(/evil\.example|alert\(1\)|class="logo"|rel="icon"/u);
  });
  it('puts rules that stay within the site into a file, where they cannot end it', () => {
    const { files } = made({ css: 'a::after { content: "</style><script>alert(1)</script>" }' });
    for (const [, content] of htmlOf(files)) expect(content).not.toContain('alert(1)');
    expect(page(files, 'own.css')).toContain('</style>');
  });
  it('says where each page is found, once somebody has said where the site is', () => {
    const { files } = made({}, 'https://help.brinewell.example/tern/');
    expect(page(files, 'two.html')).toContain(
      '<link rel="canonical" href="https://help.brinewell.example/tern/two.html">',
    );
    const addresses = [...page(files, 'sitemap.xml').matchAll(/<loc>([^<]*)</gu)].map(
      ([, address]) => address,
    );
    expect(addresses).toEqual(
      ['', 'one.html', 'two.html'].map((path) => `https://help.brinewell.example/tern/${path}`),
    );
    const nowhere = made({}, '../help/').files;
    expect(nowhere.has('sitemap.xml')).toBe(false);
    expect(page(nowhere, 'two.html')).not.toContain('canonical');
  });
  it('makes one file when it is asked for, the same as among all', () => {
    const site = siteFiles(plain, source, { look: harbour });
    const all = new Map(siteFiles(plain, source, { look: harbour }).files);
    for (const path of site.paths.toReversed()) expect(site.file(path)).toEqual(all.get(path));
    expect(site.file('no-such-page.html')).toBeUndefined();
  });
});
