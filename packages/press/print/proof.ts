import { allPlaces, type Place, type Publication, type ResolvedElement } from '@ukiyo/core/compose';
import { childElements, findAll, lineOf } from '@ukiyo/core/markup';
import type { Problem } from '@ukiyo/core/problems';
import { plainPlan } from '@ukiyo/core/styles';
import type { AssetSource } from '../shared/assets.ts';
import type { PrintDesign } from './design.ts';
import type { Piece } from './drawings.ts';
import type { Block, Inline, PrintDocument, PrintPlace } from './document.ts';
import { PrintFailure, type Located, type PrintEngine, type Sheet, type Traced } from './engine.ts';
import { failed, problemsOf, settingOf, type Part } from './setting.ts';

/** Where an element begins, and what it says: its text and images. */
interface Said extends Traced {
  readonly says: string;
}

/** A page and what is on it. */
interface ProofPage extends Sheet {
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
  readonly traces: readonly Said[];
  readonly problems: readonly Problem[];
  readonly engineMilliseconds: number;
}

/** @param before pages that come before what is wanted, to make the next a left one */
function drawn(
  publication: Publication,
  source: AssetSource,
  engine: PrintEngine,
  design: PrintDesign,
  before: number,
  part?: Part,
  topic?: Place,
): ProofPages {
  const setting = settingOf(publication, source, engine, design, part);
  try {
    const { drawings, traces, sheets, warnings, milliseconds } = setting.run((document, images) =>
      engine.draw(document, images),
    );
    const pages = sheets
      .map((sheet, at) => ({ ...sheet, pieces: drawings.pages[at] ?? [] }))
      .slice(before);
    return {
      pages,
      shapes: drawings.shapes,
      traces: told(traces, topic).map((trace) => ({ ...trace, sheet: trace.sheet - before })),
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
export const proofPublication = (
  publication: Publication,
  source: AssetSource,
  engine: PrintEngine,
  design: PrintDesign,
): ProofPages => drawn(publication, source, engine, design, 0);

/**
 * A whole publication as it is printed, and where a topic stands in it: first and last sheet,
 * counted from 1.
 */
export interface ProofWhole {
  readonly pdf: Uint8Array;
  readonly pages: readonly Located[];
  readonly traces: readonly Said[];
  readonly sheets: readonly Sheet[];
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
  publication: Publication,
  anchor: string | undefined,
  source: AssetSource,
  engine: PrintEngine,
  design: PrintDesign,
): ProofWhole | { readonly problems: readonly Problem[] } {
  const topic = allPlaces(publication.places).find((place) => place.anchor === anchor);
  const setting = settingOf(publication, source, engine, untrimmed(design), {
    traced: topic?.content?.origin.item,
    narrow: (document) => document,
  });
  try {
    const { pdf, pages, traces, sheets, warnings } = setting.run((document, images) =>
      engine.compile(document, images, 'none'),
    );
    const first = pages.find(({ id }) => id === anchor)?.sheet ?? 1;
    return {
      pdf,
      pages,
      traces: told(traces, topic),
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
const untrimmed = ({ sheet, plan }: PrintDesign): PrintDesign => ({
  sheet,
  plan: { ...plan, trim: plainPlan.trim },
});

/** What the traced elements of a topic say. */
function told(traces: readonly Traced[], topic: Place | undefined): Said[] {
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
export function layoutOf(
  publication: Publication,
  source: AssetSource,
  engine: PrintEngine,
  design: PrintDesign,
): readonly Located[] {
  try {
    return settingOf(publication, source, engine, design).run((document, images) =>
      engine.locate(document, images),
    );
  } catch (error) {
    if (!(error instanceof PrintFailure)) throw error;
    return [];
  }
}

/**
 * One topic set alone, where it stands in a layout of the whole: on which side, how far down, under
 * which chapter; what it refers to elsewhere has its page from there. Undefined where the
 * publication does not have it.
 * @param anchor of a place
 * @param layout of the whole as it was set last; may be empty
 */
export function proofTopic(
  publication: Publication,
  anchor: string,
  layout: readonly Located[],
  source: AssetSource,
  engine: PrintEngine,
  design: PrintDesign,
): ProofPages | undefined {
  const at = layout.find(({ id }) => id === anchor);
  const shown = new Map(layout.map(({ id, shown: page }) => [id, page]));
  const isOdd = at === undefined || at.sheet % 2 === 1;
  let isThere = false;
  const topic = allPlaces(publication.places).find((place) => place.anchor === anchor);
  const traced = topic?.content?.origin.item;
  const narrow = (document: PrintDocument): PrintDocument => {
    const line = lineTo([...document.front, ...document.body, ...document.back], anchor);
    const place = line.at(-1);
    if (!place)
      return {
        ...document,
        front: [],
        body: [],
        back: [],
        figures: [],
        tables: [],
        index: [],
        glossary: [],
        alone: { page: 1, odd: true, y: 0, chapter: null },
      };
    isThere = true;
    const only = withoutRest(place, shown, document.words['onPage'] ?? '');
    const chapter =
      line.length > 1
        ? line.findLast(({ role }) => role === 'chapter' || role === 'appendix')
        : undefined;
    const textTop = (document.design.plan.top * 72) / 25.4;
    const page = /(\d+)$/u.exec(at?.shown ?? '1')?.[1] ?? '1';
    return {
      ...document,
      front: [],
      body: [only],
      back: [],
      figures: [],
      tables: [],
      index: [],
      glossary: [],
      alone: {
        page: Number(page),
        odd: isOdd,
        y: at ? Math.max(0, at.y - textTop) : 0,
        chapter: chapter ? { id: chapter.id, num: chapter.num ?? '', label: chapter.label } : null,
      },
    };
  };
  const pages = drawn(
    publication,
    source,
    engine,
    untrimmed(design),
    isOdd ? 0 : 1,
    { traced, only: anchor, narrow },
    topic,
  );
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
 * The place without those under it; links to what is not there keep their words, and the page on
 * which it was.
 */
function withoutRest(
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
  return { ...place, places: [], c: linked(place.c) as Block[] };
}
