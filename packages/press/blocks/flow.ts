import type { ResolvedElement } from '@ukiyo/core/compose';
import { isInline } from '@ukiyo/core/grammar';
import { isElement, type Element, type Node } from '@ukiyo/core/markup';

/** Content as a renderer walks it: runs of text with inline elements, and blocks between them. */
export type Flow =
  | { readonly kind: 'run'; readonly nodes: readonly Node[] }
  | { readonly kind: 'block'; readonly element: Element };

/** Images that stand on a line of their own, and media, are blocks wherever they are. */
function isBlock(node: Node): node is Element {
  if (!isElement(node)) return false;
  return (
    !isInline(node.name) ||
    (node.name === 'image' && node.attributes['placement'] === 'break') ||
    node.name === 'object'
  );
}

/**
 * Splits mixed content into runs and blocks, in order; runs of nothing but white space are left
 * out.
 */
export function flowOf(nodes: readonly Node[]): Flow[] {
  const flow: Flow[] = [];
  let run: Node[] = [];
  const end = (): void => {
    if (run.some((node) => typeof node !== 'string' || node.trim() !== ''))
      flow.push({ kind: 'run', nodes: run });
    run = [];
  };
  for (const node of nodes) {
    if (isBlock(node)) {
      end();
      flow.push({ kind: 'block', element: node });
    } else run.push(node);
  }
  end();
  return flow;
}

/** Words for those who get an element. */
export const phraseFor = (
  { when, origin }: ResolvedElement,
  children: readonly Node[],
): ResolvedElement => ({
  name: 'ph',
  attributes: {},
  children,
  origin,
  ...(when === undefined ? {} : { when }),
});
