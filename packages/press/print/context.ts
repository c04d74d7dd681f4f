import type { Publication, ResolvedElement } from '@ukiyo/core/compose';
import type { Element, Node } from '@ukiyo/core/markup';
import type { Problem } from '@ukiyo/core/problems';
import { writtenNumber, type StyleSheet } from '@ukiyo/core/styles';
import { wordsFor, type Words } from '@ukiyo/core/words';
import type { Block as SourceBlock, Normalizing } from '../blocks/index.ts';
import { appliedStyles, type AppliedStyles } from '../shared/index.ts';
import type { PrintBlock, Inline, Marking, TableNote } from './document.ts';

export interface PrintAssets {
  /** Path of the image in the engine's workspace; undefined when it cannot be shown. */
  path(id: string): string | undefined;
  /** The text of a file of code; undefined where it has none. */
  text(id: string): string | undefined;
  /** Path of an image that says an address to a telephone. */
  code(address: string): string;
  /** Of the image, in its own units. */
  size(id: string): { readonly width: number; readonly height: number } | undefined;
}

/** What all makers of a document share while they walk a publication. */
export interface Context {
  readonly publication: Publication;
  readonly assets: PrintAssets;
  readonly sheet: StyleSheet;
  readonly words: Words;
  readonly styles: AppliedStyles;
  readonly normalizing: Normalizing;
  readonly problems: Problem[];
  /** What can be led to so far, and what leads. */
  readonly emitted: Set<string>;
  readonly references: { to: string }[];
  /** Where links to this element come to; once only. */
  at(element: Element): string[];
  /** The same before a block, with the trace of the topic that is traced. */
  marksOf(element: Element): PrintBlock[];
  /** What leads to an element, at the beginning of its line. */
  anchorsOf(element: Element): Inline[];
  markingOf(element: Element): Marking | undefined;
  /** Whether a bar stands beside the element, and whether there are any so far. */
  isBarred(element: Element): boolean;
  hasBars(): boolean;
  /**
   * Makes something in which footnotes are gathered, with letters, instead of standing at the foot
   * of the page.
   */
  notesIn<Made>(make: () => Made): { readonly made: Made; readonly notes: readonly TableNote[] };
  /** Takes a footnote in where they are gathered; its letter there. */
  gather(note: GatheredNote): string | undefined;
  /** Blocks as the lens of the publication marks their element. */
  marked(element: Element, c: PrintBlock[]): PrintBlock[];
}

/**
 * Deeper than this the page engine’s bound on nested rules would end the whole manual; such content
 * is set without further nesting.
 */
const deepest = 12;

/** A sign in the margin, in a line or between blocks. */
interface Sign {
  readonly inline: Inline;
  readonly block: PrintBlock;
}
const barEnds: Sign = { inline: { t: 'bar' }, block: { t: 'bar', on: false } };
const isGone: Sign = { inline: { t: 'gone' }, block: { t: 'gone' } };

/**
 * Blocks with a sign where their last line ends: after it, it would go on to the next page with
 * what follows. A table or an image has no line: there it comes after.
 */
function ended(blocks: readonly PrintBlock[], sign: Sign): PrintBlock[] {
  const last = blocks.at(-1);
  const rest = blocks.slice(0, -1);
  switch (last?.t) {
    case 'p':
    case 'lead':
    case 'label':
    case 'h':
    case 'code':
    case 'lines':
      return [...rest, { ...last, c: [...last.c, sign.inline] }];
    case 'note':
    case 'quote':
    case 'group':
    case 'mark':
      return last.c.length === 0
        ? [...blocks, sign.block]
        : [...rest, { ...last, c: ended(last.c, sign) }];
    case 'ul':
    case 'ol':
    case 'steps':
    case 'sl':
      return [
        ...rest,
        {
          ...last,
          items: last.items.map((item, at) =>
            at === last.items.length - 1 ? ended(item, sign) : item,
          ),
        },
      ];
    default:
      return [...blocks, sign.block];
  }
}

/** A footnote that is to stand where those of its part are gathered. */
export interface GatheredNote {
  /** Made only where it is needed. */
  c(): PrintBlock[];
  /** Where it may be referred to again. */
  readonly id?: string;
  /** In place of a letter. */
  readonly sign?: string;
}

/** What makes the parts of a document, and what they share. */
export interface Typesetting extends Context {
  inlines(nodes: readonly Node[]): Inline[];
  linked(element: ResolvedElement): Inline[];
  blocks(blocks: readonly SourceBlock[]): PrintBlock[];
}

const isBarred = (element: Element): boolean => (element as ResolvedElement).marked?.bar === true;

function markingOf(element: Element): Marking | undefined {
  const { color, background, letters } = (element as ResolvedElement).marked ?? {};
  return color === undefined && background === undefined && letters === undefined
    ? undefined
    : {
        ...(color === undefined ? {} : { fg: color }),
        ...(background === undefined ? {} : { bg: background }),
        ...(letters === undefined ? {} : { ls: letters }),
      };
}

/** Blocks as the lens marks their element; `noteBars` is called where a bar or a sign stands. */
function markedBlocks(element: Element, c: PrintBlock[], noteBars: () => void): PrintBlock[] {
  const marking = markingOf(element);
  const shown: PrintBlock[] = marking && c.length > 0 ? [{ t: 'mark', c, ...marking }] : c;
  const { gone } = element as ResolvedElement;
  if ((!isBarred(element) && gone === undefined) || shown.length === 0) return shown;
  noteBars();
  const barred: PrintBlock[] = isBarred(element)
    ? [{ t: 'bar', on: true }, ...ended(shown, barEnds)]
    : shown;
  if (gone === 'before') return [isGone.block, ...barred];
  return gone === 'after' ? ended(barred, isGone) : barred;
}

/** Footnotes that are gathered where they stand, as those of a table, innermost first. */
function gathering(): Pick<Context, 'notesIn' | 'gather'> {
  let gathered: (TableNote & { readonly id?: string })[] | undefined;
  return {
    notesIn(make) {
      const around = gathered;
      const notes: (TableNote & { readonly id?: string })[] = [];
      gathered = notes;
      const made = make();
      gathered = around;
      return { made, notes: notes.map(({ sign, c }) => ({ sign, c })) };
    },
    gather({ c, id, sign: own }) {
      if (!gathered) return undefined;
      const known = id === undefined ? undefined : gathered.find((note) => note.id === id);
      if (known) return known.sign;
      const sign = own ?? writtenNumber('a', gathered.length + 1)!;
      gathered.push({ sign, c: c(), ...(id === undefined ? {} : { id }) });
      return sign;
    },
  };
}

/** @param traced a topic of which it is noted where each of its elements comes to stand */
export function printContext(
  publication: Publication,
  assets: PrintAssets,
  sheet: StyleSheet,
  traced?: string,
): Context {
  const emitted = new Set<string>();
  let hasBars = false;
  const at = (element: Element): string[] => {
    const { anchor } = element as ResolvedElement;
    if (anchor === undefined || emitted.has(anchor)) return [];
    emitted.add(anchor);
    return [anchor];
  };
  const marksOf = (element: Element): PrintBlock[] => {
    const { item, path } = (element as ResolvedElement).origin;
    const from: PrintBlock[] =
      traced !== undefined && item === traced ? [{ t: 'from', path: path.join('.') }] : [];
    return [...at(element).map((id): PrintBlock => ({ t: 'at', id })), ...from];
  };
  return {
    publication,
    assets,
    sheet,
    words: wordsFor(publication.locale),
    styles: appliedStyles(sheet),
    normalizing: {
      target: (anchor) => publication.targets[anchor],
      fileText: (id) => assets.text(id),
      deepest,
    },
    problems: [],
    emitted,
    references: [],
    at,
    marksOf,
    anchorsOf: (element) => at(element).map((id): Inline => ({ t: 'at', id })),
    markingOf,
    isBarred,
    hasBars: () => hasBars,
    marked: (element, c) => markedBlocks(element, c, () => (hasBars = true)),
    ...gathering(),
  };
}
