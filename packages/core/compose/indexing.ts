import type { When } from '../facets/index.ts';
import { isElement, type Element, type Node } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import type { IndexEntry, IndexGroup, ResolvedElement } from './publication.ts';

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
 * Gathers index entries in the order of the locale, grouped by letter.
 * Sub-entries, see, see also and ranges after DITA 1.3, 3.2.5.3; order by `Intl.Collator` (CLDR).
 * Problems: `index.range-open`, `index.empty`.
 */
export function buildIndex(
  terms: readonly { anchor: string; term: ResolvedElement }[],
  locale: string,
): { groups: IndexGroup[]; problems: Problem[] } {
  const root = new Map<string, Draft>();
  const open = new Map<
    string,
    { locator: Draft['locators'][number]; term: ResolvedElement; text: string }
  >();
  const problems: Problem[] = [];

  const add = (
    term: Element,
    into: Map<string, Draft>,
    anchor: string,
    source: ResolvedElement,
  ): void => {
    if (term.attributes['end'] !== undefined) {
      const range = open.get(term.attributes['end']);
      if (range) range.locator.until = anchor;
      open.delete(term.attributes['end']);
      return;
    }
    const text = wording(term.children);
    if (text === '') {
      if (childrenNamed(term, 'indexterm').length === 0)
        problems.push(
          problem('warning', 'index.empty', 'An index entry has no words.', source.origin),
        );
      return;
    }
    const [sortAs] = childrenNamed(term, 'index-sort-as');
    const draft = into.get(text) ?? {
      term: text,
      sortKey: sortAs ? wording(sortAs.children) : text,
      locators: [],
      see: [],
      seeAlso: [],
      entries: new Map<string, Draft>(),
    };
    into.set(text, draft);
    const inner = childrenNamed(term, 'indexterm');
    const sees = childrenNamed(term, 'index-see');
    const alsos = childrenNamed(term, 'index-see-also');
    for (const see of sees) if (!draft.see.includes(seeText(see))) draft.see.push(seeText(see));
    for (const also of alsos)
      if (!draft.seeAlso.includes(seeText(also))) draft.seeAlso.push(seeText(also));
    for (const sub of inner) add(sub, draft.entries, anchor, source);
    if (inner.length === 0 && sees.length === 0) {
      const locator: Draft['locators'][number] = source.when
        ? { anchor, when: source.when }
        : { anchor };
      draft.locators.push(locator);
      if (term.attributes['start'] !== undefined)
        open.set(term.attributes['start'], { locator, term: source, text });
    }
  };

  for (const { anchor, term } of terms) add(term, root, anchor, term);
  for (const { term, text } of open.values())
    problems.push(
      problem(
        'warning',
        'index.range-open',
        `The index range “${text}” begins and does not end.`,
        term.origin,
      ),
    );

  const collator = new Intl.Collator(locale, { usage: 'sort', numeric: true });
  const finish = (drafts: Map<string, Draft>): IndexEntry[] =>
    [...drafts.values()]
      .sort((a, b) => collator.compare(a.sortKey, b.sortKey))
      .map(({ term, locators, see, seeAlso, entries }) => ({
        term,
        locators: locators,
        see,
        seeAlso,
        entries: finish(entries),
      }));

  const groups: { letter: string; entries: IndexEntry[] }[] = [];
  const sorted = [...root.values()].sort((a, b) => collator.compare(a.sortKey, b.sortKey));
  for (const draft of sorted) {
    const letter = letterOf(draft.sortKey, locale);
    const [entry] = finish(new Map([[draft.term, draft]]));
    if (groups.at(-1)?.letter !== letter) groups.push({ letter, entries: [] });
    groups.at(-1)!.entries.push(entry!);
  }
  return { groups, problems };
}

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
