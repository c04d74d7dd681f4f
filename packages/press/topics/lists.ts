import type { BlockOf, Definition, ListItem } from '../blocks/index.ts';
import { tag, text, type Html } from '../html/index.ts';
import { classOf, ownOf, type Rendering } from './context.ts';

/** @param content of the item */
function itemHtml(rendering: Rendering, { element }: ListItem, content: Html): Html {
  const { idOf, forWhom, traceOf, marked, locale } = rendering;
  const { classes, others } = ownOf(element.attributes, locale);
  return traceOf(
    element,
    tag(
      'li',
      { id: idOf(element), class: classOf(...classes, forWhom(element)), ...others },
      marked(element, 'div', content),
    ),
  );
}

export const listHtml = (rendering: Rendering, { element, form, items }: BlockOf<'list'>): Html =>
  tag(
    form === 'numbered' ? 'ol' : 'ul',
    { id: rendering.idOf(element), class: form === 'plain' ? 'plain' : undefined },
    ...items.map((item) => itemHtml(rendering, item, rendering.tight(item.blocks))),
  );

/** Steps, with a heading unless they are steps of a step. */
export function stepsHtml(rendering: Rendering, block: BlockOf<'steps'>): Html {
  const { idOf, forWhom, blocks, headingTag, words } = rendering;
  const { element, isNumbered, isNested } = block;
  const runs = block.runs.map((run) =>
    run.kind === 'between'
      ? tag('div', { class: classOf('between', forWhom(run.element)) }, blocks(run.blocks))
      : tag(
          isNumbered ? 'ol' : 'ul',
          { class: 'steps', start: isNumbered && run.start > 1 ? run.start : undefined },
          ...run.items.map((item) => itemHtml(rendering, item, blocks(item.blocks))),
        ),
  );
  if (isNested) return runs;
  const heading = tag(headingTag, { class: 'label' }, text(words.steps));
  return tag('section', { class: 'steps', id: idOf(element) }, heading, ...runs);
}

export const definitionsHtml = (
  rendering: Rendering,
  { element, entries }: BlockOf<'definitions'>,
): Html =>
  tag(
    'dl',
    { id: rendering.idOf(element) },
    ...entries.flatMap((entry) => definitionHtml(rendering, entry)),
  );

/** Terms and what they mean; the first term carries the ID of both. */
function definitionHtml(rendering: Rendering, definition: Definition): Html[] {
  const { idOf, forWhom, lines, tight, locale } = rendering;
  const { element, isHead, terms, meanings } = definition;
  const id = idOf(element);
  const condition = classOf(isHead ? 'head' : undefined, forWhom(element));
  return [
    ...terms.map((term, index) =>
      tag(
        'dt',
        {
          id: index === 0 ? id : undefined,
          class: classOf(condition, forWhom(term)),
          ...ownOf(term.attributes, locale).others,
        },
        lines(term.children),
      ),
    ),
    ...meanings.map((meaning) =>
      tag(
        'dd',
        {
          id: idOf(meaning.element),
          class: classOf(condition, forWhom(meaning.element)),
          ...ownOf(meaning.element.attributes, locale).others,
        },
        tight(meaning.blocks),
      ),
    ),
  ];
}
