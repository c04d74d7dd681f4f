import type { LinkList, RelatedLink, RelatedLinks } from '../blocks/index.ts';
import { isEmpty, tag, type Html } from '../html/index.ts';
import { classOf, type Rendering } from './context.ts';
import type { RelatedHtml } from './memory.ts';

export const relatedHtml = (rendering: Rendering, { loose, lists }: RelatedLinks): RelatedHtml => ({
  items: loose.map((link) => linkItem(rendering, link)),
  lists: lists.map((list) => {
    const { forWhom, idOf } = rendering;
    const { element } = list;
    return tag(
      'section',
      { class: classOf('related', forWhom(element)), id: idOf(element) },
      listParts(rendering, list, 'h2'),
    );
  }),
});

function linkItem({ forWhom, lines }: Rendering, { element, description }: RelatedLink): Html {
  // The item has the condition already.
  const { when: _ofItem, ...link } = element;
  return tag('li', { class: forWhom(element) }, lines([link]), said(lines, description));
}

const said = (lines: Rendering['lines'], words: RelatedLink['description']): Html => {
  const made = lines(words);
  return isEmpty(made) ? [] : tag('p', {}, made);
};

/** @param heading the element of its title */
function listParts(rendering: Rendering, list: LinkList, heading: 'h2' | 'p'): Html {
  const { lines, forWhom } = rendering;
  const { title, description, items, info } = list;
  const made = items.map((item) =>
    item.kind === 'link'
      ? linkItem(rendering, item)
      : tag('li', { class: forWhom(item.element) }, listParts(rendering, item, 'p')),
  );
  return [
    title ? tag(heading, {}, lines(title.children)) : [],
    said(lines, description),
    made.length === 0 ? [] : tag('ul', {}, made),
    said(lines, info),
  ];
}
