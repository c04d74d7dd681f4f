import { allPlaces, type Publication, type ResolvedElement } from '@ukiyo/core/compose';
import { isElement, type Node } from '@ukiyo/core/markup';
import { problem, type Problem } from '@ukiyo/core/problems';
import { hasSign } from './faces.ts';

/**
 * Signs of Latin alphabets, which every face has; marks and controls that show nothing of
 * themselves are not searched for.
 */
const plain = /[\u0009-\u00ff\p{White_Space}\p{Control}\p{Format}\p{Variation_Selector}]+/gu;

/**
 * Signs that none of the faces has: in print they would be empty boxes. Problems: `print.glyph`,
 * once for each sign in each topic, where it comes first.
 */
export function missingSigns({ places, glossary }: Publication): Problem[] {
  const found = new Map<string, Problem>();
  const look = (text: string, { origin }: ResolvedElement): void => {
    for (const sign of text.replace(plain, '')) {
      const code = sign.codePointAt(0)!;
      const key = `${origin.item} ${sign}`;
      if (found.has(key) || hasSign(code)) continue;
      found.set(
        key,
        problem(
          'warning',
          'print.glyph',
          `None of the faces has a sign for “${sign}” ` +
            `(U+${code.toString(16).toUpperCase().padStart(4, '0')}). An empty box would be ` +
            'printed.',
          {
            item: origin.item,
            path: origin.path,
          },
        ),
      );
    }
  };
  const walk = (nodes: readonly Node[], around: ResolvedElement): void => {
    for (const node of nodes) {
      if (typeof node === 'string') look(node, around);
      // Formulas have a face of their own.
      else if (isElement(node) && node.name !== 'mathml')
        walk(node.children, node as ResolvedElement);
    }
  };
  for (const content of [
    ...allPlaces(places).map((place) => place.content),
    ...glossary.map((entry) => entry.content),
  ])
    if (content) walk(content.children, content);
  return [...found.values()];
}
