import { dirname, join } from 'node:path/posix';
import { readMarkdown, type ReadMarkdown } from '@ukiyo/core/markdown';
import { element, isElement, textOf, type Element, type Node } from '@ukiyo/core/markup';
import { problem, type Problem } from '@ukiyo/core/problems';

/**
 * Lines of settings before the text, as many tools write them: their place stays, so that lines are
 * counted right.
 */
const withoutSettings = (text: string): string =>
  text.replace(/^---\r?\n[\s\S]*?\r?\n---[ \t]*(?=\r?\n|$)/u, (settings) =>
    settings.replace(/[^\n]/gu, ''),
  );

const isOwnAddress = (href: string): boolean => /^(topic|map|asset):/u.test(href);
const hasScheme = (href: string): boolean => /^([a-z][a-z\d+.-]*:|\/\/)/iu.test(href);

/** Where a link from one file of a folder to another leads. */
function pathFrom(path: string, href: string): string {
  const [way = ''] = href.split(/[#?]/u);
  try {
    return join(dirname(path), decodeURIComponent(way));
  } catch {
    return join(dirname(path), way);
  }
}

/**
 * A Markdown file from outside as a topic, with its links as they are written.
 * @returns problems `markdown.no-place` with their line: then there is no topic
 */
export const readOutside = (text: string, id: string): ReadMarkdown =>
  readMarkdown(withoutSettings(text), element('topic', { id }), 'elsewhere');

/**
 * The topic with its links to other files of its folder turned into links to their topics.
 * @param itemAt the topic that a file of the folder is, by its path
 * @returns problems `source.link` and `source.image` for what is left out of it
 */
export function withTopicLinks(
  path: string,
  root: Element,
  itemAt: (path: string) => string | undefined,
): { readonly root: Element; readonly problems: readonly Problem[] } {
  const left: Problem[] = [];
  const settled = (nodes: readonly Node[]): Node[] =>
    nodes.flatMap((node) => (isElement(node) ? settle(node) : [node]));
  function settle(node: Element): Node[] {
    const { href = '' } = node.attributes;
    const whole = { ...node, children: settled(node.children) };
    if (node.name === 'image' && !isOwnAddress(href)) {
      left.push(
        problem(
          'warning',
          'source.image',
          `The image “${href}” is not taken along; its words are.`,
        ),
      );
      const words = textOf(node);
      return words === ''
        ? []
        : [node.attributes['placement'] === 'break' ? element('p', {}, [words]) : words];
    }
    if (node.name !== 'xref' || isOwnAddress(href) || node.attributes['scope'] === 'external')
      return [whole];
    const item = hasScheme(href) ? undefined : itemAt(pathFrom(path, href));
    if (item !== undefined) return [{ ...whole, attributes: { href: `topic:${item}` } }];
    if (!href.startsWith('#'))
      left.push(
        problem(
          'warning',
          'source.link',
          `The link to “${href}” leads to no topic of the folder: only its words are there.`,
        ),
      );
    return whole.children;
  }
  return { root: { ...root, children: settled(root.children) }, problems: left };
}
