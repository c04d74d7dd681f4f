import { isElement, joinTexts, type Element, type Node } from '../markup/index.ts';

/** Manners of letters that a lens can give to what it marks (DITA 1.3, 3.10.3 `style`). */
export const letterLooks = [
  'bold',
  'italics',
  'underline',
  'double-underline',
  'overline',
  'line-through',
] as const;
export type LetterLook = (typeof letterLooks)[number];

/** How what a lens marks looks, on the page and in every output. */
export interface MarkLook {
  /** `#rrggbb`, of the words and behind them. */
  readonly color?: string;
  readonly background?: string;
  /** A line beside the text. */
  readonly bar?: boolean;
  readonly letters?: readonly LetterLook[];
  /** Words before and after. */
  readonly start?: string;
  readonly end?: string;
  /** Images before and after (`asset:ID`); the words are then their alternative texts. */
  readonly startImage?: string;
  readonly endImage?: string;
}

/**
 * The colours of what several rules mark in different ones (DITA 1.3, 3.10.6 `style-conflict`);
 * without them the first rule has its way.
 */
export type ClashLook = Pick<MarkLook, 'color' | 'background'>;

const decorations: Readonly<Partial<Record<LetterLook, string>>> = {
  underline: 'underline',
  'double-underline': 'underline double',
  overline: 'overline',
  'line-through': 'line-through',
};
/** Manners of letters as declarations of CSS, for pages and for the editor. */
export function letterDeclarations(letters: readonly LetterLook[] = []): string[] {
  const lines = letters.flatMap((one) => decorations[one] ?? []);
  return [
    ...(letters.includes('bold') ? ['font-weight:bold'] : []),
    ...(letters.includes('italics') ? ['font-style:italic'] : []),
    ...(lines.length === 0 ? [] : [`text-decoration:${lines.join(' ')}`]),
  ];
}

/** What is marked without saying how. */
const plainLook: MarkLook = { background: '#f6e7c3' };

/** Several looks on the same element: of each part the first that says it, or what clashes have. */
export function joinLooks(looks: readonly MarkLook[], clash: ClashLook = {}): MarkLook {
  const clashing = (['color', 'background'] as const).flatMap((part) => {
    const colours = new Set(looks.flatMap((look) => look[part] ?? []));
    return colours.size > 1 && clash[part] !== undefined ? [[part, clash[part]] as const] : [];
  });
  const joined = Object.assign({}, ...looks.toReversed(), Object.fromEntries(clashing)) as MarkLook;
  const isPlain = Object.values(joined).every((value) => value === undefined || value === false);
  return isPlain ? plainLook : joined;
}

const hasWords = (node: Node): boolean => typeof node === 'string' && node.trim() !== '';
/** Not part of what is read in place. */
const aside = new Set(['indexterm', 'fn', 'draft-comment', 'data', 'desc', 'alt', 'prolog']);

/**
 * Puts words where the first or the last line of an element is; the same element where it has no
 * line.
 */
function withWordsAt(element: Element, words: Node, side: 'start' | 'end'): Element {
  const { children } = element;
  if (children.some(hasWords))
    return {
      ...element,
      children: side === 'start' ? [words, ' ', ...children] : [...children, ' ', words],
    };
  const order = children.map((_child, index) => index);
  for (const index of side === 'start' ? order : order.toReversed()) {
    const child = children[index];
    if (!isElement(child) || aside.has(child.name)) continue;
    const changed = withWordsAt(child, words, side);
    if (changed !== child) return { ...element, children: children.with(index, changed) };
  }
  return element;
}

/**
 * The element with words or images before and after what it says (DITA 1.3, 3.10.4 `startflag` and
 * `endflag`).
 */
export function withFlags(
  element: Element,
  start: Node | undefined,
  end: Node | undefined,
): Element {
  const begun = start === undefined ? element : withWordsAt(element, start, 'start');
  const flagged = end === undefined ? begun : withWordsAt(begun, end, 'end');
  return flagged === element ? element : { ...flagged, children: joinTexts(flagged.children) };
}
