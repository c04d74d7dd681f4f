import type { ResolvedElement, ResolvedLink } from '@ukiyo/core/compose';
import { isA } from '@ukiyo/core/grammar';
import { isElement, type Node } from '@ukiyo/core/markup';

/**
 * Footnotes that have their marks where links lead to them, by their anchors; where such a footnote
 * stands itself, nothing is shown (DITA 1.3, 3.2.2.8, `fn` with an `id`).
 * @param nodes content in which links and footnotes stand
 * @param linkOf what a link leads to
 */
export function calledNotes(
  nodes: readonly Node[],
  linkOf: (key: string) => ResolvedLink | undefined,
): ReadonlyMap<string, ResolvedElement> {
  const notes = new Map<string, ResolvedElement>();
  const keys: string[] = [];
  const gather = (within: readonly Node[]): void => {
    for (const node of within) {
      if (!isElement(node)) continue;
      const { anchor, link } = node as ResolvedElement;
      if (anchor !== undefined && isA(node.name, 'fn')) notes.set(anchor, node as ResolvedElement);
      else if (link !== undefined) keys.push(link);
      gather(node.children);
    }
  };
  gather(nodes);
  if (notes.size === 0) return notes;
  const called = new Set(
    keys.flatMap((key) => {
      const link = linkOf(key);
      return link?.kind === 'target' ? [link.anchor] : [];
    }),
  );
  return new Map([...notes].filter(([anchor]) => called.has(anchor)));
}
