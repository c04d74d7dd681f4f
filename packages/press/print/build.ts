import { allPlaces, type Place, type Publication, type ResolvedElement } from '@ukiyo/core/compose';
import { isA } from '@ukiyo/core/grammar';
import { childElements, childNamed, lineOf, type Node } from '@ukiyo/core/markup';
import type { Problem } from '@ukiyo/core/problems';
import { wornStyle, type StyleSheet } from '@ukiyo/core/styles';
import { dayOf, printable } from '../shared/text.ts';
import { blocksOf } from './blocks.ts';
import { contextOf, type PrintAssets } from './context.ts';
import type { Block, Inline, PrintDocument, PrintIndexEntry, PrintPlace } from './document.ts';

/**
 * A topic of which it is noted where each of its elements comes to stand, and the one place whose
 * content is wanted.
 */
export interface Wanted {
  readonly traced?: string | undefined;
  readonly only?: string | undefined;
}

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
  const context = contextOf(publication, assets, sheet, traced);
  const { words, worn, emitted, references, marksOf, problems } = context;
  const { inlines, linked, blocks, block } = blocksOf(context);

  const topicBlocks = (content: ResolvedElement): Block[] =>
    childElements(content).flatMap((part): Block[] => {
      if (part.name === 'shortdesc')
        return [...marksOf(part), { t: 'lead', c: inlines(part.children, 0) }];
      if (part.name === 'abstract')
        return childElements(part).flatMap((inside) =>
          inside.name === 'shortdesc'
            ? [{ t: 'lead' as const, c: inlines(inside.children, 0) }]
            : block(inside, 0),
        );
      if (part.name === 'title' || part.name === 'glossterm') return [];
      return isA(part.name, 'body') ? blocks(part.children, 0) : block(part, 0);
    });

  const relatedBlock = (place: Place): Block[] => {
    const targets = place.related.flatMap(({ anchor }) => publication.targets[anchor] ?? []);
    const links = childElements(
      childNamed(place.content ?? { name: '', attributes: {}, children: [] }, 'related-links') ?? {
        name: '',
        attributes: {},
        children: [],
      },
    ).filter((part) => part.name === 'link');
    const written = links.map((part) =>
      linked(
        {
          ...(part as ResolvedElement),
          name: 'xref',
          children: childNamed(part, 'linktext')?.children ?? [],
        },
        0,
      ),
    );
    const generated = targets.map((target): Inline[] => {
      const reference = {
        t: 'ref' as const,
        to: target.anchor,
        c: [printable(`“${target.title}”`)],
        page: true,
      };
      references.push(reference);
      return [reference];
    });
    const all = [...written, ...generated];
    return all.length === 0
      ? []
      : [
          { t: 'label', c: [words.related] },
          { t: 'sl', items: all.map((c) => [{ t: 'p', c }]) },
        ];
  };

  const isWanted = ({ anchor }: Place): boolean => only === undefined || anchor === only;
  const placeOf = (place: Place): PrintPlace => {
    emitted.add(place.anchor);
    const title = place.content && childNamed(place.content, 'title', 'glossterm');
    const own =
      title && wornStyle(sheet, title.name, [place.content.name], title.attributes['outputclass']);
    return {
      ...(own === undefined ? {} : { s: own }),
      role: place.role,
      level: place.level,
      id: place.anchor,
      num: place.number ?? null,
      title: inlines(place.title, 0),
      label: printable(place.label),
      listed: place.inContents,
      headed: place.hasHeading,
      ...(title && context.isBarred(title) ? { bar: true } : {}),
      ...((title as ResolvedElement | undefined)?.gone === 'before' ? { gone: true } : {}),
      c:
        place.content && isWanted(place)
          ? worn.within(place.content, () => [
              ...topicBlocks(place.content!),
              ...relatedBlock(place),
            ])
          : [],
      places: place.children.filter((child) => child.role !== 'glossaryentry').map(placeOf),
    };
  };

  // Front matter is what stands before the first chapter, back matter what stands after the last.
  const isBody = ({ role }: Place): boolean =>
    ['part', 'chapter', 'appendix', 'section'].includes(role);
  const shown = publication.places.filter((place) => place.role !== 'glossaryentry');
  const first = Math.max(0, shown.findIndex(isBody));
  const end = shown.findLastIndex(isBody) + 1;
  const front = shown.slice(0, first).map(placeOf);
  const body = shown.slice(first, end).map(placeOf);
  const back = shown.slice(end).map(placeOf);
  const hasGlossary = allPlaces(publication.places).some(({ role }) => role === 'glossarylist');
  // Without a list of them, terms have their meaning nowhere that a link could lead to.
  const glossary = (only === undefined && hasGlossary ? publication.glossary : []).map(
    ({ anchor, term, content }) => {
      emitted.add(anchor);
      const definition = childNamed(content, 'glossdef');
      return {
        id: anchor,
        term: printable(term),
        c: definition ? context.marked(definition, blocks(definition.children, 0)) : [],
      };
    },
  );
  // Of one place alone nobody knows here what stands elsewhere.
  for (const reference of only === undefined ? references : []) {
    if (emitted.has(reference.to)) continue;
    const { place } = publication.targets[reference.to] ?? {};
    reference.to = place !== undefined && emitted.has(place) ? place : '';
  }

  const { facts } = publication;
  const document = {
    traced: traced !== undefined,
    barred: context.hasBars() || [...front, ...body, ...back].some(hasBar),
    lang: publication.locale,
    dir: ['ar', 'he', 'fa', 'ur'].includes(new Intl.Locale(publication.locale).language)
      ? 'rtl'
      : 'ltr',
    facts: {
      title: printable(facts.title),
      subtitle: printable(facts.subtitle),
      series: printable(facts.series),
      authors: facts.authors.map(printable),
      rights: printable(facts.rights),
      number: printable(facts.bookNumber),
      edition: printable(facts.edition),
      keywords: facts.keywords.map(printable),
      day: dayOf(facts.date)?.toISOString().slice(0, 10) ?? '',
    },
    words: {
      contents: words.contents,
      figures: words.figures,
      tables: words.tables,
      index: words.index,
      glossary: words.glossary,
      see: words.see,
      seeAlso: words.seeAlso,
      onPage: words.onPage,
      onNextPage: words.onNextPage,
      continued: words.continued,
      page: words.page,
      figure: words.figure,
      table: words.table,
      part: words.part,
      appendix: words.appendix,
    },
    front,
    body,
    back,
    figures: publication.figures.map(({ anchor, number, title }) => ({
      id: anchor,
      num: number,
      cap: plainInlines(title),
    })),
    tables: publication.tables.map(({ anchor, number, title }) => ({
      id: anchor,
      num: number,
      cap: plainInlines(title),
    })),
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
