import { conditionsOf, type Lens } from '../facets/index.ts';
import { normalise } from '../grammar/index.ts';
import { readXml, type Attributes, type Element } from '../markup/index.ts';
import type { Problem } from '../problems/index.ts';
import { alternateMark, baseOf, type Alternate } from './alternates.ts';
import { holdsEverywhere, everywhereMark } from './variable-sets.ts';

/** A topic or a map. */
export interface LibraryItem {
  readonly id: string;
  readonly kind: 'topic' | 'map';
  /** Absent when the stored text cannot be read; `problems` then says why. */
  readonly root?: Element;
  readonly problems: readonly Problem[];
}

export interface LibraryAsset {
  readonly id: string;
  /** File name with its ending; unique only within its folder. */
  readonly name: string;
  readonly mediaType: string;
  /** Pixels, where the file says. */
  readonly width?: number;
  readonly height?: number;
  /** The image for which it stands in, for readers of these facet values. */
  readonly alternateOf?: string;
  readonly conditions?: Attributes;
}

/**
 * Reads never wait: a `Library` is made of what a composition needs, loaded before. The same text
 * gives the same `root` object.
 */
export interface Library {
  item(id: string): LibraryItem | undefined;
  asset(id: string): LibraryAsset | undefined;
  lens(id: string): Lens | undefined;
  /** What stands in for topics and images, by the id of what it stands in for. */
  readonly alternates: ReadonlyMap<string, readonly Alternate[]>;
  /** Maps whose variables hold in every map, in the order of their ids. */
  readonly commonSets: readonly string[];
  /** Topics that put content into others (DITA 1.3, `conaction`), in the order of their ids. */
  readonly pushing: readonly string[];
}

/** Reads the text of one item. Equal trees are not shared between calls: keep the result. */
export function readItem(id: string, kind: LibraryItem['kind'], text: string): LibraryItem {
  const { document, problems } = readXml(text);
  const placed = problems.map((found) => ({ ...found, where: { ...found.where, item: id } }));
  return {
    id,
    kind,
    problems: placed,
    ...(document === undefined ? {} : { root: normalise(document.root) }),
  };
}

export interface StoredItem {
  readonly id: string;
  readonly kind: LibraryItem['kind'];
  readonly text: string;
}

export interface TextLibrary extends Library {
  set(item: StoredItem): void;
  /** What was read of exactly this text, if it was. */
  alreadyRead(item: StoredItem): LibraryItem | undefined;
}

export interface Beside {
  readonly lenses?: Iterable<Lens & { readonly id: string }>;
  /**
   * Gives back the trees of texts that have not changed since, so that what is remembered of them
   * still holds.
   */
  readonly earlier?: TextLibrary | undefined;
}

/** A library over texts in memory. Each text is read when first asked for. */
export function textLibrary(
  items: Iterable<StoredItem>,
  assets: Iterable<LibraryAsset> = [],
  { lenses = [], earlier }: Beside = {},
): TextLibrary {
  const texts = new Map<string, StoredItem>();
  const read = new Map<string, LibraryItem>();
  const byId = new Map([...assets].map((asset) => [asset.id, asset]));
  const lensById = new Map([...lenses].map((lens) => [lens.id, lens]));
  let gathered: Pick<Library, 'alternates' | 'commonSets' | 'pushing'> | undefined;
  const gather = (): Pick<Library, 'alternates' | 'commonSets' | 'pushing'> =>
    (gathered ??= {
      alternates: alternatesAmong(texts.values(), byId.values(), library),
      commonSets: commonSetsAmong(texts.values(), library),
      pushing: sorted(texts.values()).flatMap(({ id, text }) =>
        text.includes(pushMark) ? [id] : [],
      ),
    });
  const library: TextLibrary = {
    set(item: StoredItem) {
      if (texts.get(item.id)?.text === item.text) return;
      texts.set(item.id, item);
      read.delete(item.id);
      gathered = undefined;
    },
    item(id: string) {
      const known = read.get(id);
      if (known) return known;
      const stored = texts.get(id);
      if (!stored) return undefined;
      const item = readItem(id, stored.kind, stored.text);
      read.set(id, item);
      return item;
    },
    asset: (id: string) => byId.get(id),
    lens: (id: string) => lensById.get(id),
    get alternates() {
      return gather().alternates;
    },
    get commonSets() {
      return gather().commonSets;
    },
    get pushing() {
      return gather().pushing;
    },
    alreadyRead: ({ id, kind, text }: StoredItem) =>
      texts.get(id)?.text === text && texts.get(id)?.kind === kind ? read.get(id) : undefined,
  };
  for (const item of items) {
    library.set(item);
    // Taken over at once: the earlier library itself need not be kept.
    const known = earlier?.alreadyRead(item);
    if (known) read.set(item.id, known);
  }
  return library;
}

/** Stands in every text that puts content into others. */
const pushMark = 'conaction="push';

const sorted = <Named extends { readonly id: string }>(named: Iterable<Named>): Named[] =>
  [...named].sort((a, b) => (a.id < b.id ? -1 : 1));

function alternatesAmong(
  texts: Iterable<StoredItem>,
  assets: Iterable<LibraryAsset>,
  library: Pick<Library, 'item'>,
): Map<string, Alternate[]> {
  const found = new Map<string, Alternate[]>();
  const add = (base: string | undefined, alternate: Alternate): void => {
    if (base !== undefined) found.set(base, [...(found.get(base) ?? []), alternate]);
  };
  for (const { id, text } of sorted(texts)) {
    // Most texts are spared the reading.
    const root = text.includes(alternateMark) ? library.item(id)?.root : undefined;
    if (root) add(baseOf(root, id), { id, conditions: conditionsOf(root) });
  }
  for (const { id, alternateOf, conditions = {} } of sorted(assets))
    add(alternateOf, { id, conditions });
  return found;
}

const commonSetsAmong = (texts: Iterable<StoredItem>, library: Pick<Library, 'item'>): string[] =>
  sorted(texts).flatMap(({ id, kind, text }) => {
    const root =
      kind === 'map' && text.includes(everywhereMark) ? library.item(id)?.root : undefined;
    return root && holdsEverywhere(root) ? [id] : [];
  });
