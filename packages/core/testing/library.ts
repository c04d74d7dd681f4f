import type { Lens } from '../facets/index.ts';
import { allPlaces, compose, type Composition, type Publication } from '../compose/index.ts';
import { textLibrary, type LibraryAsset, type StoredItem } from '../library/index.ts';
import { childNamed, lineOf } from '../markup/index.ts';

/** A small library from XML snippets: ids come from the root elements. */
export function libraryOf(
  texts: readonly string[],
  assets: readonly LibraryAsset[] = [],
  lenses: readonly (Lens & { readonly id: string })[] = [],
): ReturnType<typeof textLibrary> {
  const items = texts.map((text): StoredItem => ({
    id: /\sid="([^"]+)"/u.exec(text)?.[1] ?? 'nameless',
    kind: /^<(book)?map/u.test(text) ? 'map' : 'topic',
    text,
  }));
  return textLibrary(items, assets, { lenses });
}

export const concept = (id: string, body = '', title = id): string =>
  `<concept id="${id}"><title>${title}</title><conbody>${body}</conbody></concept>`;
export const mapText = (inner: string): string => `<map id="m"><title>M</title>${inner}</map>`;

/** Composes the map `m` of such a library. */
export function composeTexts(
  texts: readonly string[],
  options: Partial<Omit<Composition, 'library' | 'map'>> & {
    assets?: readonly LibraryAsset[];
  } = {},
): Publication {
  const { assets, ...rest } = options;
  return compose({ library: libraryOf(texts, assets), map: 'm', ...rest });
}

export const problemCodes = ({ problems }: Publication): string[] =>
  problems.map(({ code }) => code);

/** The words of a topic’s body, on one line. */
export const bodyText = (publication: Publication, anchor: string): string =>
  lineOf(
    childNamed(
      allPlaces(publication.places).find((place) => place.anchor === anchor)!.content!,
      'conbody',
      'taskbody',
      'body',
    )!,
  );
