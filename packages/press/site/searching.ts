import type { Place, ResolvedElement } from '@ukiyo/core/compose';
import type { When } from '@ukiyo/core/facets';
import { readableText } from '@ukiyo/core/library';
import { isElement, type Node } from '@ukiyo/core/markup';
import { searchFields, stemmer, searchWords, type SearchDocument } from '../shared/terms.ts';
import { printable } from '../shared/text.ts';
import type { SiteContext } from './context.ts';
import { formsOf, whenOfPlace, type Readers, type Said } from './readers.ts';

/** The search index of a site, as the script file that a page loads when its reader first searches. */
export function searchIndexScript({ publication, pages, readers, synonyms }: SiteContext): string {
  /** What stands without a heading is found under that of the place above. */
  const headed = (place: Place): Place => {
    const above = place.hasHeading ? undefined : pages.parentOf.get(place.anchor);
    return above ? headed(above) : place;
  };
  const stem = stemmer(publication.locale);
  const only: Record<string, SearchedBySome> = {};
  const documents = pages.shown
    .filter((place) => place.content)
    .map((place): SearchDocument => {
      const id = pages.href(place.anchor)!;
      const titled = headed(place);
      // Most sites are the same for every reader: their topics are walked once.
      if (publication.open.length === 0) return { id, title: printable(titled.label), lead: printable(place.shortDescription), text: printable(readableText(place.content!)) };
      const parts = formsOf(place).flatMap(({ form, when }) => (form.content ? partsOf(form.content, when) : []));
      const said = { t: readers.labelOf(titled), l: readers.leadOf(place) };
      const whose = readers.numbersOf(whenOfPlace(place));
      if (whose.length > 0 || parts.length > 1) only[id] = { ...said, w: whose, terms: termsOfSome(parts, (words) => searchWords(words, publication.locale).map(stem), readers) };
      return { id, title: printable(spaced(said.t)), lead: printable(spaced(said.l)), text: printable(parts.map(({ words }) => words).join(' ')) };
    });
  const forSome = Object.keys(only).length === 0 ? '' : `,"only":${JSON.stringify(only)}`;
  const same = synonyms.length === 0 ? '' : `,"synonyms":${JSON.stringify(synonyms)}`;
  return dataScript('search', `{"locale":${JSON.stringify(publication.locale)}${forSome}${same},"index":${searchIndex(documents, publication.locale)}}`);
}

/** All that anybody reads there; what is for some stands apart. */
const spaced = (said: Said): string => (typeof said === 'string' ? said : said.map((part) => (typeof part === 'string' ? part : ` ${part[0]} `)).join(''));

/** What is found by some readers only, in one document. */
export interface SearchedBySome {
  /** What it is called, and its short description. */
  readonly t: Said;
  readonly l: Said;
  /** Who finds it at all, as numbers of conditions. */
  readonly w: readonly number[];
  /** Terms that not all of those find, each with the several ways to be one who does. */
  readonly terms: Readonly<Record<string, readonly (readonly number[])[]>>;
}

/** Words with what decides on them. */
interface Part {
  readonly words: string;
  readonly when: readonly When[];
}

/** The words of an element, apart from those inside it that are for some readers only, which come after. */
function partsOf(element: ResolvedElement, around: readonly When[]): Part[] {
  const inner: Part[] = [];
  const plain = (one: ResolvedElement): ResolvedElement => {
    let isWhole = true;
    const children = one.children.flatMap((child): Node[] => {
      if (!isElement(child)) return [child];
      const { when } = child as ResolvedElement;
      if (when) inner.push(...partsOf(child as ResolvedElement, [...around, ...when]));
      const kept = when ? undefined : plain(child as ResolvedElement);
      isWhole &&= kept === child;
      return kept ? [kept] : [];
    });
    return isWhole ? one : { ...one, children };
  };
  const own = readableText(plain(element));
  return [{ words: own, when: around }, ...inner];
}

function termsOfSome(parts: readonly Part[], termsIn: (words: string) => readonly string[], readers: Readers): SearchedBySome['terms'] {
  const forAll = new Set(parts.filter(({ when }) => when.length === 0).flatMap(({ words }) => termsIn(words)));
  const terms: Record<string, (readonly number[])[]> = Object.create(null) as Record<string, (readonly number[])[]>;
  for (const { words, when } of parts) for (const term of new Set(when.length === 0 ? [] : termsIn(words))) if (!forAll.has(term)) (terms[term] ??= []).push(readers.numbersOf(when));
  return terms;
}

/** In which documents a term stands, ascending, and how often in each; by field. */
type Standing = { readonly documents: number[]; readonly counts: number[] }[];

/** One form of a word: where its stem stands, and the field in which the form was last seen. */
interface Form {
  readonly standing: Standing | undefined;
  seen: number;
}

/**
 * The index that MiniSearch writes as JSON when the documents are added to it one by one, made by plain counting in a fifth of the time:
 * its own building keeps a tree for searching, which here only the reader's browser needs.
 */
export function searchIndex(documents: readonly SearchDocument[], locale: string): string {
  const stem = stemmer(locale);
  const terms = new Map<string, Standing>();
  const forms = new Map<string, Form>();
  const makeForm = (word: string): Form => {
    const term = stem(word);
    const standing = term === '' ? undefined : (terms.get(term) ?? searchFields.map(() => ({ documents: [], counts: [] })));
    if (standing) terms.set(term, standing);
    return { standing, seen: -1 };
  };
  const sums = searchFields.map(() => 0);
  const lengths = documents.map((document, at) =>
    searchFields.map((field, fieldAt) => {
      const here = at * searchFields.length + fieldAt;
      let different = 0;
      for (const word of searchWords(document[field], locale)) {
        let form = forms.get(word);
        if (form === undefined) forms.set(word, (form = makeForm(word)));
        if (form.seen !== here) different += 1;
        form.seen = here;
        if (form.standing === undefined) continue;
        const inField = form.standing[fieldAt]!;
        const last = inField.documents.length - 1;
        if (inField.documents[last] === at) inField.counts[last]! += 1;
        else {
          inField.documents.push(at);
          inField.counts.push(1);
        }
      }
      sums[fieldAt]! += different;
      return different;
    }),
  );
  const head = {
    documentCount: documents.length,
    nextId: documents.length,
    documentIds: numbered(documents.map(({ id }) => id)),
    fieldIds: Object.fromEntries(searchFields.map((field, at) => [field, at])),
    fieldLength: numbered(lengths),
    averageFieldLength: sums.map((sum) => (documents.length === 0 ? 0 : sum / documents.length)),
    storedFields: numbered(documents.map(({ title, lead }) => ({ title, lead }))),
    dirtCount: 0,
    serializationVersion: 2,
  };
  return `${JSON.stringify(head).slice(0, -1)},"index":[${[...terms].map(([term, standing]) => `[${JSON.stringify(term)},${writeStanding(standing)}]`).join()}]}`;
}

/** An object with the keys 0, 1, 2 … */
const numbered = (values: readonly unknown[]): object => Object.assign({}, values);

const writeStanding = (standing: Standing): string =>
  `{${standing.flatMap(({ documents, counts }, field) => (documents.length === 0 ? [] : [`"${field}":{${documents.map((at, index) => `"${at}":${counts[index]!}`).join()}}`])).join()}}`;

/** A script that hands data, written as JSON, to the page; `<` never appears in it, so it cannot end the script early when it is put inline. */
export function dataScript(name: string, json: string): string {
  const safe = json.replace(/[<\u2028\u2029]/g, (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`);
  return `(window.siteData=window.siteData||{})[${JSON.stringify(name)}]=${safe};\n`;
}
