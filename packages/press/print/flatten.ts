import type { Inline, PrintBlock } from './document.ts';

type Lines = Extract<PrintBlock, { readonly t: 'p' }>;

const lines = (c: readonly Inline[]): Lines => ({ t: 'p', c });

/** The same paragraphs, with something before the words of the first. */
const after = (sign: string, blocks: readonly Lines[]): readonly Lines[] => {
  const [first, ...rest] = blocks;
  return first ? [lines([sign, ...first.c]), ...rest] : [];
};

/**
 * A block as paragraphs, for the foot of a page: the page engine sets only lines of text there.
 * Items have their marks, and cells stand one after the other.
 */
export function paragraphsIn(block: PrintBlock): readonly Lines[] {
  const all = (blocks: readonly PrintBlock[]): readonly Lines[] => blocks.flatMap(paragraphsIn);
  switch (block.t) {
    case 'p':
    case 'lead':
    case 'label':
    case 'h':
    case 'code':
    case 'lines':
      return [lines(block.c)];
    case 'equation':
      return [lines(block.num ? [...block.c, ' ', ...block.num] : block.c)];
    case 'ul':
    case 'sl':
      return block.items.flatMap((item) => after(block.t === 'ul' ? '• ' : '', all(item)));
    case 'ol':
    case 'steps':
      return block.items.flatMap((item, at) => after(`${(block.start ?? 1) + at}. `, all(item)));
    case 'dl':
      return block.items.flatMap(({ dt, dd }) => [...dt.map(lines), ...all(dd)]);
    case 'note':
      return after(`${block.word}: `, all(block.c));
    case 'hazard':
      return after(
        `${block.word}: `,
        block.messages.flatMap(({ hazard, c }) => [...all(hazard), ...all(c)]),
      );
    case 'quote':
    case 'group':
    case 'mark':
    case 'lang':
      return all(block.c);
    case 'fig':
      return [...all(block.c), ...(block.cap ? [lines(block.cap)] : [])];
    case 'legend':
      return block.items.map(({ sign, c }) => lines([`${sign} `, ...c]));
    case 'table':
      return [
        ...(block.cap ? [lines(block.cap)] : []),
        ...[...block.head, ...block.rows].flatMap((row) => row.flatMap(({ c }) => all(c))),
      ];
    case 'img':
      return [lines([block])];
    default:
      return [];
  }
}
