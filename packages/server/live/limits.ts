import { fromEditor } from '@ukiyo/core/editing';
import { canonicalLength } from '@ukiyo/core/grammar';
import { readItem } from '@ukiyo/core/library';
import { walk, type Element } from '@ukiyo/core/markup';

/**
 * What is edited live is held as a document by the thread that answers. A topic of a manual has
 * some hundreds of elements; larger texts are edited in their XML view.
 */
export const liveLimits = { characters: 2_000_000, elements: 30_000 } as const;

export const tooLarge =
  'the topic would be too large to edit on the page (more than ' +
  `${liveLimits.characters.toLocaleString('en')} characters or ` +
  `${liveLimits.elements.toLocaleString('en')} elements). Split it into several topics`;

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

/**
 * Watches how large a document becomes, and measures what may have become too large: elements soon
 * when there are many, characters, which take longer to count, only when there may be many.
 */
export class Growth {
  /** What can be added before it has to be measured, in elements and in characters of steps. */
  #elements = 0;
  #characters = 0;

  /**
   * Whether a document that these steps have made is small enough.
   * @param sent characters of the steps as JSON, which has more of them than XML
   */
  admits(document: Parameters<typeof fromEditor>[0], sent: number): boolean {
    this.#elements -= sent / shortestElement;
    this.#characters -= sent;
    if (this.#elements >= 0 && this.#characters >= 0) return true;
    const root = fromEditor(document);
    if (this.#elements < 0) this.#elements = liveLimits.elements - elementsIn(root);
    if (this.#characters < 0) this.#characters = liveLimits.characters - canonicalLength(root);
    return this.#elements >= 0 && this.#characters >= 0;
  }
}
