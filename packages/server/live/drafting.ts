import { documentFrom, fromEditor, special, stepTo, toEditor } from '@ukiyo/core/editing';
import { writeCanonical } from '@ukiyo/core/grammar';
import { titleOf } from '@ukiyo/core/library';
import { editableRoot } from './limits.ts';

/** What a document says as a topic. */
interface Draft {
  readonly text: string;
  readonly title: string;
}

/**
 * What is done with the whole document of a topic. Documents are taken and given as JSON, which
 * goes to another thread and into the database as it is.
 */
export interface Drafting {
  /** The document that a text begins as; undefined where it cannot be edited on the page. */
  begin(text: string): Promise<string | undefined>;
  draft(document: string): Promise<Draft>;
  /**
   * The step that leads from a document to a text, as JSON; no step where it says that already.
   * Undefined where the text cannot be edited on the page.
   */
  difference(
    document: string,
    text: string,
  ): Promise<{ readonly step: string | undefined } | undefined>;
}

type Works = {
  readonly [Name in keyof Drafting]: (
    ...given: Parameters<Drafting[Name]>
  ) => Awaited<ReturnType<Drafting[Name]>>;
};
const read = (document: string): NonNullable<ReturnType<typeof documentFrom>> => {
  const found = documentFrom(JSON.parse(document));
  if (!found) throw new Error('A document that was kept is none');
  return found;
};

export const draftingWorks: Works = {
  begin(text) {
    const root = editableRoot('', text);
    const document = root && toEditor(root);
    return document?.firstChild && document.firstChild.type.name !== special.rawBlock
      ? JSON.stringify(document.toJSON())
      : undefined;
  },
  draft(document) {
    const root = fromEditor(read(document));
    return { text: writeCanonical(root), title: titleOf(root) };
  },
  difference(document, text) {
    const root = editableRoot('', text);
    if (!root) return undefined;
    const step = stepTo(read(document), root);
    return { step: step && JSON.stringify(step.toJSON()) };
  },
};

/** In the thread that asks. */
export const directDrafting: Drafting = {
  begin: (text) => Promise.resolve(draftingWorks.begin(text)),
  draft: (document) => Promise.resolve(draftingWorks.draft(document)),
  difference: (document, text) => Promise.resolve(draftingWorks.difference(document, text)),
};
