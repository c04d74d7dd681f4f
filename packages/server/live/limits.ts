import { fromEditor } from '@ukiyo/core/editing';
import { writeCanonical } from '@ukiyo/core/grammar';
import { readItem } from '@ukiyo/core/library';
import { walk, type Element } from '@ukiyo/core/markup';

/**
 * What is edited live is held as a document by the thread that answers, and written every few
 * seconds: a topic of 10,000 blocks takes it a quarter of a second. A topic of a manual has some
 * hundreds of elements; larger texts are edited in their XML view.
 */
export const liveLimits = { characters: 2_000_000, elements: 30_000 } as const;

export const tooLarge = `the topic would be too large to edit on the page (more than ${liveLimits.characters.toLocaleString('en')} characters or ${liveLimits.elements.toLocaleString('en')} elements). Split it into several topics`;

function elementsIn(root: Element): number {
  let count = 0;
  walk(root, () => void (count += 1));
  return count;
}

/**
 * The tree of a topic that can be edited live; undefined where it cannot be read or is too large.
 */
export function editableRoot(id: string, text: string): Element | undefined {
  if (text.length > liveLimits.characters) return undefined;
  const { root } = readItem(id, 'topic', text);
  return root && elementsIn(root) <= liveLimits.elements ? root : undefined;
}

/** The shortest that an element can be in a step: `{"type":"p"}`. */
const shortestElement = 12;

/** Watches how large a document becomes, and measures it only when it may have become too large. */
export class Growth {
  /** So much can be added, in characters of steps, before it has to be measured. */
  #room = 0;

  /**
   * Whether a document that these steps have made is small enough.
   * @param sent characters of the steps as JSON, which has more of them than XML
   */
  admits(document: Parameters<typeof fromEditor>[0], sent: number): boolean {
    this.#room -= sent;
    if (this.#room >= 0) return true;
    const root = fromEditor(document);
    const characters = liveLimits.characters - writeCanonical(root).length;
    const elements = liveLimits.elements - elementsIn(root);
    this.#room = Math.min(characters, elements * shortestElement);
    return this.#room >= 0;
  }
}
