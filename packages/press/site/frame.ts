import type { Metadata } from '@ukiyo/core/compose';
import { ownRules } from '@ukiyo/core/styles';
import type { Words } from '@ukiyo/core/words';
import {
  raw,
  seenFrom,
  serializeHtml,
  serializePage,
  tag,
  text,
  type Html,
} from '../html/index.ts';
import { directionOf } from '../shared/index.ts';
import { addressOf, isWebAddress } from './addresses.ts';
import { upFrom, type HtmlContext } from '../topics/index.ts';
import { chapterBar, languageChoice, readerChoices, sidePanel, siteBar } from './bars.ts';
import type { PageParts } from './page.ts';
import { proofScript } from './runtime.ts';

/**
 * Makes whole pages of one site: head, bar, contents, the given content, and the way on. What every
 * page has is made once.
 * @param hasChoices whether readers can set something
 */
export function pageFrame(site: HtmlContext, hasChoices: boolean): (parts: PageParts) => string {
  const { publication, words, look } = site;
  const { locale } = publication;
  const fixed = fixedParts(site, hasChoices);
  const barWith = siteBar(site);
  const languages = languageChoice(site);
  const messages = messagesOf(words);
  const isTiled = look.layout === 'tiles first';
  return (parts) => {
    const { main, path, anchor, for: whose = [] } = parts;
    const up = upFrom(path ?? '');
    const { files, bar, side, before, after, above } = fixed(up);
    const choice = languages.choice(anchor);
    const frame = tag(
      'div',
      { class: isTiled ? 'frame folded' : 'frame' },
      side,
      tag('main', { id: 'content' }, before, main, after),
    );
    const body = tag(
      'body',
      {
        class: isTiled ? 'tiles' : undefined,
        ...messages,
        'data-for': whose.join(' ') || undefined,
        'data-root': up || undefined,
      },
      tag('a', { class: 'skip', href: '#content' }, text(words.skip)),
      choice.length === 0 ? bar : barWith(choice),
      above,
      frame,
      site.isProof === true ? tag('script', { src: proofScript, defer: true }) : [],
    );
    const elsewhere = isWebAddress(site.address) ? languages.links(anchor) : [];
    const head = headOf(site, parts, elsewhere, files);
    const page = tag('html', { lang: locale, dir: directionOf(locale) }, head, body);
    return serializePage(seenFrom(page, up));
  };
}

/**
 * What is the same on every page of a folder, serialised once.
 * @returns by the way up to the site's folder, as `../`
 */
function fixedParts(site: HtmlContext, hasChoices: boolean) {
  const { words, look } = site;
  const parts = {
    files: filesOf(site, hasChoices),
    bar: siteBar(site)([]),
    side: [sidePanel(site), edge(words)],
    before: hasChoices ? notForYou(words) : [],
    after: [feedbackLink(site), rightsOf(site)],
    above: [
      hasChoices ? readerChoices(words) : [],
      look.layout === 'chapters along the top' ? chapterBar(site) : [],
    ],
  };
  const made = new Map<string, Readonly<Record<keyof typeof parts, Html>>>();
  return (up: string): Readonly<Record<keyof typeof parts, Html>> => {
    const known = made.get(up);
    if (known) return known;
    const written = (part: Html): Html => raw(serializeHtml(seenFrom(part, up)));
    const { files, bar, side, before, after, above } = parts;
    const found = {
      files: written(files),
      bar: written(bar),
      side: written(side),
      before: written(before),
      after: written(after),
      above: written(above),
    };
    made.set(up, found);
    return found;
  };
}

/** The styles and scripts of every page. */
function filesOf({ look, assets }: HtmlContext, hasChoices: boolean): Html {
  const sheet = (href: string, media?: string): Html =>
    tag('link', { rel: 'stylesheet', href, media });
  const icon = look.favicon === null ? undefined : assets.find(look.favicon);
  return [
    sheet('style.css'),
    sheet('look.css'),
    sheet('tablet.css', `(max-width: ${look.tablet}px)`),
    sheet('phone.css', `(max-width: ${look.phone}px)`),
    sheet('sheet.css'),
    look.css !== '' && ownRules(look) !== undefined ? sheet('own.css') : [],
    icon ? tag('link', { rel: 'icon', href: icon.href, type: icon.mediaType }) : [],
    // Before anything is drawn, so that no content for other readers flashes up.
    hasChoices
      ? [
          tag('script', { src: 'readers-data.js' }),
          tag('script', { src: 'readers.js' }),
          tag('script', { src: 'counted-data.js', defer: true }),
        ]
      : [],
    tag('script', { src: 'contents-data.js', defer: true }),
    tag('script', { src: 'site.js', defer: true }),
  ];
}

/** Names of metadata: in HTML (Living Standard, 4.2.5.1) and Dublin Core (DCMI Metadata Terms). */
const metaNames = {
  author: 'author',
  keyword: 'keywords',
  publisher: 'dcterms.publisher',
  rights: 'dcterms.rights',
  created: 'dcterms.created',
  modified: 'dcterms.modified',
  audience: 'dcterms.audience',
  subject: 'dcterms.subject',
} as const satisfies Record<keyof Metadata, string>;

const metadataTags = (metadata: Metadata): readonly Html[] =>
  (Object.keys(metaNames) as (keyof Metadata)[]).flatMap((name) => {
    const content = metadata[name]?.join(', ');
    return content === undefined ? [] : [tag('meta', { name: metaNames[name], content })];
  });

/** @param languages links to the same page in other languages */
function headOf(
  { publication: { facts }, address }: HtmlContext,
  { title, description, metadata, path }: PageParts,
  languages: readonly Html[],
  files: Html,
): Html {
  return tag(
    'head',
    {},
    tag('meta', { charset: 'utf-8' }),
    tag('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
    tag('title', {}, text(title === facts.title ? title : `${title} · ${facts.title}`)),
    description === '' ? [] : tag('meta', { name: 'description', content: description }),
    metadata ? metadataTags(metadata) : [],
    path !== undefined && isWebAddress(address)
      ? tag('link', { rel: 'canonical', href: addressOf(address, path) })
      : [],
    languages,
    files,
  );
}

/** Between contents and page; the reader's browser lets it be dragged. */
const edge = (words: Words): Html =>
  tag('div', {
    id: 'edge',
    role: 'separator',
    tabindex: 0,
    'aria-orientation': 'vertical',
    'aria-label': words.width,
    'aria-valuemin': 200,
    'aria-valuemax': 520,
    'aria-valuenow': 300,
  });

function feedbackLink({ look: { feedback }, words }: HtmlContext): Html {
  if (feedback === '') return [];
  const href = feedback.includes('@') ? `mailto:${feedback}` : feedback;
  return tag('p', { class: 'feedback' }, tag('a', { href, id: 'feedback' }, text(words.feedback)));
}

function rightsOf({ look, publication: { facts } }: HtmlContext): Html {
  const parts = [look.footer, facts.rights, facts.edition, facts.bookNumber];
  return tag('footer', { class: 'rights' }, text(parts.filter((part) => part !== '').join(' · ')));
}

/** What the script of the site says, in the language of the site. */
const messagesOf = (words: Words): Readonly<Record<string, string>> => ({
  'data-copy': words.copy,
  'data-copied': words.copied,
  'data-found': words.found,
  'data-none': words.nothingFound,
  'data-clear': words.clearHits,
  'data-narrow': words.narrow,
  'data-more': words.more,
  'data-here': words.onThisPage,
  'data-open-all': words.openAll,
  'data-close-all': words.closeAll,
  'data-enlarge': words.enlarge,
  'data-close': words.close,
  'data-new': words.isNew,
  'data-changed': words.isChanged,
});

const notForYou = (words: Words): Html =>
  tag(
    'p',
    { id: 'not-for-you', role: 'status', hidden: true },
    text(words.notForYou),
    text(' '),
    tag('button', { type: 'button', id: 'show-all' }, text(words.everything)),
  );
