import { labelOf } from '../grammar/index.ts';
import { childNamed, isInstruction, textOf, walk, type Element } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { leadsOutside, webAddress } from './web-address.ts';

/**
 * The processing instruction that stands for words still to be written, as “part name” in “Fit the
 * ‹part name›”. Never published.
 */
export const placeholderTarget = 'placeholder';

/**
 * What the content model cannot say of a text.
 * @returns problems `image.no-alternative`, `placeholder.left` and `link.unreadable`, each with the
 * path of its element
 */
export function checkCompleteness(root: Element): Problem[] {
  const problems: Problem[] = [];
  walk(root, (found, path) => {
    const { attributes } = found;
    if (
      found.name === 'image' &&
      attributes['alt'] === undefined &&
      attributes['conref'] === undefined &&
      attributes['conkeyref'] === undefined
    ) {
      const alt = childNamed(found, 'alt');
      // Empty on purpose is said with an empty attribute: the image then only decorates (HTML,
      // 4.8.4.4).
      if (!alt || textOf(alt).trim() === '')
        problems.push(
          problem(
            'warning',
            'image.no-alternative',
            'This image says nothing to those who do not see it: it has no alternative text.',
            { path: [...path] },
          ),
        );
    }
    const { href } = attributes;
    if (href !== undefined && leadsOutside(href) && webAddress(href) === undefined)
      problems.push(
        problem(
          'error',
          'link.unreadable',
          `“${href}” is not a valid URL. Correct the address of the link.`,
          { path: [...path], attribute: 'href' },
        ),
      );
    for (const child of found.children)
      if (typeof child === 'object' && isInstruction(child) && child.target === placeholderTarget)
        problems.push(
          problem(
            'warning',
            'placeholder.left',
            `“${child.body}” in “${labelOf(found.name)}” is still to be written.`,
            { path: [...path] },
          ),
        );
  });
  return problems;
}
