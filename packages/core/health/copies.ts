import { isTopic, isA } from '../grammar/index.ts';
import { wordsOf } from '../language/index.ts';
import { passagesOf, readableText } from '../library/index.ts';
import type { Element } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';

/** A block of a topic, or all of it, that says what others say too. */
export interface Copy {
  readonly item: string;
  readonly path: Path;
  readonly words: string;
}
export interface CopyGroup {
  /** The element that all of them are. */
  readonly name: string;
  readonly copies: readonly Copy[];
  /** Whether all say the same to the letter, but for case and marks. */
  readonly same: boolean;
  /** How many words would not have to be kept. */
  readonly saves: number;
}

/** Copies share at least this much of what either says (Jaccard, by runs of three words). */
const likeness = 0.8;
const leastWords = 8;
const leastTopicWords = 20;
const runLength = 3;
/**
 * Min-wise hashes (Broder 1997) in bands: two blocks that are alike by 0.8 share all hashes of some
 * band but for one case in thirty million (1 − 0.8³ to the 24th); each pair that shares one is then
 * compared exactly.
 */
const bands = 24;
const rows = 3;
const compared = [
  'p',
  'step',
  'substep',
  'note',
  'table',
  'simpletable',
  'section',
  'example',
  'codeblock',
  'ul',
  'ol',
  'dl',
  'fig',
];

const mix = (value: number): number => {
  let mixed = Math.imul(value ^ (value >>> 16), 0x85eb_ca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2_ae35);
  return (mixed ^ (mixed >>> 16)) >>> 0;
};
function hashOf(text: string): number {
  let hash = 0x811c_9dc5;
  for (let at = 0; at < text.length; at += 1)
    hash = Math.imul(hash ^ text.charCodeAt(at), 0x0100_0193);
  return mix(hash);
}
const seeds = Uint32Array.from({ length: bands * rows }, (_, at) => mix(at + 1));

interface Entry extends Copy {
  readonly name: string;
  readonly count: number;
  /** Of the runs of words, each once, in order. */
  readonly runs: Uint32Array;
  readonly keys: Uint32Array;
  /** The same for all that say the same. */
  readonly text: string;
  alive: boolean;
}

/** 64 bits and the number of words instead of the words: a library holds millions of them. */
const keyOfText = (name: string, words: readonly string[]): string =>
  `${name} ${words.length} ${hashOf(words.join(' '))} ${hashOf(words.toReversed().join(' '))}`;

function runsOf(words: readonly string[]): Uint32Array {
  const hashes = words.map(hashOf);
  const runs = new Set<number>();
  for (let at = 0; at + runLength <= hashes.length; at += 1)
    runs.add(mix(Math.imul(hashes[at]!, 31) ^ Math.imul(hashes[at + 1]!, 17) ^ hashes[at + 2]!));
  return Uint32Array.from(runs).sort();
}
function keysOf(runs: Uint32Array, name: string): Uint32Array {
  const keys = new Uint32Array(bands);
  const kind = hashOf(name);
  for (let band = 0; band < bands; band += 1) {
    let key = kind ^ band;
    for (let row = 0; row < rows; row += 1) {
      const seed = seeds[band * rows + row]!;
      let least = 0xffff_ffff;
      for (const run of runs) {
        const hash = mix(run ^ seed);
        if (hash < least) least = hash;
      }
      key = mix(Math.imul(key, 31) ^ least);
    }
    keys[band] = key;
  }
  return keys;
}
/** What both have of what either has. */
function jaccard(a: Uint32Array, b: Uint32Array): number {
  let shared = 0;
  for (let at = 0, by = 0; at < a.length && by < b.length;) {
    const left = a[at]!;
    const right = b[by]!;
    if (left === right) shared += 1;
    if (left <= right) at += 1;
    if (right <= left) by += 1;
  }
  return shared / (a.length + b.length - shared);
}

function entriesOf(item: string, root: Element): Entry[] {
  const made = (name: string, path: Path, words: string, least: number): Entry[] => {
    const tokens = wordsOf(words).map((word) => word.toLowerCase());
    if (tokens.length < least) return [];
    const runs = runsOf(tokens);
    return [
      {
        item,
        path,
        words,
        name,
        count: tokens.length,
        runs,
        keys: keysOf(runs, name),
        text: keyOfText(name, tokens),
        alive: true,
      },
    ];
  };
  const blocks = passagesOf(root).flatMap(({ element, path, words }) =>
    compared.some((name) => isA(element.name, name))
      ? made(element.name, path, words, leastWords)
      : [],
  );
  return isTopic(root.name)
    ? [
        ...blocks,
        ...made(
          root.name,
          [],
          readableText({ ...root, children: root.children.slice(1) }),
          leastTopicWords,
        ),
      ]
    : blocks;
}

/**
 * Keys with the places of their entries in one number each, so that equal keys stand side by side
 * once they are sorted.
 */
const places = 2 ** 21;

/** With more of them the tables are made anew: a change of some topics is not worth it. */
const mostFresh = 2000;

/**
 * Near copies across a library. Texts come and go one by one; what was found among the others
 * stays.
 */
export class CopyIndex {
  readonly #entries: Entry[] = [];
  readonly #byItem = new Map<string, readonly number[]>();
  /** The first entry of each text stands for all that say the same. */
  readonly #byText = new Map<string, number[]>();
  readonly #alike = new Map<number, Set<number>>();
  #tables: readonly Float64Array[] = Array.from({ length: bands }, () => new Float64Array());
  /** Entries that are in no table yet, and how many of them have been looked up. */
  #fresh: number[] = [];
  #lookedUp = 0;

  /** Takes a topic in, or once more when it has changed. */
  set(item: string, root: Element): void {
    this.remove(item);
    const places = entriesOf(item, root).map((entry) => {
      const at = this.#entries.push(entry) - 1;
      const same = this.#byText.get(entry.text);
      if (same) same.push(at);
      else {
        this.#byText.set(entry.text, [at]);
        this.#fresh.push(at);
      }
      return at;
    });
    this.#byItem.set(item, places);
  }

  remove(item: string): void {
    for (const at of this.#byItem.get(item) ?? []) {
      const entry = this.#entries[at]!;
      entry.alive = false;
      const standing = (this.#byText.get(entry.text) ?? []).filter((other) => other !== at);
      if (standing.length === 0) this.#byText.delete(entry.text);
      else {
        this.#byText.set(entry.text, standing);
        // Another one stands for the text now, and has to be looked up by itself.
        this.#fresh.push(standing[0]!);
      }
      for (const other of this.#alike.get(at) ?? []) this.#alike.get(other)?.delete(at);
      this.#alike.delete(at);
    }
    this.#byItem.delete(item);
  }

  /**
   * The groups that would save most come first; what lies within copies of its own holders is not
   * told again.
   */
  groups(): CopyGroup[] {
    if (this.#fresh.length > mostFresh) this.#remake();
    else this.#lookUp();
    const seen = new Set<number>();
    const groups = [...this.#byText.values()].flatMap(([first]) => {
      const together = first === undefined ? [] : this.#togetherWith(first, seen);
      const all = together
        .flatMap((at) => this.#byText.get(this.#entries[at]!.text) ?? [])
        .map((at) => this.#entries[at]!);
      return all.length < 2 ? [] : [groupOf(all, together.length === 1)];
    });
    return outermostGroups(groups).sort((a, b) => b.saves - a.saves);
  }

  /** All that are alike by one or several steps, without what was seen. */
  #togetherWith(first: number, seen: Set<number>): readonly number[] {
    const together: number[] = [];
    for (const waiting = [first]; waiting.length > 0;) {
      const at = waiting.pop()!;
      if (seen.has(at)) continue;
      seen.add(at);
      together.push(at);
      waiting.push(...(this.#alike.get(at) ?? []));
    }
    return together;
  }

  #join(a: number, b: number): void {
    const alike = this.#alike;
    const [one, other] = [this.#entries[a]!, this.#entries[b]!];
    if (alike.get(a)?.has(b) === true || jaccard(one.runs, other.runs) < likeness) return;
    alike.set(a, (alike.get(a) ?? new Set()).add(b));
    alike.set(b, (alike.get(b) ?? new Set()).add(a));
  }

  /** Makes the tables anew and joins what shares a key, where one of both is fresh. */
  #remake(): void {
    const standing = [...this.#byText.values()].map(([first]) => first!);
    const fresh = new Set(this.#fresh);
    this.#tables = this.#tables.map((_table, band) => {
      const keyAndPlace = (at: number): number => this.#entries[at]!.keys[band]! * places + at;
      const table = Float64Array.from(standing, keyAndPlace).sort();
      for (let start = 0, end = 0; start < table.length; start = end) {
        const key = Math.floor(table[start]! / places);
        while (end < table.length && Math.floor(table[end]! / places) === key) end += 1;
        this.#joinFresh(table.subarray(start, end), fresh);
      }
      return table;
    });
    this.#fresh = [];
    this.#lookedUp = 0;
  }

  /** @param alike of one key */
  #joinFresh(alike: Float64Array, fresh: ReadonlySet<number>): void {
    for (let a = 0; a < alike.length; a += 1)
      for (let b = a + 1; b < alike.length; b += 1) {
        const [one, other] = [alike[a]! % places, alike[b]! % places];
        if (fresh.has(one) || fresh.has(other)) this.#join(one, other);
      }
  }

  /** Looks the fresh ones up in the tables, and among each other. */
  #lookUp(): void {
    for (; this.#lookedUp < this.#fresh.length; this.#lookedUp += 1) {
      const at = this.#fresh[this.#lookedUp]!;
      const { keys, alive } = this.#entries[at]!;
      if (!alive) continue;
      this.#tables.forEach((table, band) => {
        for (
          let found = firstAtLeast(table, keys[band]! * places);
          found < table.length && Math.floor(table[found]! / places) === keys[band];
          found += 1
        ) {
          const other = table[found]! % places;
          if (this.#entries[other]!.alive && other !== at) this.#join(at, other);
        }
      });
      for (const other of this.#fresh.slice(0, this.#lookedUp))
        if (other !== at && this.#entries[other]!.alive && this.#sharesKey(other, keys))
          this.#join(at, other);
    }
  }

  #sharesKey(at: number, keys: Entry['keys']): boolean {
    return this.#entries[at]!.keys.some((key, band) => key === keys[band]);
  }
}

function groupOf(all: readonly Entry[], isSame: boolean): CopyGroup {
  const copies = all
    .map(({ item, path, words }): Copy => ({ item, path, words }))
    .sort(
      (a, b) =>
        a.item.localeCompare(b.item) ||
        a.path.join('.').localeCompare(b.path.join('.'), undefined, { numeric: true }),
    );
  const words = all.reduce((sum, { count }) => sum + count, 0) / all.length;
  return {
    name: all[0]!.name,
    copies,
    same: isSame,
    saves: (all.length - 1) * Math.round(words),
  };
}

function firstAtLeast(table: Float64Array, wanted: number): number {
  let low = 0;
  let high = table.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (table[middle]! < wanted) low = middle + 1;
    else high = middle;
  }
  return low;
}

const keyOf = (item: string, path: Path): string => `${item} ${path.join('.')}`;

/**
 * Groups whose copies all lie within the copies of one other group are part of what that one tells.
 */
function outermostGroups(groups: readonly CopyGroup[]): CopyGroup[] {
  const groupAt = new Map(
    groups.flatMap((group) =>
      group.copies.map(({ item, path }) => [keyOf(item, path), group] as const),
    ),
  );
  const holders = ({ item, path }: Copy): CopyGroup[] =>
    path.flatMap((_step, length) => groupAt.get(keyOf(item, path.slice(0, length))) ?? []);
  return groups.filter((group) => {
    const [first, ...others] = group.copies.map(holders);
    return !first?.some((holder) => holder !== group && others.every((of) => of.includes(holder)));
  });
}
