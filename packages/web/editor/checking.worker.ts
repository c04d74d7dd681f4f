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
}

/** What the topic is checked against. */
export interface Known {
  /** Its own id. */
  readonly self: string;
  readonly facets: readonly Facet[];
  readonly rules: readonly HouseRule[];
  /** Of everything that the library has. */
  readonly ids: readonly string[];
}

let document: ReturnType<typeof documentFrom>;
let known: Known = { self: '', facets: [], rules: [], ids: [] };
let ids: ReadonlySet<string> = new Set();

/** Keeps a mirror of the page's document and checks it, away from the page. */
const checker = {
  open(json: unknown, about: Known): void {
    document = documentFrom(json);
    known = about;
    ids = new Set(about.ids);
  },
  /** Undefined when the mirror has lost step: it has to be opened again. */
  check(steps: readonly unknown[]): Report | undefined {
    const applied = document && applySteps(document, steps);
    if (!applied || !('document' in applied)) return undefined;
    document = applied.document;
    const root = fromEditor(document);
    return {
      problems: [
        ...checkItem(root, known),
        ...checkReferences(root, known.self, (id) => ids.has(id)),
      ],
      words: countWords(root),
    };
  },
};
export type Checker = typeof checker;
expose(checker);
