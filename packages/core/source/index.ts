/**
 * A topic as the XML text that is stored.
 * In: text as a person writes it; out: the tree, and everything that is wrong with it by line and
 * column.
 */
import { normalise } from '../grammar/index.ts';
import { checkItem, type Agreed } from '../library/index.ts';
import { isElement, nodeAt, readXml, type Element } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';

export interface ReadSource {
  /** Absent where the text is not a topic; the problems say why. */
  readonly root?: Element;
  readonly problems: readonly Problem[];
}

/**
 * Reads the text of one topic that is being written.
 * @param before the topic it was: kind and id belong to the library and are not changed here
 * @returns problems of the reader, `source.not-this-topic`, and those of `checkItem`; each with
 * line and column
 */
export function readSource(text: string, before: Element, agreed: Agreed): ReadSource {
  const { document, problems } = readXml(text, { positions: true });
  if (!document) return { problems };
  const { root, positions } = document;
  const at = (path: readonly number[]): { line: number; column: number } => {
    const found = nodeAt(root, path);
    return (isElement(found) ? positions?.get(found) : undefined) ?? { line: 1, column: 1 };
  };
  if (root.name !== before.name || root.attributes['id'] !== before.attributes['id'])
    return {
      problems: [
        problem(
          'error',
          'source.not-this-topic',
          `The outermost element stays “${before.name}” with the id ` +
            `“${before.attributes['id'] ?? ''}”.`,
          { path: [], ...at([]) },
        ),
      ],
    };
  return {
    root: normalise(root),
    problems: checkItem(root, agreed).map((found) => ({
      ...found,
      where: { ...found.where, ...at(found.where.path ?? []) },
    })),
  };
}
