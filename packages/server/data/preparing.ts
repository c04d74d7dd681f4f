import { writeCanonical } from '@ukiyo/core/grammar';
import { derive, type Agreed, type Derived } from '@ukiyo/core/library';
import { limits, readXml } from '@ukiyo/core/markup';

/** A text as it was submitted, and what it is checked against. */
export interface SubmittedText {
  readonly id: string;
  readonly kind: 'topic' | 'map';
  readonly source: string;
  readonly agreed: Agreed;
}
/** The text as it is stored, and what is stored with it. */
export interface PreparedText {
  readonly text: string;
  readonly derived: Derived;
}
export type PrepareText = (submitted: SubmittedText) => PreparedText | Promise<PreparedText>;

/**
 * The stored text and what is derived from it. Text that cannot be read is stored as it is, with
 * that as its problem.
 */
export function prepareText({ id, kind, source, agreed }: SubmittedText): PreparedText {
  const { document } = readXml(source);
  if (document) {
    const canonical = writeCanonical(document.root);
    // What was written must be read again, and the canonical form can be the longer one.
    const text = canonical.length > limits.size ? source : canonical;
    return { text, derived: derive(document.root, id, agreed) };
  }
  return {
    text: source,
    derived: {
      type: kind,
      title: id,
      shortDescription: '',
      text: '',
      wordCount: 0,
      facetValues: [],
      conditions: {},
      facts: {},
      alternateOf: undefined,
      uses: [],
      problems: { error: 1, warning: 0, info: 0 },
    },
  };
}
