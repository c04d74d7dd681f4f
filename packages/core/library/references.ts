import { isElement, nodeAt, type Element } from '../markup/index.ts';
import { problem, withFix, type Fix, type Path, type Problem } from '../problems/index.ts';
import { linksOf } from './derive.ts';
import { elementById } from './ids.ts';

/** Elements that are nothing but a way to their target. */
const linking = ['xref', 'link'];
const worded = ['term', 'cite', 'ph', 'keyword'];

/** A link that leads nowhere gives way to its words; other words lose only the reference. */
function fixFor(root: Element, path: Path, attribute: string): Fix | undefined {
  const found = nodeAt(root, path);
  if (!isElement(found) || attribute !== 'href') return undefined;
  const { name } = found;
  if (worded.includes(name))
    return {
      label: 'Keep the words without the reference',
      edit: { kind: 'attribute', path, element: name, name: attribute },
    };
  if (!linking.includes(name)) return undefined;
  const hasWords =
    name === 'xref' &&
    found.children.some(
      (child) => typeof child === 'string' || (isElement(child) && child.name !== 'desc'),
    );
  return hasWords
    ? { label: 'Keep the words without the link', edit: { kind: 'unwrap', path, element: name } }
    : { label: 'Take the link out', edit: { kind: 'remove', path, element: name } };
}

/**
 * References of one text that lead nowhere.
 * @param self the id of the text, for references within it
 * @param has whether the library has an item or a file of that id
 * @returns problems with fixes where there is one: `reference.missing`, `reference.missing-part`
 * and `reference.unknown`
 */
export function checkReferences(
  root: Element,
  self: string,
  has: (id: string) => boolean,
): Problem[] {
  return linksOf(root, self).flatMap(({ path, attribute, target }) => {
    const where = { path, attribute };
    const fix = fixFor(root, path, attribute);
    if (target.kind === 'unknown')
      return [
        withFix(
          problem(
            'error',
            'reference.unknown',
            `“${target.href}” is no place in the library and no address of the web.`,
            where,
          ),
          fix,
        ),
      ];
    // A lens that is not there is told when the map is composed.
    if (target.kind === 'external' || target.kind === 'lens') return [];
    if (target.kind === 'item' && target.id === self)
      return elementById(root, target.element)
        ? []
        : [
            withFix(
              problem(
                'error',
                'reference.missing-part',
                `There is no part “${target.element ?? ''}” in this topic.`,
                where,
              ),
              fix,
            ),
          ];
    return has(target.id)
      ? []
      : [
          withFix(
            problem('error', 'reference.missing', `“${target.id}” is not in the library.`, where),
            fix,
          ),
        ];
  });
}
