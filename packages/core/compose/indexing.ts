import type { When } from '../facets/index.ts';
import { isElement, type Element, type Node } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import type { IndexEntry, IndexGroup, ResolvedElement } from './publication.ts';
import type { AnchoredTerm } from './resolve/resolved.ts';

interface Draft {
  readonly term: string;
  readonly sortKey: string;
  readonly locators: { anchor: string; when?: readonly When[]; until?: string }[];
  readonly see: string[];
  readonly seeAlso: string[];
  readonly entries: Map<string, Draft>;
}

const special = new Set(['indexterm', 'index-see', 'index-see-also', 'index-sort-as']);

/** The words of an entry without its sub-entries. */
function wording(nodes: readonly Node[]): string {
  return nodes
    .map((node) =>
      typeof node === 'string'
        ? node
        : isElement(node) && !special.has(node.name)
          ? wording(node.children)
          : '',
    )
    .join('')
    .replace(/\s+/gu, ' ')
    .trim();
}

const childrenNamed = (parent: Element, name: string): Element[] =>
  parent.children.filter((child): child is Element => isElement(child) && child.name === name);

/** An entry to be seen, with its sub-entries: “mast, raising”. */
function seeText(target: Element): string {
  return [wording(target.children), ...childrenNamed(target, 'indexterm').map(seeText)]
    .filter((part) => part !== '')
    .join(', ');
}

/**
 * Gathers index entries in the order of the locale, grouped by letter: sub-entries, see, see also
 * and ranges (DITA 1.3, 3.2.5.3), in the order of `Intl.Collator` (CLDR).
 * @returns the groups, with problems `index.range-open` and `index.empty`
 */
export function buildIndex(
  terms: readonly AnchoredTerm[],
  locale: string,
): { readonly groups: readonly IndexGroup[]; readonly problems: readonly Problem[] } {
  const drafting = new IndexDrafting();
  for (const { anchor, term } of terms) drafting.add(term, { anchor, source: term });
  const { entries, problems } = drafting.end();
  const collator = new Intl.Collator(locale, { usage: 'sort', numeric: true });
  const groups: { letter: string; entries: IndexEntry[] }[] = [];
  for (const draft of sorted(entries, collator)) {
    const letter = letterOf(draft.sortKey, locale);
    if (groups.at(-1)?.letter !== letter) groups.push({ letter, entries: [] });
    groups.at(-1)!.entries.push(entryOf(draft, collator));
  }
  return { groups, problems };
}

/** Where an index entry stands, and the outermost one around it. */
interface TermPlace {
  readonly anchor: string;
  readonly source: ResolvedElement;
}
/** A range whose end has not come yet. */
interface OpenRange {
  readonly locator: Draft['locators'][number];
  readonly source: ResolvedElement;
  readonly text: string;
}

class IndexDrafting {
  readonly #entries = new Map<string, Draft>();
  readonly #ranges = new Map<string, OpenRange>();
  readonly #problems: Problem[] = [];

  /** @param into the entries of the one above; those of the index, where there is none */
  add(term: Element, place: TermPlace, into = this.#entries): void {
    const { start, end } = term.attributes;
    if (end !== undefined) return this.#endRange(end, place);
    const text = wording(term.children);
    const inner = childrenNamed(term, 'indexterm');
    if (text === '') {
      if (inner.length === 0)
        this.#report('index.empty', 'An index entry has no words.', place.source);
      return;
    }
    const draft = into.get(text) ?? newDraft(term, text);
    into.set(text, draft);
    const sees = childrenNamed(term, 'index-see').map(seeText);
    addMissing(draft.see, sees);
    addMissing(draft.seeAlso, childrenNamed(term, 'index-see-also').map(seeText));
    for (const sub of inner) this.add(sub, place, draft.entries);
    if (inner.length > 0 || sees.length > 0) return;
    const { anchor, source } = place;
    const locator: Draft['locators'][number] = source.when
      ? { anchor, when: source.when }
      : { anchor };
    draft.locators.push(locator);
    if (start !== undefined) this.#ranges.set(start, { locator, source, text });
  }

  /** What was gathered, when all terms have been added. */
  end(): { readonly entries: ReadonlyMap<string, Draft>; readonly problems: readonly Problem[] } {
    for (const { source, text } of this.#ranges.values())
      this.#report(
        'index.range-open',
        `The index range “${text}” begins and does not end.`,
        source,
      );
    return { entries: this.#entries, problems: this.#problems };
  }

  #endRange(name: string, { anchor }: TermPlace): void {
    const range = this.#ranges.get(name);
    if (range) range.locator.until = anchor;
    this.#ranges.delete(name);
  }

  #report(code: string, message: string, { origin }: ResolvedElement): void {
    this.#problems.push(problem('warning', code, message, origin));
  }
}

function newDraft(term: Element, text: string): Draft {
  const [sortAs] = childrenNamed(term, 'index-sort-as');
  return {
    term: text,
    sortKey: sortAs ? wording(sortAs.children) : text,
    locators: [],
    see: [],
    seeAlso: [],
    entries: new Map(),
  };
}

function addMissing(list: string[], more: readonly string[]): void {
  for (const one of more) if (!list.includes(one)) list.push(one);
}

const sorted = (drafts: ReadonlyMap<string, Draft>, collator: Intl.Collator): Draft[] =>
  [...drafts.values()].sort((a, b) => collator.compare(a.sortKey, b.sortKey));

const entryOf = (draft: Draft, collator: Intl.Collator): IndexEntry => {
  const { term, locators, see, seeAlso } = draft;
  const entries = sorted(draft.entries, collator).map((inner) => entryOf(inner, collator));
  return { term, locators, see, seeAlso, entries };
};

/**
 * The heading under which a word stands: its first letter without accents, “#” for signs and
 * numbers.
 */
function letterOf(word: string, locale: string): string {
  const first =
    Array.from(word.normalize('NFD')).find((character) => !/\p{M}/u.test(character)) ?? '';
  if (!/\p{L}/u.test(first)) return '#';
  const base = first.toLocaleUpperCase(locale);
  // A letter that the locale sorts apart from its base letter, such as Ö in Swedish, has a group of
  // its own.
  const whole = word.normalize('NFC').charAt(0).toLocaleUpperCase(locale);
  return new Intl.Collator(locale, { sensitivity: 'base' }).compare(whole, base) === 0
    ? base
    : whole;
}
