import { documentFrom, fromEditor, special, stepTo, toEditor } from '@ukiyo/core/editing';
import { writeCanonical } from '@ukiyo/core/grammar';
import { titleOf } from '@ukiyo/core/library';
import { editableRoot } from './limits.ts';

type Eventually<Value> = Value | Promise<Value>;

/** What a document says as a topic. */
export interface Draft {
  readonly text: string;
  readonly title: string;
}
/** The step that leads from a document to a text, as JSON; none where it says that already. */
export interface Difference {
  readonly step: string | undefined;
}

/**
 * What is done with the whole document of a topic. Documents are taken and given as JSON, which
 * goes to another thread and into the database as it is.
 */
export interface Drafting {
  /** The document that a text begins as; undefined where it cannot be edited on the page. */
  begin(text: string): Eventually<string | undefined>;
  draft(document: string): Eventually<Draft>;
  /** Undefined where the text cannot be edited on the page. */
  difference(document: string, text: string): Eventually<Difference | undefined>;
}

function read(document: string): NonNullable<ReturnType<typeof documentFrom>> {
  const found = documentFrom(JSON.parse(document));
  if (!found) throw new Error('A stored document cannot be read');
  return found;
}

/** In the thread that asks. */
export const drafting = {
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
} satisfies Drafting;
