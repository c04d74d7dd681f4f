import { normalise } from '../grammar/index.ts';
import { readXml, type Element } from '../markup/index.ts';
import type { Problem } from '../problems/index.ts';

/** A topic or a map. */
export interface Item {
  readonly id: string;
  readonly kind: 'topic' | 'map';
  /** Absent when the stored text cannot be read; `problems` then says why. */
  readonly root?: Element;
  readonly problems: readonly Problem[];
}

export interface Asset {
  readonly id: string;
  /** File name with its ending; unique only within its folder. */
  readonly name: string;
  readonly mediaType: string;
  /** Pixels, where the file says. */
  readonly width?: number;
  readonly height?: number;
}

/** Reads never wait: whoever makes a `Library` has loaded what a composition needs. The same text gives the same `root` object. */
export interface Library {
  item(id: string): Item | undefined;
  asset(id: string): Asset | undefined;
}

/** Reads the text of one item. Equal trees are not shared between calls: keep the result. */
export function readItem(id: string, kind: Item['kind'], text: string): Item {
  const { document, problems } = readXml(text);
  const placed = problems.map((found) => ({ ...found, where: { ...found.where, item: id } }));
  return { id, kind, problems: placed, ...(document === undefined ? {} : { root: normalise(document.root) }) };
}

export interface StoredItem {
  readonly id: string;
  readonly kind: Item['kind'];
  readonly text: string;
}

export interface TextLibrary extends Library {
  set(item: StoredItem): void;
  /** What was read of exactly this text, if it was. */
  alreadyRead(item: StoredItem): Item | undefined;
}

/**
 * A library over texts in memory. Each text is read when first asked for.
 * @param earlier gives back the trees of texts that have not changed since, so that what is remembered of them still holds
 */
export function textLibrary(items: Iterable<StoredItem>, assets: Iterable<Asset> = [], earlier?: TextLibrary): TextLibrary {
  const texts = new Map<string, StoredItem>();
  const read = new Map<string, Item>();
  const byId = new Map([...assets].map((asset) => [asset.id, asset]));
  const library = {
    set(item: StoredItem) {
      if (texts.get(item.id)?.text === item.text) return;
      texts.set(item.id, item);
      read.delete(item.id);
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
    alreadyRead: ({ id, kind, text }: StoredItem) => (texts.get(id)?.text === text && texts.get(id)?.kind === kind ? read.get(id) : undefined),
  };
  for (const item of items) {
    library.set(item);
    // Taken over at once: the earlier library itself need not be kept.
    const known = earlier?.alreadyRead(item);
    if (known) read.set(item.id, known);
  }
  return library;
}
