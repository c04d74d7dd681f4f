import {
  allPlaces,
  type Place,
  type Publication,
  type Related,
  type ResolvedElement,
} from '@ukiyo/core/compose';
import { childNamed, lineOf, type Node } from '@ukiyo/core/markup';
import type { Problem } from '@ukiyo/core/problems';
import { teamStyle, type StyleSheet } from '@ukiyo/core/styles';
import type { Words } from '@ukiyo/core/words';
import {
  anchorsLedTo,
  normalizeBlocks,
  relatedLinks,
  topicBlocks,
  type LinkList,
  type RelatedLink,
} from '../blocks/index.ts';
import { dayOf, directionOf, printable } from '../shared/index.ts';
import { inLanguage } from './languages.ts';
import { typesettingOf } from './blocks.ts';
import { printContext, type PrintAssets, type Typesetting } from './context.ts';
import type { PrintBlock, Inline, PrintDocument, PrintIndexEntry, PrintPlace } from './document.ts';

/**
 * A topic of which it is noted where each of its elements comes to stand, and the one place whose
 * content is wanted.
 */
export interface Wanted {
  readonly traced?: string | undefined;
  readonly only?: string | undefined;
}

/** A link that the map gives a place. */
function mapLink({ publication, references }: Typesetting, related: Related): PrintBlock[] {
  if (!('anchor' in related))
    return [{ t: 'p', c: [{ t: 'url', href: related.href, c: [printable(related.text)] }] }];
  const target = publication.targets[related.anchor];
  if (!target) return [];
  const c = [printable(`“${target.linkText ?? target.title}”`)];
  const reference = { t: 'ref' as const, to: target.anchor, c, page: true };
  references.push(reference);
  return [{ t: 'p', c: [reference] }];
}

/** Links that the topic has itself, then those that the map gives. */
function relatedBlock(typesetting: Typesetting, place: Place): PrintBlock[] {
  const { publication, words } = typesetting;
  const { content } = place;
  const own = content ? relatedLinks(content) : { loose: [], lists: [] };
  const led = anchorsLedTo(own, publication.links);
  const given = place.related
    .filter((one) => !('anchor' in one && led.has(one.anchor)))
    .map((one) => ({ group: one.group ?? words.related, blocks: mapLink(typesetting, one) }))
    .filter(({ blocks }) => blocks.length > 0);
  const ofGroup = (group: string): readonly PrintBlock[][] =>
    given.filter((one) => one.group === group).map(({ blocks }) => blocks);
  const list = (title: string, items: readonly PrintBlock[][]): PrintBlock[] =>
    items.length === 0
      ? []
      : [
          { t: 'label', c: [printable(title)] },
          { t: 'sl', items },
        ];
  const groups = [...new Set(given.map(({ group }) => group))];
  return [
    ...list(words.related, [
      ...own.loose.map((link) => linkBlocks(typesetting, link)),
      ...ofGroup(words.related),
    ]),
    ...groups
      .filter((group) => group !== words.related)
      .flatMap((group) => list(group, ofGroup(group))),
    ...own.lists.flatMap((one) => linkListBlocks(typesetting, one)),
  ];
}

const said = ({ inlines }: Typesetting, words: RelatedLink['description']): PrintBlock[] =>
  words.length === 0 ? [] : [{ t: 'p', c: inlines(words) }];

/** A link says its page, as those in the text do. */
const linkBlocks = (
  typesetting: Typesetting,
  { element, description }: RelatedLink,
): PrintBlock[] =>
  typesetting.marked(element, [
    { t: 'p', c: typesetting.linked({ ...element, name: 'xref' }) },
    ...said(typesetting, description),
  ]);

function linkListBlocks(typesetting: Typesetting, list: LinkList): PrintBlock[] {
  const { title, description, items, info } = list;
  const made = items.map((item) =>
    item.kind === 'link' ? linkBlocks(typesetting, item) : linkListBlocks(typesetting, item),
  );
  return typesetting.marked(list.element, [
    ...(title ? [{ t: 'label' as const, c: typesetting.inlines(title.children) }] : []),
    ...said(typesetting, description),
    ...(made.length === 0 ? [] : [{ t: 'sl' as const, items: made }]),
    ...said(typesetting, info),
  ]);
}

/** @param only the one place whose content is wanted; all of them without it */
function placeOf(typesetting: Typesetting, place: Place, only: string | undefined): PrintPlace {
  const { emitted, sheet, styles, inlines, isBarred } = typesetting;
  emitted.add(place.anchor);
  const { content } = place;
  const title = content && childNamed(content, 'title', 'glossterm');
  const own =
    title && teamStyle(sheet, title.name, [content.name], title.attributes['outputclass']);
  const isWanted = only === undefined || place.anchor === only;
  return {
    ...(own === undefined ? {} : { s: own }),
    role: place.role,
    level: place.level,
    id: place.anchor,
    num: place.number ?? null,
    title: inlines(place.title),
    label: printable(place.label),
    listed: place.inContents,
    headed: place.hasHeading,
    ...(title && isBarred(title) ? { bar: true } : {}),
    ...((title as ResolvedElement | undefined)?.gone === 'before' ? { gone: true } : {}),
    c:
      content && isWanted
        ? inLanguage(
            styles.within(content, () => [
              ...typesetting.blocks(topicBlocks(content, typesetting.normalizing)),
              ...relatedBlock(typesetting, place),
            ]),
            content,
            typesetting.publication.locale,
          )
        : [],
    places: place.children
      .filter((child) => child.role !== 'glossaryentry')
      .map((child) => placeOf(typesetting, child, only)),
  };
}

/** Front matter comes before the first chapter, back matter after the last. */
function matterOf(
  typesetting: Typesetting,
  only: string | undefined,
): Pick<PrintDocument, 'front' | 'body' | 'back'> {
  const isBody = ({ role }: Place): boolean =>
    ['part', 'chapter', 'appendix', 'section'].includes(role);
  const shown = typesetting.publication.places.filter(({ role }) => role !== 'glossaryentry');
  const first = Math.max(0, shown.findIndex(isBody));
  const end = shown.findLastIndex(isBody) + 1;
  const made = (places: readonly Place[]): PrintPlace[] =>
    places.map((place) => placeOf(typesetting, place, only));
  return {
    front: made(shown.slice(0, first)),
    body: made(shown.slice(first, end)),
    back: made(shown.slice(end)),
  };
}

/** Without a list of them, terms have their meaning nowhere that a link could lead to. */
function glossaryOf(
  { publication, emitted, marked, blocks, normalizing }: Typesetting,
  only: string | undefined,
): PrintDocument['glossary'] {
  const hasList = allPlaces(publication.places).some(({ role }) => role === 'glossarylist');
  if (only !== undefined || !hasList) return [];
  return publication.glossary.map(({ anchor, term, content }) => {
    emitted.add(anchor);
    const definition = childNamed(content, 'glossdef');
    const c = definition
      ? marked(definition, blocks(normalizeBlocks(definition.children, normalizing)))
      : [];
    return { id: anchor, term: printable(term), c };
  });
}

/** References to what is not in the document lead to the topic of it, or nowhere. */
function leadSomewhere({ publication, emitted, references }: Typesetting): void {
  for (const reference of references) {
    if (emitted.has(reference.to)) continue;
    const { place } = publication.targets[reference.to] ?? {};
    reference.to = place !== undefined && emitted.has(place) ? place : '';
  }
}

const factsOf = ({ facts }: Publication): PrintDocument['facts'] => ({
  title: printable(facts.title),
  subtitle: printable(facts.subtitle),
  series: printable(facts.series),
  authors: facts.authors.map(printable),
  rights: printable(facts.rights),
  number: printable(facts.bookNumber),
  edition: printable(facts.edition),
  keywords: facts.keywords.map(printable),
  day: dayOf(facts.date)?.toISOString().slice(0, 10) ?? '',
});

/** The words that the template sets itself. */
const templateWords = [
  'contents',
  'figures',
  'tables',
  'index',
  'glossary',
  'see',
  'seeAlso',
  'onPage',
  'onNextPage',
  'continued',
  'page',
  'figure',
  'table',
  'part',
  'appendix',
] as const satisfies readonly (keyof Words)[];

const listed = (captions: Publication['figures']): PrintDocument['figures'] =>
  captions.map(({ anchor, number, title }) => ({
    id: anchor,
    num: number,
    cap: plainInlines(title),
  }));

/**
 * Turns a publication into the document that the print template walks. Problems: those of blocks.
 * @param wanted of all of it
 */
export function buildPrintDocument(
  publication: Publication,
  assets: PrintAssets,
  sheet: StyleSheet,
  { traced, only }: Wanted = {},
): { document: Omit<PrintDocument, 'design'>; problems: Problem[] } {
  const typesetting = typesettingOf(printContext(publication, assets, sheet, traced));
  const { words, emitted, problems } = typesetting;
  const matter = matterOf(typesetting, only);
  const glossary = glossaryOf(typesetting, only);
  // A place that is set alone cannot tell what is elsewhere in the manual.
  if (only === undefined) leadSomewhere(typesetting);
  const { front, body, back } = matter;
  const document = {
    traced: traced !== undefined,
    barred: typesetting.hasBars() || [...front, ...body, ...back].some(hasBar),
    lang: publication.locale,
    dir: directionOf(publication.locale),
    facts: factsOf(publication),
    words: Object.fromEntries(templateWords.map((name) => [name, words[name]])),
    ...matter,
    figures: listed(publication.figures),
    tables: listed(publication.tables),
    index: publication.index.map(({ letter, entries }) => ({
      letter,
      entries: entries.map((entry) => indexEntry(entry, emitted, publication)),
    })),
    glossary,
  };
  return { document, problems };
}

const hasBar = (place: PrintPlace): boolean =>
  place.bar === true || place.gone === true || place.places.some(hasBar);

const plainInlines = (nodes: readonly Node[]): Inline[] => [
  printable(
    nodes
      .map((node) => lineOf(node))
      .join(' ')
      .trim(),
  ),
];

function indexEntry(
  entry: Publication['index'][number]['entries'][number],
  emitted: ReadonlySet<string>,
  publication: Publication,
): PrintIndexEntry {
  const known = (anchor: string): string =>
    emitted.has(anchor) ? anchor : (publication.targets[anchor]?.place ?? '');
  return {
    term: printable(entry.term),
    at: entry.locators
      .map(({ anchor, until }) => ({
        from: known(anchor),
        until: until === undefined ? null : known(until),
      }))
      .filter(({ from }) => from !== ''),
    see: entry.see.map(printable),
    also: entry.seeAlso.map(printable),
    sub: entry.entries.map((inner) => indexEntry(inner, emitted, publication)),
  };
}
