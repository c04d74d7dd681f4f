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

/**
 * Near copies across a library. Texts come and go one by one; what was found among the others
 * stays.
 */
export interface CopyIndex {
  /** Takes a topic in, or once more when it has changed. */
  set(item: string, root: Element): void;
  remove(item: string): void;
  /**
   * The groups that would save most come first; what lies within copies of its own holders is not
   * told again.
   */
  groups(): CopyGroup[];
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

export function copyIndex(): CopyIndex {
  const entries: Entry[] = [];
  const byItem = new Map<string, readonly number[]>();
  /** The first entry of each text stands for all that say the same. */
  const byText = new Map<string, number[]>();
  const alike = new Map<number, Set<number>>();
  let tables: Float64Array[] = Array.from({ length: bands }, () => new Float64Array());
  /** Entries that are in no table yet, and how many of them have been looked up. */
  let fresh: number[] = [];
  let looked = 0;

  const join = (a: number, b: number): void => {
    if (alike.get(a)?.has(b) === true || jaccard(entries[a]!.runs, entries[b]!.runs) < likeness)
      return;
    alike.set(a, (alike.get(a) ?? new Set()).add(b));
    alike.set(b, (alike.get(b) ?? new Set()).add(a));
  };
  /** Makes the tables anew and joins what shares a key, where one of both is fresh. */
  function remake(): void {
    const standing = [...byText.values()].map(([first]) => first!);
    const isFresh = new Set(fresh);
    tables = tables.map((_table, band) => {
      const table = Float64Array.from(
        standing,
        (at) => entries[at]!.keys[band]! * places + at,
      ).sort();
      for (let start = 0, end = 0; start < table.length; start = end) {
        const key = Math.floor(table[start]! / places);
        while (end < table.length && Math.floor(table[end]! / places) === key) end += 1;
        for (let a = start; a < end; a += 1)
          for (let b = a + 1; b < end; b += 1)
            if (isFresh.has(table[a]! % places) || isFresh.has(table[b]! % places))
              join(table[a]! % places, table[b]! % places);
      }
      return table;
    });
    fresh = [];
    looked = 0;
  }
  /** Looks the fresh ones up in the tables, and among each other. */
  function lookUp(): void {
    for (; looked < fresh.length; looked += 1) {
      const at = fresh[looked]!;
      const { keys, alive } = entries[at]!;
      if (!alive) continue;
      tables.forEach((table, band) => {
        for (
          let found = firstAtLeast(table, keys[band]! * places);
          found < table.length && Math.floor(table[found]! / places) === keys[band];
          found += 1
        )
          if (entries[table[found]! % places]!.alive && table[found]! % places !== at)
            join(at, table[found]! % places);
      });
      for (const other of fresh.slice(0, looked))
        if (
          other !== at &&
          entries[other]!.alive &&
          entries[other]!.keys.some((key, band) => key === keys[band])
        )
          join(at, other);
    }
  }

  function remove(item: string): void {
    for (const at of byItem.get(item) ?? []) {
      const entry = entries[at]!;
      entry.alive = false;
      const standing = (byText.get(entry.text) ?? []).filter((other) => other !== at);
      if (standing.length === 0) byText.delete(entry.text);
      else {
        byText.set(entry.text, standing);
        // Another one stands for the text now, and has to be looked up by itself.
        fresh.push(standing[0]!);
      }
      for (const other of alike.get(at) ?? []) alike.get(other)?.delete(at);
      alike.delete(at);
    }
    byItem.delete(item);
  }

  return {
    set(item, root) {
      remove(item);
      const made = entriesOf(item, root);
      byItem.set(
        item,
        made.map((entry) => {
          const at = entries.push(entry) - 1;
          const same = byText.get(entry.text);
          if (same) same.push(at);
          else {
            byText.set(entry.text, [at]);
            fresh.push(at);
          }
          return at;
        }),
      );
    },
    remove,
    groups() {
      if (fresh.length > mostFresh) remake();
      else lookUp();
      const seen = new Set<number>();
      const groups: CopyGroup[] = [];
      for (const [first] of byText.values()) {
        if (first === undefined || seen.has(first)) continue;
        const together: number[] = [];
        for (const waiting = [first]; waiting.length > 0;) {
          const at = waiting.pop()!;
          if (seen.has(at)) continue;
          seen.add(at);
          together.push(at);
          waiting.push(...(alike.get(at) ?? []));
        }
        const all = together
          .flatMap((at) => byText.get(entries[at]!.text) ?? [])
          .map((at) => entries[at]!);
        if (all.length < 2) continue;
        const copies = all
          .map(({ item, path, words }): Copy => ({ item, path, words }))
          .sort(
            (a, b) =>
              a.item.localeCompare(b.item) ||
              a.path.join('.').localeCompare(b.path.join('.'), undefined, { numeric: true }),
          );
        groups.push({
          name: all[0]!.name,
          copies,
          same: together.length === 1,
          saves:
            (all.length - 1) *
            Math.round(all.reduce((sum, { count }) => sum + count, 0) / all.length),
        });
      }
      return withoutInner(groups).sort((a, b) => b.saves - a.saves);
    },
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
function withoutInner(groups: readonly CopyGroup[]): CopyGroup[] {
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
