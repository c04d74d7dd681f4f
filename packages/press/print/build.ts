import type { Place, Publication, ResolvedElement } from '@ukiyo/core/compose';
import { basesOf, isA, mannerOf, type Manner } from '@ukiyo/core/grammar';
import { childElements, childNamed, isElement, lineOf, type Element, type Node } from '@ukiyo/core/markup';
import { readArea, signPlace } from '@ukiyo/core/imagemaps';
import { readMedia } from '@ukiyo/core/media';
import { problem, type Problem } from '@ukiyo/core/problems';
import { linkFormOf } from '@ukiyo/core/library';
import { writtenNumber, wornStyle, type StyleSheet } from '@ukiyo/core/styles';
import { gridOf, type GridRow } from '@ukiyo/core/tables';
import { wordsFor } from '@ukiyo/core/words';
import { flowOf } from '../shared/flow.ts';
import { linkWords, peerName, peerTitle } from '../shared/links.ts';
import { printable } from '../shared/text.ts';
import { noteName, wornStyles } from '../shared/worn.ts';
import { columnTracks, millimetres } from './measures.ts';
import type { Block, Inline, Marking, PrintCell, PrintDocument, PrintIndexEntry, PrintPlace, PrintTable, Spot } from './document.ts';

/** What the page template calls each manner. */
const signs = { bold: 'b', italic: 'i', underlined: 'u', superscript: 'sup', subscript: 'sub', struck: 'strike', code: 'code', control: 'ui', quoted: 'q' } as const satisfies Record<Manner, string>;
/** Deeper than this the page engine's bound on nested rules would end the whole manual; such content is set without further nesting. */
const deepest = 12;
/** Of a QR code, in millimetres: telephones read it at arm’s length (common practice). */
const codeWidth = '24';

export interface PrintAssets {
  /** Path of the image in the engine's workspace; undefined when it cannot be shown. */
  path(id: string): string | undefined;
  /** Path of an image that says an address to a telephone. */
  code(address: string): string;
  /** Of the image, in its own units. */
  size(id: string): { readonly width: number; readonly height: number } | undefined;
}

/**
 * Turns a publication into the document that the print template walks. Problems: `print.too-deep`, and those of tables.
 * @param traced a topic of which it is noted where each of its elements comes to stand
 */
export function buildPrintDocument(publication: Publication, assets: PrintAssets, sheet: StyleSheet, traced?: string): { document: Omit<PrintDocument, 'design'>; problems: Problem[] } {
  const words = wordsFor(publication.locale);
  const problems: Problem[] = [];
  const emitted = new Set<string>();
  const references: { to: string }[] = [];
  const glossaryAnchors = new Set(publication.glossary.map(({ anchor }) => anchor));
  let inFootnote = false;
  const worn = wornStyles(sheet);

  const at = (element: Element): string[] => {
    const { anchor } = element as ResolvedElement;
    if (anchor === undefined || emitted.has(anchor)) return [];
    emitted.add(anchor);
    return [anchor];
  };

  const markingOf = (element: Element): Marking | undefined => {
    const { marked } = element as ResolvedElement;
    return (
      marked && { ...(marked.color === undefined ? {} : { fg: marked.color }), ...(marked.background === undefined ? {} : { bg: marked.background }), ...(marked.bar === true ? { bar: true } : {}) }
    );
  };
  const markedBlocks = (element: Element, c: Block[]): Block[] => {
    const marking = markingOf(element);
    return marking && c.length > 0 ? [{ t: 'mark', c, ...marking }] : c;
  };

  // ---- lines of text
  const inlines = (nodes: readonly Node[], depth: number): Inline[] => nodes.flatMap((node) => (typeof node === 'string' ? [printable(node)] : isElement(node) ? inline(node, depth) : []));

  const inline = (element: Element, depth: number): Inline[] => {
    const plain = worn.within(element, () => plainInline(element, depth));
    const own = worn.of(element);
    const c: Inline[] = own === undefined || plain.length === 0 ? plain : [{ t: 's', s: own, c: plain }];
    const marking = markingOf(element);
    return marking && c.length > 0 ? [{ t: 'mark', c, ...marking }] : c;
  };
  const plainInline = (element: Element, depth: number): Inline[] => {
    if (depth > deepest) return [printable(lineOf(element))];
    const marks: Inline[] = at(element).map((id) => ({ t: 'at', id }));
    const inner = (): Inline[] => inlines(element.children, depth + 1);
    switch (element.name) {
      case 'indexterm':
        return marks;
      case 'fn': {
        if (inFootnote) return inner();
        inFootnote = true;
        const c = blocks(element.children, depth + 1);
        inFootnote = false;
        return [...marks, { t: 'fn', c }];
      }
      case 'image':
        return [...marks, ...inlineImage(element)];
      case 'xref':
      case 'link':
      case 'term':
      case 'abbreviated-form':
      case 'cite':
        return [...marks, ...linked(element as ResolvedElement, depth)];
      case 'menucascade':
        return [...marks, ...childElements(element).flatMap((control, index): Inline[] => [...(index > 0 ? [' ▸ '] : []), ...inline(control, depth + 1)])];
      case 'state':
        return [`${element.attributes['name'] ?? ''}=${element.attributes['value'] ?? ''}`];
      case 'tm':
        return [...inner(), { tm: '™', reg: '®', service: '℠' }[element.attributes['tmtype'] ?? ''] ?? ''];
      case 'desc':
      case 'object':
        return [];
      default: {
        const manner = mannerOf(element.name);
        const style = manner && signs[manner];
        return style ? [...marks, { t: style, c: inner() }] : [...marks, ...inner()];
      }
    }
  };

  const linked = (element: ResolvedElement, depth: number): Inline[] => {
    const own = inlines(element.children, depth + 1);
    const hasOwn = lineOf(element) !== '' || own.some((part) => typeof part !== 'string' && part.t === 'img');
    const style = element.name === 'term' || element.name === 'cite' ? ('i' as const) : undefined;
    const shown = (text: readonly Inline[]): Inline[] => (style ? [{ t: style, c: text }] : [...text]);
    const link = element.link === undefined ? undefined : publication.links[element.link];
    if (!link) return shown(own);
    if (link.kind === 'external') return [{ t: 'url', href: link.href, c: shown(hasOwn ? own : [link.href]) }];
    if (link.kind === 'broken') return shown(hasOwn ? own : [link.text]);
    if (link.kind === 'peer') {
      const title = printable(`“${peerTitle(link)}”`);
      const c = shown(hasOwn ? [...own, ` (${title}, `, { t: 'i', c: [printable(peerName(link))] }, ')'] : [title, ' (', { t: 'i', c: [printable(peerName(link))] }, ')']);
      return link.href === undefined ? c : [{ t: 'url', href: link.href, c }];
    }
    const target = publication.targets[link.anchor];
    const form = linkFormOf(element.attributes);
    const told = linkWords(form, link, target, true);
    const isQuoted = form !== 'number' && (target?.kind === 'topic' || target?.kind === 'section' || form === 'title');
    const text = hasOwn ? own : [printable(isQuoted ? `“${told}”` : told)];
    const hasPage = element.name === 'xref' && form !== 'title' && !glossaryAnchors.has(link.anchor);
    const reference = { t: 'ref' as const, to: link.anchor, c: hasPage && form === 'page' && !hasOwn ? [] : shown(text), page: hasPage };
    references.push(reference);
    return [reference];
  };

  const sourceOf = (element: Element): string | undefined => {
    const href = element.attributes['href'] ?? '';
    return href.startsWith('asset:') ? assets.path(href.slice('asset:'.length)) : undefined;
  };
  const altOf = (element: Element): string => {
    const child = childNamed(element, 'alt');
    return printable(child ? lineOf(child) : (element.attributes['alt'] ?? ''));
  };
  const sized = (element: Element): { w?: string } => {
    const width = millimetres(element.attributes['width']);
    return width === undefined ? {} : { w: `${width}` };
  };
  const inlineImage = (element: Element): Inline[] => {
    const src = sourceOf(element);
    return src === undefined ? [`[${altOf(element) || words.figure}]`] : [{ t: 'img', src, alt: altOf(element), ...sized(element) }];
  };

  // ---- blocks
  const blocks = (nodes: readonly Node[], depth: number): Block[] =>
    flowOf(nodes).flatMap((part): Block[] => {
      if (part.kind === 'block') return block(part.element, depth + 1);
      const [only] = part.nodes;
      const alone = part.nodes.length === 1 && isElement(only) && only.name === 'image' ? only : undefined;
      return alone ? imageBlock(alone) : [{ t: 'p', c: inlines(part.nodes, depth) }];
    });

  const imageBlock = (element: Element, spots: readonly Spot[] = []): Block[] => {
    const src = sourceOf(element);
    return [...marksOf(element), { t: 'img', src: src ?? '', alt: altOf(element), ...sized(element), ...(src === undefined ? { missing: true } : {}), ...(spots.length === 0 ? {} : { spots }) }];
  };
  /** On paper nothing can be pointed at: areas have letters, which a list under the image explains. None where one of them cannot be placed. */
  const spotsOf = (areas: readonly Element[], picture: Element): Spot[] => {
    const href = picture.attributes['href'] ?? '';
    const size = href.startsWith('asset:') ? assets.size(href.slice('asset:'.length)) : undefined;
    const read = areas.map(readArea);
    if (!size || read.some((area) => area === undefined)) return [];
    return read.map((area, at) => {
      const { x, y } = signPlace(area!.shape);
      return { sign: writtenNumber('A', at + 1)!, x: x / size.width, y: y / size.height };
    });
  };
  /** On paper: its poster, what it shows, and where it can be played. */
  const mediaBlock = (element: Element): Block[] => {
    const media = readMedia(element);
    if (!media) return marksOf(element);
    const poster = media.poster.startsWith('asset:') ? assets.path(media.poster.slice('asset:'.length)) : undefined;
    const isOnWeb = /^https?:/iu.test(media.source);
    const address: Inline[] = isOnWeb ? [' ', { t: 'url', href: media.source, c: [media.source] }] : [];
    const told: Inline = { t: 'i', c: [`${words[media.kind]}: `, printable(media.description)] };
    const code: Block[] = isOnWeb ? [{ t: 'img', src: assets.code(media.source), alt: media.source, w: codeWidth }] : [];
    return [...marksOf(element), ...(poster === undefined ? [] : [{ t: 'img' as const, src: poster, alt: printable(media.description) }]), { t: 'p', c: [told, ...address] }, ...code];
  };
  const marksOf = (element: Element): Block[] => {
    const { origin } = element as ResolvedElement;
    return [...at(element).map((id): Block => ({ t: 'at', id })), ...(traced !== undefined && origin.item === traced ? [{ t: 'from' as const, path: origin.path.join('.') }] : [])];
  };

  const labelled = (element: Element, word: string, depth: number): Block[] => {
    const title = childNamed(element, 'title');
    const rest = element.children.filter((child) => child !== title);
    return [...marksOf(element), { t: 'label', c: title ? inlines(title.children, depth) : [word] }, ...blocks(rest, depth)];
  };

  const captioned = (element: Element): { num?: string; cap?: readonly Inline[]; at: string[] } => {
    const title = childNamed(element, 'title');
    const { anchor } = element as ResolvedElement;
    const num = anchor === undefined ? undefined : publication.targets[anchor]?.number;
    return { at: at(element), ...(title ? { cap: inlines(title.children, 0) } : {}), ...(num === undefined ? {} : { num }) };
  };

  const item = (element: Element, depth: number): Block[] => markedBlocks(element, [...marksOf(element), ...blocks(element.children, depth)]);

  const step = (element: Element, depth: number): Block[] =>
    markedBlocks(element, [
      ...marksOf(element),
      ...childElements(element).flatMap((part): Block[] => {
        if (part.name === 'cmd') return [{ t: 'p', c: [...at(part).map((id): Inline => ({ t: 'at', id })), ...inlines(part.children, depth)] }];
        return isA(part.name, 'itemgroup') ? item(part, depth) : block(part, depth);
      }),
    ]);

  const steps = (element: Element, kind: 'steps' | 'ul', depth: number): Block[] => {
    const out: Block[] = [];
    let items: Block[][] = [];
    let count = 0;
    const end = (): void => {
      if (items.length > 0) out.push({ t: kind, items, start: count - items.length + 1 });
      items = [];
    };
    for (const child of childElements(element)) {
      if (child.name === 'stepsection') {
        end();
        out.push(...blocks(child.children, depth));
      } else {
        items.push(step(child, depth));
        count += 1;
      }
    }
    end();
    return out;
  };

  const cell = (source: GridRow['cells'][number], row: GridRow, depth: number): PrintCell => ({
    c: markedBlocks(row.element, item(source.element, depth)),
    cs: source.columnSpan,
    rs: source.rowSpan,
    x: source.column,
    head: source.heads,
    ...(source.align === undefined ? {} : { al: source.align }),
    ...(source.valign === undefined ? {} : { va: source.valign }),
  });

  const table = (element: Element, source: Element, caption: { num?: string; cap?: readonly Inline[]; at: string[] }, depth: number): PrintTable => {
    const grid = gridOf(source);
    const { origin } = element as ResolvedElement;
    problems.push(...grid.problems.map((found) => ({ ...found, where: { item: origin.item, path: origin.path } })));
    return {
      t: 'table',
      ...caption,
      cols: columnTracks(
        grid.columns.map((column) => column.width),
        [...grid.head, ...grid.body],
      ),
      head: grid.head.map((row) => row.cells.map((one) => cell(one, row, depth))),
      rows: grid.body.map((row) => ({ cells: row.cells.map((one) => cell(one, row, depth)), ruled: row.ruled })),
    };
  };

  const block = (element: Element, depth: number): Block[] => {
    if (depth > deepest) {
      problems.push(problem('warning', 'print.too-deep', 'Content is nested too deeply to be set as it is; its text is set without structure.', (element as ResolvedElement).origin));
      return [{ t: 'p', c: [printable(lineOf(element))] }];
    }
    for (const name of basesOf(element.name)) {
      const make = makers[name];
      if (make)
        return make === item
          ? styled(element, () => item(element, depth))
          : markedBlocks(
              element,
              styled(element, () => make(element, depth)),
            );
    }
    return styled(element, () => item(element, depth));
  };
  /** What an element becomes, in the style of the team's own that it wears. */
  const styled = (element: Element, make: () => Block[]): Block[] => {
    const own = worn.of(element);
    const made = worn.within(element, make);
    if (own === undefined) return made;
    const shown = made.filter(({ t }) => t !== 'at' && t !== 'from');
    return shown.length === 1 && shown[0]!.t !== 'mark' ? made.map((one) => (one === shown[0] ? { ...one, s: own } : one)) : [{ t: 'group', s: own, c: made }];
  };

  const titled = (element: Element, depth: number, word?: string): Block[] => {
    const title = childNamed(element, 'title');
    if (!title) return word === undefined ? item(element, depth) : labelled(element, word, depth);
    const rest = element.children.filter((child) => child !== title);
    const own = worn.of(title);
    return [{ t: 'h', c: inlines(title.children, depth), at: at(element), ...(own === undefined ? {} : { s: own }) }, ...blocks(rest, depth)];
  };

  type Maker = (element: Element, depth: number) => Block[];
  const list =
    (t: 'ul' | 'ol' | 'sl'): Maker =>
    (element, depth) => [...marksOf(element), { t, items: childElements(element).map((one) => item(one, depth)) }];
  const definitions: Maker = (element, depth) => [
    ...marksOf(element),
    {
      t: 'dl',
      items: childElements(element)
        .filter((entry) => isA(entry.name, 'dlentry'))
        .map((entry) => ({
          dt: childElements(entry)
            .filter((part) => isA(part.name, 'dt'))
            .map((part) => [...at(entry).map((id): Inline => ({ t: 'at', id })), ...inlines(part.children, depth)]),
          dd: childElements(entry)
            .filter((part) => isA(part.name, 'dd'))
            .flatMap((part) => item(part, depth)),
        })),
    },
  ];
  const preformatted =
    (t: 'code' | 'lines'): Maker =>
    (element, depth) => [...marksOf(element), { t, c: inlines(element.children, depth) }];
  const makers: Record<string, Maker> = {
    p: (element, depth) => [...marksOf(element), ...blocks(element.children, depth)],
    title: () => [],
    ul: (element, depth) => (element.name === 'ul' || element.name === 'choices' ? list('ul')(element, depth) : steps(element, 'ul', depth)),
    ol: list('ol'),
    sl: list('sl'),
    steps: (element, depth) => [...marksOf(element), { t: 'label', c: [words.steps] }, ...steps(element, 'steps', depth)],
    'steps-unordered': (element, depth) => [...marksOf(element), { t: 'label', c: [words.steps] }, ...steps(element, 'ul', depth)],
    substeps: (element, depth) => steps(element, 'steps', depth),
    dl: definitions,
    note: (element, depth) => {
      const kind = element.attributes['type'] ?? 'note';
      return [...marksOf(element), { t: 'note', kind, word: printable(noteName(element, sheet, publication.locale, words)), c: blocks(element.children, depth) }];
    },
    pre: preformatted('code'),
    lines: preformatted('lines'),
    lq: (element, depth) => [...marksOf(element), { t: 'quote', c: blocks(element.children, depth) }],
    fig: (element, depth) => {
      const areas = childElements(element).filter((part) => part.name === 'area');
      const picture = childNamed(element, 'image');
      const spots = picture ? spotsOf(areas, picture) : [];
      const legend = areas.slice(0, spots.length).map((area, at) => ({
        sign: spots[at]!.sign,
        c: inlines(
          area.children.filter((part) => isElement(part) && part.name === 'xref'),
          depth,
        ),
      }));
      const shown = childElements(element).filter((part) => !['title', 'desc', 'area'].includes(part.name));
      return [
        {
          t: 'fig',
          ...captioned(element),
          c: [...shown.flatMap((part) => (part === picture ? imageBlock(part, spots) : blocks([part], depth))), ...(legend.length === 0 ? [] : [{ t: 'legend' as const, items: legend }])],
        },
      ];
    },
    table: (element, depth) => {
      const groups = childElements(element).filter((part) => part.name === 'tgroup');
      const caption = captioned(element);
      return groups.map((group, index) => table(element, group, index === 0 ? caption : { at: [] }, depth));
    },
    simpletable: (element, depth) => [table(element, element, captioned(element), depth)],
    image: (element) => imageBlock(element),
    object: (element) => mediaBlock(element),
    example: (element, depth) => titled(element, depth, words.example),
    prereq: (element, depth) => labelled(element, words.prerequisites, depth),
    context: item,
    result: (element, depth) => labelled(element, words.result, depth),
    postreq: (element, depth) => labelled(element, words.next, depth),
    tasktroubleshooting: (element, depth) => labelled(element, words.troubleshooting, depth),
    condition: (element, depth) => labelled(element, words.condition, depth),
    cause: (element, depth) => labelled(element, words.cause, depth),
    remedy: (element, depth) => labelled(element, words.remedy, depth),
    refsyn: (element, depth) => titled(element, depth, words.syntax),
    section: (element, depth) => titled(element, depth),
    'related-links': () => [],
    'steps-informal': item,
  };

  // ---- places
  const topicBlocks = (content: ResolvedElement): Block[] =>
    childElements(content).flatMap((part): Block[] => {
      if (part.name === 'shortdesc') return [...marksOf(part), { t: 'lead', c: inlines(part.children, 0) }];
      if (part.name === 'abstract') return childElements(part).flatMap((inside) => (inside.name === 'shortdesc' ? [{ t: 'lead' as const, c: inlines(inside.children, 0) }] : block(inside, 0)));
      if (part.name === 'title' || part.name === 'glossterm') return [];
      return isA(part.name, 'body') ? blocks(part.children, 0) : block(part, 0);
    });

  const relatedBlock = (place: Place): Block[] => {
    const targets = place.related.flatMap((anchor) => publication.targets[anchor] ?? []);
    const links = childElements(childNamed(place.content ?? { name: '', attributes: {}, children: [] }, 'related-links') ?? { name: '', attributes: {}, children: [] }).filter(
      (part) => part.name === 'link',
    );
    const written = links.map((part) => linked({ ...(part as ResolvedElement), name: 'xref', children: childNamed(part, 'linktext')?.children ?? [] }, 0));
    const generated = targets.map((target): Inline[] => {
      const reference = { t: 'ref' as const, to: target.anchor, c: [printable(`“${target.title}”`)], page: true };
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

  const placeOf = (place: Place): PrintPlace => {
    emitted.add(place.anchor);
    const title = place.content && childNamed(place.content, 'title', 'glossterm');
    const own = title && wornStyle(sheet, title.name, [place.content.name], title.attributes['outputclass']);
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
      c: place.content ? worn.within(place.content, () => [...topicBlocks(place.content!), ...relatedBlock(place)]) : [],
      places: place.children.filter((child) => child.role !== 'glossaryentry').map(placeOf),
    };
  };

  // Front matter is what stands before the first chapter, back matter what stands after the last.
  const isBody = ({ role }: Place): boolean => ['part', 'chapter', 'appendix', 'section'].includes(role);
  const shown = publication.places.filter((place) => place.role !== 'glossaryentry');
  const first = Math.max(0, shown.findIndex(isBody));
  const end = shown.findLastIndex(isBody) + 1;
  const front = shown.slice(0, first).map(placeOf);
  const body = shown.slice(first, end).map(placeOf);
  const back = shown.slice(end).map(placeOf);
  const glossary = publication.glossary.map(({ anchor, term, content }) => {
    emitted.add(anchor);
    const definition = childNamed(content, 'glossdef');
    return { id: anchor, term: printable(term), c: definition ? blocks(definition.children, 0) : [] };
  });
  for (const reference of references) if (!emitted.has(reference.to)) reference.to = publication.targets[reference.to]?.place ?? '';

  const { facts } = publication;
  const document = {
    lang: publication.locale,
    dir: ['ar', 'he', 'fa', 'ur'].includes(new Intl.Locale(publication.locale).language) ? 'rtl' : 'ltr',
    facts: {
      title: printable(facts.title),
      subtitle: printable(facts.subtitle),
      series: printable(facts.series),
      authors: facts.authors.map(printable),
      rights: printable(facts.rights),
      number: printable(facts.bookNumber),
      edition: printable(facts.edition),
      keywords: facts.keywords.map(printable),
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
    figures: publication.figures.map(({ anchor, number, title }) => ({ id: anchor, num: number, cap: plainInlines(title) })),
    tables: publication.tables.map(({ anchor, number, title }) => ({ id: anchor, num: number, cap: plainInlines(title) })),
    index: publication.index.map(({ letter, entries }) => ({ letter, entries: entries.map((entry) => indexEntry(entry, emitted, publication)) })),
    glossary,
  };
  return { document, problems };
}

const plainInlines = (nodes: readonly Node[]): Inline[] => [
  printable(
    nodes
      .map((node) => lineOf(node))
      .join(' ')
      .trim(),
  ),
];

function indexEntry(entry: Publication['index'][number]['entries'][number], emitted: ReadonlySet<string>, publication: Publication): PrintIndexEntry {
  const known = (anchor: string): string => (emitted.has(anchor) ? anchor : (publication.targets[anchor]?.place ?? ''));
  return {
    term: printable(entry.term),
    at: entry.locators.map(({ anchor, until }) => ({ from: known(anchor), until: until === undefined ? null : known(until) })).filter(({ from }) => from !== ''),
    see: entry.see.map(printable),
    also: entry.seeAlso.map(printable),
    sub: entry.entries.map((inner) => indexEntry(inner, emitted, publication)),
  };
}
