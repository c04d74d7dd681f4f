import {
  innermostValues,
  type OpenFacet,
  type OpenValue,
  type ValuesByFacet,
} from '@ukiyo/core/facets';
import {
  childElements,
  childNamed,
  isElement,
  readXml,
  walk,
  type Element,
  type Node,
} from '@ukiyo/core/markup';

type Files = ReadonlyMap<string, string>;

export const siteTexts = (
  files: Iterable<readonly [string, string | Uint8Array]>,
): Map<string, string> =>
  new Map(
    [...files].flatMap(([path, content]) =>
      typeof content === 'string' ? [[path, content] as const] : [],
    ),
  );
export const pagesOf = (files: Files): [string, string][] =>
  [...files].filter(([path]) => path.endsWith('.html'));
/** What a script of a site leaves for the others. */
export const dataOf = (script: string): unknown =>
  JSON.parse(/=(\{.*\}|\[.*\]);\n$/su.exec(script)![1]!);

/**
 * Our own pages are as strict as XML, but for elements without an end and attributes without a
 * value.
 */
export const siteBody = (page: string): Element =>
  readXml(
    /<body.*<\/body>/su
      .exec(page)![0]
      .replace(/<(img|br|input|hr|area|source|col)\b([^>]*)>/gu, '<$1$2/>')
      .replace(/(<[^<>]*) (hidden|controls)(?=[ />])/gu, '$1 $2=""'),
  ).document!.root;
const classesOf = ({ attributes }: Element): string[] => (attributes['class'] ?? '').split(' ');
const isSeenOf = ({ name, attributes }: Element): boolean =>
  ['article', 'h1'].includes(name) ||
  ['home', 'all-contents', 'inside', 'related'].includes(attributes['class'] ?? '');

/**
 * What a reader sees of a page, in words and images: what his style sheet hides, and the numbers
 * that his browser counts.
 */
export function seenBy(
  body: Element,
  holds: readonly boolean[] = [],
  numbers: ReadonlyMap<string, string> = new Map(),
): string {
  const isHidden = (one: Element): boolean =>
    classesOf(one).some((name) => /^w\d+$/u.test(name) && holds[Number(name.slice(1))] === false);
  /** A list of links of which none is for them goes with its heading. */
  const isEmptyList = (one: Element): boolean =>
    ['inside', 'related'].includes(one.attributes['class'] ?? '') &&
    childElements(childNamed(one, 'ul')!).every(isHidden);
  const words = (node: Node): string => {
    if (!isElement(node)) return typeof node === 'string' ? node : '';
    if (isHidden(node) || isEmptyList(node)) return '';
    const number = numbers.get(node.attributes['data-n'] ?? '');
    if (number !== undefined) return number;
    const image = node.name === 'img' ? ` [${node.attributes['src']}] ` : '';
    return `${image}${node.children.map(words).join('')}`;
  };
  const parts: string[] = [];
  walk(body, (one) => void (isSeenOf(one) && parts.push(words(one))));
  return parts.join(' ').replace(/\s+/gu, ' ').trim();
}

const offered = (values: readonly OpenValue[]): OpenValue[] =>
  values.flatMap((value) => [value, ...offered(value.values)]);
/** Every choice that readers can make: of each facet all, or one value at any depth. */
export const combinationsOf = (open: readonly OpenFacet[]): ValuesByFacet[] =>
  open.reduce<ValuesByFacet[]>(
    (made, facet) =>
      made.flatMap((one) =>
        [innermostValues(facet), ...offered(facet.values).map(({ innermost }) => innermost)].map(
          (values) => ({ ...one, [facet.name]: values }),
        ),
      ),
    [{}],
  );
/** A choice, to be said in the name of a test. */
export const elementName = (chosen: ValuesByFacet): string =>
  Object.values(chosen)
    .map((values) => values.join('+'))
    .join(', ');
