import { runInNewContext } from 'node:vm';
import { compose, withChangeBars, type Publication } from '@ukiyo/core/compose';
import { composeTexts, concept, libraryOf, mapText } from '@ukiyo/core/testing';
import { lookLayouts, shippedLooks } from '@ukiyo/core/styles';
import { beforeAll, describe, expect, it } from 'vitest';
import { onePage } from '../book/one-page.ts';
import { checkedHtml } from '../testing/checker.ts';
import { composeDemo, demoAssets, demoLibrary } from '../testing/demo.ts';
import { languagesPage } from './languages.ts';
import { siteFiles, type SiteOptions } from './index.ts';
import { siteAddress } from '../topics/index.ts';

const pagesOf = (publication: Publication, options: SiteOptions = {}): [string, string][] =>
  [...siteFiles(publication, demoAssets, options).files].flatMap(([path, content]) =>
    path.endsWith('.html') ? [[path, String(content)]] : [],
  );
const fileOf = (publication: Publication, path: string, options: SiteOptions = {}): string =>
  String(siteFiles(publication, () => undefined, options).file(path));
const open = ['product', 'platform', 'country'];
const help = composeDemo('help', 'reader-chooses', {}, { open });
const choices = open.map((facet) => ({ facet, label: '', pick: 'one' as const, preset: [] }));

describe('every page of every site of the demo', () => {
  it('passes the Nu HTML checker in each layout and language, and on one page', () => {
    const german = {
      locale: 'de',
      address: (anchor: string | undefined) =>
        '../de/' +
        (anchor === undefined ? 'index.html' : (siteAddress(help, anchor) ?? 'index.html')),
    };
    const harbour = shippedLooks['harbour']!;
    const before = compose({ library: demoLibrary, map: 'station-interface' });
    const pages = [
      ...pagesOf(help, {
        choices,
        siblings: [german],
        address: 'https://help.brinewell.example/tern/',
        start: 'safety',
      }),
      ...pagesOf(
        withChangeBars(composeDemo('station-interface', 'developer'), {
          ...before,
          places: before.places.slice(1),
        }),
      ).map(([path, content]) => [`station-${path}`, content] as const),
      ...lookLayouts.flatMap((layout) =>
        pagesOf(composeDemo('handbook', 'operator'), {
          look: {
            ...harbour,
            layout,
            links: [{ label: 'Shop', href: 'https://shop.brinewell.example/?a=1&b=2' }],
            feedback: 'help@brinewell.example',
          },
        }).map(([path, content]) => [`${layout}-${path}`, content] as const),
      ),
      ...pagesOf(composeDemo('handbook', 'operator', {}, { locale: 'ar' })).map(
        ([path, content]) => [`ar-${path}`, content] as const,
      ),
      ['languages.html', languagesPage('Tern <Help>', ['en', 'ja', 'ar'])] as const,
      ['one-page.html', onePage(composeDemo('handbook', 'operator'), demoAssets).html] as const,
    ];
    expect(pages.length).toBeGreaterThan(300);
    expect(checkedHtml(pages)).toEqual([]);
  }, 120_000);
  it('would be found with an error if there were one', () =>
    expect(
      checkedHtml([
        [
          'x.html',
          '<!doctype html><html lang="en"><head><title>T</title></head><body><p><div></div>' +
            '</p></body></html>',
        ],
      ]),
    ).toHaveLength(1));
});

const topic = (id: string, appids: string): string =>
  `<concept id="${id}"><title>T ${id}</title><prolog>${appids
    .split(' ')
    .map((one) => `<resourceid appid="${one}"/>`)
    .join('')}</prolog><conbody/></concept>`;
const publication = composeTexts([
  mapText(
    '<topicref href="topic:a"><topicmeta><resourceid appid="FROM-MAP"/></topicmeta>' +
      '</topicref><topicref href="topic:b"/>',
  ),
  topic('a', 'ONE TWO'),
  topic('b', 'TWO &lt;/script&gt;'),
]);
/** What the script does in a page of an application, or of the site. */
const run = (
  address: string,
  query = '',
): {
  help: { has(id: string): boolean; address(id: string): string; open(id: string): void };
  went: string[];
} => {
  const went: string[] = [];
  const window: { contextHelp?: ReturnType<typeof run>['help']; open(url: string): void } = {
    open: (url) => void went.push(url),
  };
  const location = {
    href: `${address}${query}`,
    search: query,
    replace: (url: string) => void went.push(url),
  };
  runInNewContext(fileOf(publication, 'context-help.js'), {
    window,
    location,
    URLSearchParams,
    document: { currentScript: { src: 'https://help.example/tern/context-help.js' } },
    encodeURIComponent,
  });
  return { help: window.contextHelp!, went };
};

describe('context-help ids', () => {
  it('open topics, by topic and by map; each one topic, which is said where two have it', () => {
    expect(JSON.parse(fileOf(publication, 'context-help.json'))).toEqual({
      'FROM-MAP': { page: 'a.html', title: 'T a' },
      ONE: { page: 'a.html', title: 'T a' },
      TWO: { page: 'a.html', title: 'T a' },
      '</script>': { page: 'b.html', title: 'T b' },
    });
    expect(publication.problems.map(({ code, message }) => [code, message])).toEqual([
      ['context.twice', 'The context-help id “TWO” opens “T a” already. It does not open “T b”.'],
    ]);
    expect(fileOf(publication, 'context-help.js')).not.toContain('</script>');
  });
  it('are opened from an application by a small script that needs nothing else', () => {
    const { help: opener, went } = run('https://app.example/');
    expect([opener.address('ONE'), opener.has('nothing'), opener.address('con structor')]).toEqual([
      'https://help.example/tern/a.html',
      false,
      'https://help.example/tern/help.html?id=con%20structor',
    ]);
    opener.open('</script>');
    expect(went).toEqual(['https://help.example/tern/b.html']);
  });
  it('are opened by an address too, with what the reader has', () => {
    expect(run('https://help.example/tern/help.html', '?id=TWO&product=tern-d').went).toEqual([
      'https://help.example/tern/a.html?product=tern-d',
    ]);
    expect(run('https://help.example/tern/help.html', '?id=toString').went).toEqual([]);
    expect(fileOf(publication, 'help.html')).toContain('id="no-such-page"');
  });
  it('of the demo lead to pages that are there; a site without any has none of these files', () => {
    const site = siteFiles(help, demoAssets);
    const targets = JSON.parse(String(site.file('context-help.json'))) as Record<
      string,
      { page: string; title: string }
    >;
    expect(Object.keys(targets).toSorted()).toEqual(['ALARMS', 'BATTERY', 'MENU', 'MENU-CLOCK']);
    for (const { page, title } of Object.values(targets))
      expect(String(site.file(page))).toContain(title);
    expect(
      siteFiles(
        composeTexts([mapText('<topicref href="topic:x"/>'), concept('x')]),
        () => undefined,
      ).paths.filter((path) => /help/u.test(path)),
    ).toEqual([]);
  });
});

describe('the glossary', () => {
  const term = (id: string, word: string, meaning: string): string =>
    `<glossentry id="${id}"><glossterm>${word}</glossterm><glossdef>${meaning}</glossdef>` +
    '</glossentry>';
  it('lists all terms with their meanings in the order of their language', () => {
    const publication = composeTexts(
      [
        mapText('<topicref href="topic:z"/><topicref href="topic:ae"/><glossref href="topic:a"/>'),
        term('z', 'zenith', 'Above'),
        term('ae', 'Ästuar', 'Mouth of a <b>river</b>'),
        term('a', 'anchor', 'Iron'),
      ],
      { locale: 'de' },
    );
    const html = fileOf(publication, 'glossary.html');
    expect(
      [...html.matchAll(/<dt><a href="([^"]+)">([^<]+)<\/a>/gu)].map(([, href, word]) => [
        href,
        word,
      ]),
    ).toEqual([
      ['a.html', 'anchor'],
      ['ae.html', 'Ästuar'],
      ['z.html', 'zenith'],
    ]);
    expect(html).toContain('Mouth of a <b>river</b>');
    expect(fileOf(publication, 'z.html')).toContain('href="glossary.html">Glossar</a>');
  });
});

describe('the home page', () => {
  const publication = composeTexts([
    mapText('<topicref href="topic:one"/><topicref href="topic:welcome"/>'),
    concept('one'),
    concept('welcome', '<p>Come in<fn>Wipe your feet</fn>.</p>', 'Welcome'),
  ]);
  it('is the topic that the edition names, with the first level below', () => {
    const html = fileOf(publication, 'index.html', { start: 'welcome' });
    expect(html).toContain('Come in');
    expect(html).toContain('Wipe your feet');
    expect(html).toContain('href="one.html"');
    expect(fileOf(publication, 'index.html')).not.toContain('Come in');
  });
  it('is as usual where that topic is not in the publication, which is said', () => {
    const site = siteFiles(publication, () => undefined, { start: 'gone' });
    expect(site.problems.map(({ code }) => code)).toEqual(['edition.start']);
    expect(String(site.file('index.html'))).toContain('<h1>M</h1>');
  });
});

describe('what is new or changed', () => {
  const map = mapText(
    '<topicref href="topic:old"/><topicref href="topic:other"/><topicref href="topic:fresh"/>',
  );
  const library = (other: string, entries: string) =>
    libraryOf([
      entries,
      concept('old', '<p>Same</p>'),
      concept('other', `<p>${other}</p>`),
      concept('fresh', '<p>Now</p>'),
    ]);
  const before = compose({
    library: library('Then', mapText('<topicref href="topic:old"/><topicref href="topic:other"/>')),
    map: 'm',
  });
  const now = compose({ library: library('Now', map), map: 'm' });
  it('is told at its title, in contents and in a list on the home page', () => {
    const publication = withChangeBars(now, before);
    expect(publication.news).toEqual({ other: 'changed', fresh: 'new' });
    expect(fileOf(publication, 'fresh.html')).toContain('<span class="news">New</span></h1>');
    expect(fileOf(publication, 'other.html')).toContain('<span class="news">Changed</span></h1>');
    expect(fileOf(publication, 'old.html')).not.toContain('class="news"');
    expect(fileOf(publication, 'contents-data.js')).toContain(
      '"h":"fresh.html","t":"fresh","n":"3","m":"new"',
    );
    expect(fileOf(publication, 'index.html')).toContain(
      'New and changed</h2><ul><li><a href="other.html">other</a>' +
        '<span class="news">Changed</span></li><li><a href="fresh',
    );
  });
  it('is not told where nothing is compared', () =>
    expect(fileOf(now, 'index.html')).not.toMatch(/news|New and changed/u));
});

describe('the same site in other languages', () => {
  const texts = [
    mapText('<topicref href="topic:a"/><topicref href="topic:b"/>'),
    concept('a'),
    concept('b'),
  ];
  const publication = composeTexts(texts);
  const arabic = composeTexts([mapText('<topicref href="topic:a"/>'), concept('a')], {
    locale: 'ar',
  });
  const siblings = [
    {
      locale: 'ar',
      address: (anchor: string | undefined) =>
        `../ar/${(anchor === undefined ? undefined : siteAddress(arabic, anchor)) ?? 'index.html'}`,
    },
  ];
  let files: Map<string, string>;
  beforeAll(
    () =>
      void (files = new Map(
        siteFiles(publication, () => undefined, { siblings, address: 'https://x.example/en/' })
          .files as Iterable<[string, string]>,
      )),
  );
  it('leads from each page to the same topic in the other language, or to its home page', () => {
    expect(files.get('a.html')).toContain(
      '<a href="../ar/a.html" hreflang="ar" lang="ar" class="language">العربية</a>',
    );
    expect(files.get('b.html')).toContain('<a href="../ar/index.html" hreflang="ar"');
    expect(files.get('index.html')).toContain('<a href="../ar/index.html" hreflang="ar"');
  });
  it('is told to search engines, once the address is known', () => {
    expect(files.get('a.html')).toContain(
      '<link rel="alternate" hreflang="en" href="https://x.example/en/a.html">' +
        '<link rel="alternate" hreflang="ar" href="https://x.example/ar/a.html">',
    );
    expect(fileOf(publication, 'a.html', { siblings })).not.toContain('rel="alternate"');
  });
  it('leaves one language alone', () =>
    expect(fileOf(publication, 'a.html')).not.toContain('languages'));
});
