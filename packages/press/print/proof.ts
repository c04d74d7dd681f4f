import { allPlaces, type Place, type ResolvedElement } from '@ukiyo/core/compose';
import { childElements, findAll, lineOf } from '@ukiyo/core/markup';
import type { Problem } from '@ukiyo/core/problems';
import { plainPlan } from '@ukiyo/core/styles';
import type { Piece } from './drawings.ts';
import type { PrintBlock, Inline, PrintDocument, PrintPlace } from './document.ts';
import { PrintFailure, type Located, type PrintedSheet, type Traced } from './engine.ts';
import { failed, problemsOf, settingOf, type Part, type Printable } from './setting.ts';

/** Where an element begins, and what it says: its text and images. */
interface TracedWords extends Traced {
  readonly says: string;
}

/** A page and what is on it. */
interface ProofPage extends PrintedSheet {
  readonly pieces: readonly Piece[];
}

export interface ProofPages {
  readonly pages: readonly ProofPage[];
  /** SVG of what is on the pages. */
  readonly shapes: ReadonlyMap<string, string>;
  /**
   * Where the elements of the topic begin; sheets are counted from the first of these pages, which
   * is 1.
   */
  readonly traces: readonly TracedWords[];
  readonly problems: readonly Problem[];
  readonly engineMilliseconds: number;
}

/** A part of a publication that is proofed alone. */
interface Alone {
  readonly part: Part;
  readonly topic: Place | undefined;
  /** Pages that come before what is wanted, to make the next a left one. */
  readonly before: number;
}

function drawn(printable: Printable, alone?: Alone): ProofPages {
  const setting = settingOf(printable, alone?.part);
  const before = alone?.before ?? 0;
  try {
    const { drawings, traces, sheets, warnings, milliseconds } = setting.run((document, images) =>
      printable.engine.draw(document, images),
    );
    const pages = sheets
      .map((sheet, at) => ({ ...sheet, pieces: drawings.pages[at] ?? [] }))
      .slice(before);
    return {
      pages,
      shapes: drawings.shapes,
      traces: wordsOfTraces(traces, alone?.topic).map((trace) => ({
        ...trace,
        sheet: trace.sheet - before,
      })),
      problems: [...setting.problems, ...problemsOf(warnings)],
      engineMilliseconds: milliseconds,
    };
  } catch (error) {
    if (!(error instanceof PrintFailure)) throw error;
    return {
      pages: [],
      shapes: new Map(),
      traces: [],
      problems: [...setting.problems, failed(error)],
      engineMilliseconds: 0,
    };
  }
}

/** A whole publication as pages. Problems as of `printPublication`. */
export const proofPublication = (printable: Printable): ProofPages => drawn(printable);

/**
 * A whole publication as it is printed, and where a topic stands in it: first and last sheet,
 * counted from 1.
 */
export interface ProofWhole {
  readonly pdf: Uint8Array;
  readonly pages: readonly Located[];
  readonly traces: readonly TracedWords[];
  readonly sheets: readonly PrintedSheet[];
  readonly first: number;
  readonly last: number;
  readonly problems: readonly Problem[];
}

/**
 * A whole publication to turn the pages of, without what only the press needs.
 * Problems: as of `printPublication`; where it cannot be set there is no PDF.
 * @param anchor of the place whose elements are traced
 */
export function proofWhole(
  printable: Printable,
  anchor: string | undefined,
): ProofWhole | { readonly problems: readonly Problem[] } {
  const topic = placeAt(printable, anchor);
  const setting = settingOf(untrimmed(printable), {
    traced: topic?.content?.origin.item,
    narrow: (document) => document,
  });
  try {
    const { pdf, pages, traces, sheets, warnings } = setting.run((document, images) =>
      printable.engine.compile(document, images, 'none'),
    );
    const first = pages.find(({ id }) => id === anchor)?.sheet ?? 1;
    return {
      pdf,
      pages,
      traces: wordsOfTraces(traces, topic),
      sheets,
      first,
      last: Math.max(first, ...traces.map(({ sheet }) => sheet)),
      problems: [...setting.problems, ...problemsOf(warnings)],
    };
  } catch (error) {
    if (!(error instanceof PrintFailure)) throw error;
    return { problems: [...setting.problems, failed(error)] };
  }
}
const untrimmed = ({ design: { sheet, plan }, ...rest }: Printable): Printable => ({
  ...rest,
  design: { sheet, plan: { ...plan, trim: plainPlan.trim } },
});
const placeAt = ({ publication }: Printable, anchor: string | undefined): Place | undefined =>
  allPlaces(publication.places).find((place) => place.anchor === anchor);

/** What the traced elements of a topic say. */
function wordsOfTraces(traces: readonly Traced[], topic: Place | undefined): TracedWords[] {
  const says = new Map<string, string>();
  const walk = (element: ResolvedElement): void => {
    if (element.origin.item === topic?.content?.origin.item)
      says.set(
        element.origin.path.join('.'),
        [
          lineOf(element),
          ...findAll(element, ({ name }) => name === 'image').map(
            (image) => image.attributes['href'] ?? '',
          ),
        ].join(' '),
      );
    for (const child of childElements(element)) walk(child as ResolvedElement);
  };
  if (topic?.content) walk(topic.content);
  return traces.map((trace) => ({ ...trace, says: says.get(trace.path) ?? '' }));
}

/** Where everything of a publication stands; nothing where it cannot be set. */
export function layoutOf(printable: Printable): readonly Located[] {
  try {
    return settingOf(printable).run((document, images) =>
      printable.engine.locate(document, images),
    );
  } catch (error) {
    if (!(error instanceof PrintFailure)) throw error;
    return [];
  }
}

/** Where a topic stands in the whole when it is set alone. */
interface PlaceInWhole {
  readonly anchor: string;
  readonly at: Located | undefined;
  readonly isOdd: boolean;
  /** The number that each place's page shows, by anchor. */
  readonly shown: ReadonlyMap<string, string>;
}

/** The document with one place alone, as it stands in the whole; undefined without that place. */
function onlyPlace(document: PrintDocument, where: PlaceInWhole): PrintDocument | undefined {
  const { anchor, at, isOdd, shown } = where;
  const line = lineTo([...document.front, ...document.body, ...document.back], anchor);
  const place = line.at(-1);
  if (!place) return undefined;
  const chapter =
    line.length > 1
      ? line.findLast(({ role }) => role === 'chapter' || role === 'appendix')
      : undefined;
  const textTop = (document.design.plan.top * 72) / 25.4;
  const page = /(\d+)$/u.exec(at?.shown ?? '1')?.[1] ?? '1';
  return {
    ...withoutPlaces(document),
    body: [placeAlone(place, shown, document.words['onPage'] ?? '')],
    alone: {
      page: Number(page),
      odd: isOdd,
      y: at ? Math.max(0, at.y - textTop) : 0,
      chapter: chapter ? { id: chapter.id, num: chapter.num ?? '', label: chapter.label } : null,
    },
  };
}
const withoutPlaces = (document: PrintDocument): PrintDocument => ({
  ...document,
  front: [],
  body: [],
  back: [],
  figures: [],
  tables: [],
  index: [],
  glossary: [],
  alone: { page: 1, odd: true, y: 0, chapter: null },
});

/**
 * One topic set alone, where it stands in a layout of the whole: on which side, how far down, under
 * which chapter; what it refers to elsewhere has its page from there. Undefined where the
 * publication does not have it.
 * @param anchor of a place
 * @param layout of the whole as it was set last; may be empty
 */
export function proofTopic(
  printable: Printable,
  anchor: string,
  layout: readonly Located[],
): ProofPages | undefined {
  const at = layout.find(({ id }) => id === anchor);
  const isOdd = at === undefined || at.sheet % 2 === 1;
  const shown = new Map(layout.map(({ id, shown: page }) => [id, page]));
  const topic = placeAt(printable, anchor);
  let isThere = false;
  const narrow = (document: PrintDocument): PrintDocument => {
    const only = onlyPlace(document, { anchor, at, isOdd, shown });
    isThere = only !== undefined;
    return only ?? withoutPlaces(document);
  };
  const part = { traced: topic?.content?.origin.item, only: anchor, narrow };
  const pages = drawn(untrimmed(printable), { part, topic, before: isOdd ? 0 : 1 });
  return isThere ? pages : undefined;
}

/** The places from the top down to the one of this anchor. */
function lineTo(places: readonly PrintPlace[], anchor: string): PrintPlace[] {
  for (const place of places) {
    if (place.id === anchor) return [place];
    const below = lineTo(place.places, anchor);
    if (below.length > 0) return [place, ...below];
  }
  return [];
}

/**
 * The place without those below it. Links to places left out keep their words and page number.
 */
function placeAlone(
  place: PrintPlace,
  shown: ReadonlyMap<string, string>,
  onPage: string,
): PrintPlace {
  const here = new Set([place.id]);
  const collect = (value: unknown): void => {
    if (Array.isArray(value)) value.forEach(collect);
    else if (typeof value === 'object' && value !== null) {
      const { t, id, at } = value as { t?: unknown; id?: unknown; at?: unknown };
      if (t === 'at' && typeof id === 'string') here.add(id);
      if (Array.isArray(at)) at.forEach((one) => typeof one === 'string' && here.add(one));
      Object.values(value).forEach(collect);
    }
  };
  collect(place.c);
  const linked = (node: unknown): unknown => {
    if (Array.isArray(node)) return node.map(linked);
    if (typeof node !== 'object' || node === null) return node;
    const made = Object.fromEntries(
      Object.entries(node).map(([name, value]) => [name, linked(value)]),
    ) as unknown as Inline;
    if (typeof made === 'string' || made.t !== 'ref' || here.has(made.to)) return made;
    const page = shown.get(made.to);
    return {
      ...made,
      to: '',
      c: [
        ...made.c,
        ...(made.page && page !== undefined ? [` ${onPage.replace('{n}', page)}`] : []),
      ],
    };
  };
  return { ...place, places: [], c: linked(place.c) as PrintBlock[] };
}
