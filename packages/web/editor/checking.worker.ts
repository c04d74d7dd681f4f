import { applySteps, documentFrom, fromEditor } from '@ukiyo/core/editing';
import type { Facet } from '@ukiyo/core/facets';
import { checkItem, checkReferences, countWords } from '@ukiyo/core/library';
import type { Problem } from '@ukiyo/core/problems';
import type { HouseRule } from '@ukiyo/core/rules';
import { expose } from 'comlink';

/** What is to be said of a topic while it is written. */
export interface Report {
  readonly problems: readonly Problem[];
  readonly words: number;
  /** IDs of the items and files that the topic refers to. */
  readonly references: readonly string[];
}

/** What the topic is checked against. */
export interface CheckingContext {
  /** Its own id. */
  readonly self: string;
  readonly facets: readonly Facet[];
  readonly rules: readonly HouseRule[];
}

let document: ReturnType<typeof documentFrom>;
let known: CheckingContext = { self: '', facets: [], rules: [] };

/** Keeps a mirror of the page's document and checks it, away from the page. */
const checker = {
  open(json: unknown, about: CheckingContext): void {
    document = documentFrom(json);
    known = about;
  },
  /**
   * @param steps what has changed on the page since
   * @param missing IDs that the library has nothing for
   * @returns undefined when the mirror has lost step: it has to be opened again
   */
  check(steps: readonly unknown[], missing: readonly string[]): Report | undefined {
    const applied = document && applySteps(document, steps);
    if (!applied || !('document' in applied)) return undefined;
    document = applied.document;
    const root = fromEditor(document);
    const references = new Set<string>();
    const has = (id: string): boolean => {
      references.add(id);
      return !missing.includes(id);
    };
    return {
      problems: [...checkItem(root, known), ...checkReferences(root, known.self, has)],
      words: countWords(root),
      references: [...references],
    };
  },
};
export type Checker = typeof checker;
expose(checker);
