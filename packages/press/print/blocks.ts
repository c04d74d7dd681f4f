import type { ResolvedElement } from '@ukiyo/core/compose';
import { problem } from '@ukiyo/core/problems';
import type { BlockOf, Caption, Block as Source } from '../blocks/index.ts';
import { noteName, printable } from '../shared/index.ts';
import type { Context, Typesetting } from './context.ts';
import type { PrintBlock, Inline } from './document.ts';
import { areaSigns, imageBlock, mediaBlocks } from './images.ts';
import { linesOf } from './lines.ts';
import { inLanguage } from './languages.ts';
import { definitions, itemBlocks, list, steps } from './lists.ts';
import { gridTable, type TableCaption } from './tables.ts';

/** What makes blocks of text and the lines in them. Problems: `print.too-deep`, those of tables. */
export function typesettingOf(context: Context): Typesetting {
  const typesetting: Typesetting = {
    ...context,
    ...linesOf(context, () => typesetting),
    blocks: (blocks) => blocks.flatMap((block) => blockOf(typesetting, block)),
  };
  return typesetting;
}

const blockOf = (typesetting: Typesetting, block: Source): PrintBlock[] =>
  block.element === undefined
    ? plainBlock(typesetting, block)
    : dressed(typesetting, block.element, () => plainBlock(typesetting, block));

/** What an element becomes, in the style that it has and as the lens marks it. */
function dressed(
  { styles, marked, publication }: Context,
  element: ResolvedElement,
  make: () => PrintBlock[],
): PrintBlock[] {
  const own = styles.of(element);
  const made = inLanguage(styles.within(element, make), element, publication.locale);
  return marked(element, own === undefined ? made : inStyle(made, own));
}

/** Signs in the margin and anchors have no style. */
function inStyle(blocks: readonly PrintBlock[], style: string): PrintBlock[] {
  const shown = blocks.filter(({ t }) => !['at', 'from', 'bar', 'gone'].includes(t));
  const [only] = shown;
  return shown.length === 1 && only!.t !== 'mark'
    ? blocks.map((block) => (block === only ? { ...block, s: style } : block))
    : [{ t: 'group', s: style, c: blocks }];
}

type Maker<Kind extends Source['kind']> = (
  typesetting: Typesetting,
  block: BlockOf<Kind>,
) => PrintBlock[];

function plainBlock<Kind extends Source['kind']>(
  typesetting: Typesetting,
  block: BlockOf<Kind>,
): PrintBlock[] {
  const make = makers[block.kind] as Maker<Kind>;
  return make(typesetting, block);
}

/** Text as one block of the template. */
const lines =
  (t: 'lead' | 'lines' | 'code' | 'p') =>
  (
    { marksOf, inlines }: Typesetting,
    { element, nodes }: BlockOf<'paragraph' | 'lead' | 'lines' | 'code'>,
  ): PrintBlock[] => [...(element ? marksOf(element) : []), { t, c: inlines(nodes) }];

/** Code within code has the letters that are around it. */
const withinCode = (nodes: readonly Inline[]): Inline[] =>
  nodes.flatMap((node) => {
    if (typeof node === 'string') return [node];
    if (node.t === 'code') return withinCode(node.c);
    const isWords = 'c' in node && node.t !== 'fn' && node.t !== 'math';
    return [isWords ? { ...node, c: withinCode(node.c) } : node];
  });

const content = (
  { marksOf, blocks }: Typesetting,
  block: BlockOf<'group' | 'step-detail'>,
): PrintBlock[] => [...marksOf(block.element), ...blocks(block.blocks)];

const makers: { readonly [Kind in Source['kind']]: Maker<Kind> } = {
  paragraph: lines('p'),
  picture: (typesetting, { element, images }) => [
    ...(element ? typesetting.marksOf(element) : []),
    ...images.flatMap((image) => dressed(typesetting, image, () => imageBlock(typesetting, image))),
  ],
  lead: lines('lead'),
  lines: lines('lines'),
  command: ({ anchorsOf, inlines, words }, { element, nodes, importance }) => [
    {
      t: 'p',
      c: [
        ...anchorsOf(element),
        ...(importance === undefined ? [] : [{ t: 'b' as const, c: [words[importance]] }, ': ']),
        ...inlines(nodes),
      ],
    },
  ],
  code: (typesetting, block) =>
    lines('code')(typesetting, block).map((one) =>
      one.t === 'code' ? { ...one, c: withinCode(one.c) } : one,
    ),
  quote: ({ marksOf, blocks }, block) => [
    ...marksOf(block.element),
    { t: 'quote', c: blocks(block.blocks) },
  ],
  note,
  form: ({ marksOf, inlines, words }, { element, nodes, word }) => [
    ...marksOf(element),
    { t: 'p', c: [printable(`${words[word]}: `), ...inlines(nodes)] },
  ],
  equation: ({ marksOf, inlines }, { element, nodes, number }) => [
    ...marksOf(element),
    { t: 'equation', c: inlines(nodes), ...(number ? { num: inlines(number) } : {}) },
  ],
  hazard,
  stated: ({ marksOf, words }, { element, word }) => [
    ...marksOf(element),
    { t: 'p', c: [words[word]] },
  ],
  'step-detail': content,
  group: content,
  section,
  list,
  steps,
  definitions,
  figure,
  table,
  media: (typesetting, { element, media }) => [
    ...typesetting.marksOf(element),
    ...(media ? mediaBlocks(typesetting, media) : []),
  ],
  flattened({ problems }, { element, text }) {
    const message =
      'Content is nested too deeply to be set as it is; its text is set without structure.';
    problems.push(problem('warning', 'print.too-deep', message, element.origin));
    return [{ t: 'p', c: [printable(text)] }];
  },
};

/** A section under its title, or under the word for what it is. */
function section(typesetting: Typesetting, block: BlockOf<'section'>): PrintBlock[] {
  const { words, marksOf, blocks } = typesetting;
  const { element, caption, label } = block;
  const heading: PrintBlock[] = caption
    ? titleOf(typesetting, element, caption)
    : [
        ...marksOf(element),
        ...(label === undefined ? [] : [{ t: 'label' as const, c: [words[label]] }]),
      ];
  return [...heading, ...blocks(block.blocks)];
}

/** “Example 3-2  Noon” as a heading. */
function titleOf(
  { styles, words, at, marked, inlines }: Typesetting,
  element: ResolvedElement,
  { title, number }: Caption,
): PrintBlock[] {
  const count: Inline[] = number === undefined ? [] : [`${words.example} ${number}\u2002`];
  const own = styles.of(title);
  const heading: PrintBlock = {
    t: 'h',
    c: [...count, ...inlines(title.children)],
    at: at(element),
    ...(own === undefined ? {} : { s: own }),
  };
  return marked(title, [heading]);
}

function note(
  { marksOf, blocks, sheet, publication, words }: Typesetting,
  block: BlockOf<'note'>,
): PrintBlock[] {
  const { element } = block;
  const word = printable(noteName(element, sheet, publication.locale, words));
  const kind = element.attributes['type'] ?? 'note';
  return [...marksOf(element), { t: 'note', kind, word, c: blocks(block.blocks) }];
}

function hazard(typesetting: Typesetting, block: BlockOf<'hazard'>): PrintBlock[] {
  const { marked, marksOf, blocks, sheet, publication, words } = typesetting;
  const { element, symbols, panels } = block;
  return [
    ...marksOf(element),
    {
      t: 'hazard',
      kind: element.attributes['type'] ?? 'note',
      word: printable(noteName(element, sheet, publication.locale, words)),
      symbols: blocks(symbols),
      messages: panels.map((panel) => {
        const [named, rest] = [true, false].map((isNamed) =>
          panel.parts
            .filter((part) => (part.element.name === 'typeofhazard') === isNamed)
            .flatMap((part) => itemBlocks(typesetting, part)),
        );
        return {
          hazard: [...marksOf(panel.element), ...marked(panel.element, named!)],
          c: marked(panel.element, rest!),
        };
      }),
    },
  ];
}

const captionOf = (
  { at, inlines }: Typesetting,
  { element, caption }: BlockOf<'figure' | 'table'>,
): TableCaption => ({
  at: at(element),
  ...(caption ? { cap: inlines(caption.title.children) } : {}),
  ...(caption?.number === undefined ? {} : { num: caption.number }),
});

const description = (
  { inlines }: Typesetting,
  { description: said }: BlockOf<'figure' | 'table'>,
): PrintBlock[] => (said ? [{ t: 'p', c: inlines(said) }] : []);

/** A caption that stands in what it names is marked with all of it. */
const captionedWhole = (
  { marked }: Typesetting,
  { caption }: BlockOf<'figure' | 'table'>,
  made: PrintBlock[],
): PrintBlock[] => (caption ? marked(caption.title, made) : made);

function figure(typesetting: Typesetting, block: BlockOf<'figure'>): PrintBlock[] {
  const { picture } = block;
  const caption = captionOf(typesetting, block);
  const { spots, legend } = areaSigns(typesetting, block);
  const shown = block.blocks.flatMap((one) =>
    one === picture
      ? picture.images.flatMap((image) => imageBlock(typesetting, image, spots))
      : typesetting.blocks([one]),
  );
  const c = [...shown, ...legend, ...description(typesetting, block)];
  return captionedWhole(typesetting, block, [{ t: 'fig', ...caption, c }]);
}

function table(typesetting: Typesetting, block: BlockOf<'table'>): PrintBlock[] {
  const caption = captionOf(typesetting, block);
  const tables = block.grids.map((grid, index) =>
    gridTable(typesetting, { element: block.element, grid }, index === 0 ? caption : { at: [] }),
  );
  return captionedWhole(typesetting, block, [...description(typesetting, block), ...tables]);
}
