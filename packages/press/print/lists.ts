import type { BlockOf, ListItem, TableCell } from '../blocks/index.ts';
import type { Typesetting } from './context.ts';
import { inLanguage } from './languages.ts';
import type { PrintBlock } from './document.ts';

/** What an item of a list, a definition or a cell contains. */
export const itemBlocks = (
  { marked, marksOf, blocks, publication }: Typesetting,
  { element, blocks: inside }: ListItem | TableCell,
): PrintBlock[] =>
  inLanguage(
    marked(element, [...marksOf(element), ...blocks(inside)]),
    element,
    publication.locale,
  );

const signs = { bulleted: 'ul', numbered: 'ol', plain: 'sl' } as const;

export const list = (
  typesetting: Typesetting,
  { element, form, items }: BlockOf<'list'>,
): PrintBlock[] => [
  ...typesetting.marksOf(element),
  { t: signs[form], items: items.map((item) => itemBlocks(typesetting, item)) },
];

export const definitions = (
  typesetting: Typesetting,
  { element, entries }: BlockOf<'definitions'>,
): PrintBlock[] => {
  const { marksOf, anchorsOf, inlines } = typesetting;
  const items = entries.map((entry) => ({
    dt: entry.terms.map((term) => [...anchorsOf(entry.element), ...inlines(term.children)]),
    dd: entry.meanings.flatMap((meaning) => itemBlocks(typesetting, meaning)),
    ...(entry.isHead ? { head: true as const } : {}),
  }));
  return [...marksOf(element), { t: 'dl', items }];
};

/** Steps under the word for them, unless they are steps of a step. */
export const steps = (typesetting: Typesetting, block: BlockOf<'steps'>): PrintBlock[] => {
  const { words, marksOf, blocks } = typesetting;
  const runs = block.runs.flatMap((run): PrintBlock[] =>
    run.kind === 'between'
      ? blocks(run.blocks)
      : [
          {
            t: block.isNumbered ? 'steps' : 'ul',
            items: run.items.map((item) => itemBlocks(typesetting, item)),
            start: run.start,
          },
        ],
  );
  return block.isNested
    ? runs
    : [...marksOf(block.element), { t: 'label', c: [words.steps] }, ...runs];
};
