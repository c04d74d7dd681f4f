import type { Place, Publication } from '@ukiyo/core/compose';
import { readableText } from '@ukiyo/core/library';
import { searchFields, stemmer, searchWords, type SearchDocument } from '../shared/terms.ts';
import { printable } from '../shared/text.ts';
import type { Pages } from './pages.ts';

/** The search index of a site, as the script file that a page loads when its reader first searches. */
export function searchIndexScript(publication: Publication, pages: Pages): string {
  /** What stands without a heading is found under that of the place above. */
  const headed = (place: Place): Place => {
    const above = place.hasHeading ? undefined : pages.parentOf.get(place.anchor);
    return above ? headed(above) : place;
  };
  const documents = pages.shown
    .filter((place) => place.content)
    .map((place) => ({ id: pages.href(place.anchor)!, title: printable(headed(place).label), lead: printable(place.shortDescription), text: printable(readableText(place.content!)) }));
  return dataScript('search', `{"locale":${JSON.stringify(publication.locale)},"index":${searchIndex(documents, publication.locale)}}`);
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
