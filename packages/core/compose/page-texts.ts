import { diffWordsWithSpace } from 'diff';
import { wordsOf } from '../language/index.ts';
import { readableText } from '../library/index.ts';
import { leaves } from './changes.ts';
import { allPlaces, type Publication } from './publication.ts';

/** What stands at one place of a publication: its title and its words, block by block. */
export interface PageText {
  readonly anchor: string;
  readonly title: string;
  readonly blocks: readonly string[];
}

/** Of every place with a topic, in reading order. */
export function pageTexts(publication: Publication): PageText[] {
  return allPlaces(publication.places).flatMap(({ anchor, label, content }) =>
    content
      ? [
          {
            anchor,
            title: label,
            blocks: leaves(content)
              .map(readableText)
              .filter((words) => words !== ''),
          },
        ]
      : [],
  );
}

export const wordsIn = (pages: readonly PageText[], locale: string): number =>
  pages.reduce(
    (sum, { blocks }) =>
      sum + blocks.reduce((inner, words) => inner + wordsOf(words, locale).length, 0),
    0,
  );

/** What is otherwise on one page. */
export interface PageChange {
  readonly anchor: string;
  readonly title: string;
  readonly how: 'added' | 'removed' | 'changed';
  readonly parts: { kind: 'same' | 'gone' | 'new'; text: string }[];
}

/** So much of what is the same is told before and after what is not. */
const context = 80;
function near(text: string, isFirst: boolean, isLast: boolean): string {
  if (text.length <= 2 * context) return text;
  const end = isLast ? '' : text.slice(-context);
  const start = isFirst ? '' : text.slice(0, context);
  return `${start} … ${end}`;
}

const textOf = ({ blocks }: PageText): string => blocks.join('\n');

/**
 * What came, what went and what was changed from one publication to another, page by page in the
 * order of the later one; what went comes last.
 */
export function comparePages(
  earlier: readonly PageText[],
  later: readonly PageText[],
): PageChange[] {
  const before = new Map(earlier.map((page) => [page.anchor, page]));
  const after = new Set(later.map(({ anchor }) => anchor));
  const changes = later.flatMap((page): PageChange[] => {
    const { anchor, title } = page;
    const old = before.get(anchor);
    if (!old)
      return [{ anchor, title, how: 'added', parts: [{ kind: 'new', text: textOf(page) }] }];
    if (textOf(old) === textOf(page)) return [];
    const parts = diffWordsWithSpace(textOf(old), textOf(page));
    return [
      {
        anchor,
        title,
        how: 'changed',
        parts: parts.map(({ value, added, removed }, at) =>
          added
            ? { kind: 'new', text: value }
            : removed
              ? { kind: 'gone', text: value }
              : { kind: 'same', text: near(value, at === 0, at === parts.length - 1) },
        ),
      },
    ];
  });
  const gone = earlier
    .filter(({ anchor }) => !after.has(anchor))
    .map((page): PageChange => ({
      anchor: page.anchor,
      title: page.title,
      how: 'removed',
      parts: [{ kind: 'gone', text: textOf(page) }],
    }));
  return [...changes, ...gone];
}
