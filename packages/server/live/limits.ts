import { fromEditor } from '@ukiyo/core/editing';
import { readItem } from '@ukiyo/core/library';
import { walk, type Element } from '@ukiyo/core/markup';

/**
 * What is edited live is held as a document by the thread that answers. A topic of a manual has some
 * hundreds of elements; larger texts are edited in their XML view.
 */
export const liveLimits = { characters: 2_000_000, elements: 30_000 } as const;

export const tooLarge = `the topic would be too large to edit on the page (more than ${liveLimits.characters.toLocaleString('en')} characters or ${liveLimits.elements.toLocaleString('en')} elements). Split it into several topics`;

/** Elements, and characters of an XML text that is about as long as the one that is stored. */
function sizeOf(root: Element): { elements: number; characters: number } {
  const size = { elements: 0, characters: 0 };
  walk(root, ({ name, attributes, children }) => {
    size.elements += 1;
    size.characters += 2 * name.length + '<></>'.length;
    for (const [key, value] of Object.entries(attributes))
      size.characters += key.length + value.length + ' =""'.length;
    for (const child of children) if (typeof child === 'string') size.characters += child.length;
  });
  return size;
}

/**
 * The tree of a topic that can be edited live; undefined where it cannot be read or is too large.
 */
export function editableRoot(id: string, text: string): Element | undefined {
  if (text.length > liveLimits.characters) return undefined;
  const { root } = readItem(id, 'topic', text);
  return root && sizeOf(root).elements <= liveLimits.elements ? root : undefined;
}

/** The shortest that an element can be in a step: `{"type":"p"}`. */
const shortestElement = 12;
/**
 * Near the limit so much is taken before it is measured again, in characters of steps: measuring a
 * document takes some milliseconds, and must not come with each key.
 */
const slack = 4000;

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
    const size = sizeOf(fromEditor(document));
    const left = Math.min(
      liveLimits.characters - size.characters,
      (liveLimits.elements - size.elements) * shortestElement,
    );
    this.#room = Math.max(left, slack);
    return left >= 0;
  }
}
