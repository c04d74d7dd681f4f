import { isExpandable } from '@ukiyo/core/grammar';
import { isElement, textOf, type Element } from '@ukiyo/core/markup';
import { fromHtml } from 'hast-util-from-html';
import hljs from 'highlight.js';
import type { Block, BlockOf, Caption } from '../blocks/index.ts';
import { isEmpty, tag, text, withOwn, type Html } from '../html/index.ts';
import { noteName } from '../shared/index.ts';
import { classOf, ownOf, type PageContext, type Rendering } from './context.ts';
import { figureHtml, imageHtml } from './images.ts';
import { hazardHtml } from './hazards.ts';
import { linesHtml } from './lines.ts';
import { definitionsHtml, listHtml, stepsHtml } from './lists.ts';
import { mediaHtml } from './media.ts';
import { tableHtml } from './tables.ts';

/** What renders the parts of one topic. */
export function renderingOf(context: PageContext): Rendering {
  const rendering: Rendering = {
    ...context,
    isInLink: false,
    blocks: (blocks) => blocks.map((block) => blockHtml(rendering, block)),
    tight(blocks) {
      const [only] = blocks;
      return blocks.length === 1 && only?.kind === 'paragraph' && only.element === undefined
        ? rendering.lines(only.nodes)
        : rendering.blocks(blocks);
    },
    lines: (nodes) => linesHtml(rendering, nodes),
  };
  return rendering;
}

/** A block, marked and styled as it is to be, for those who get it. */
const blockHtml = (rendering: Rendering, block: Block): Html =>
  block.element === undefined
    ? plainBlock(rendering, block)
    : dressed(rendering, block.element, () => plainBlock(rendering, block));

/** What an element becomes, with its place, style, marks and condition. */
function dressed(rendering: PageContext, element: Element, make: () => Html): Html {
  const { marked, styled, traceOf, forWhom, locale } = rendering;
  const styledBlock = styled(element, 'div', () =>
    traceOf(element, withOwn(make(), ownOf(element.attributes, locale), 'div')),
  );
  const made = marked(element, 'div', styledBlock);
  const condition = forWhom(element);
  return condition === undefined || isEmpty(made) ? made : tag('div', { class: condition }, made);
}

type Renderer<Kind extends Block['kind']> = (rendering: Rendering, block: BlockOf<Kind>) => Html;

function plainBlock<Kind extends Block['kind']>(rendering: Rendering, block: BlockOf<Kind>): Html {
  const render = renderers[block.kind] as Renderer<Kind>;
  return render(rendering, block);
}

const renderers: { readonly [Kind in Block['kind']]: Renderer<Kind> } = {
  paragraph: ({ idOf, lines }, { element, nodes }) =>
    tag('p', { id: element && idOf(element) }, lines(nodes)),
  picture: pictureHtml,
  form: ({ idOf, lines, words }, { element, nodes, word }) =>
    tag('p', { class: 'form', id: idOf(element) }, text(`${words[word]}: `), lines(nodes)),
  equation: ({ idOf, lines }, { element, nodes, number }) =>
    tag(
      'div',
      { class: 'equation', id: idOf(element) },
      tag('span', {}, lines(nodes)),
      number ? tag('span', { class: 'equation-number' }, lines(number)) : [],
    ),
  lead: ({ idOf, lines }, { element, nodes }) =>
    tag('p', { class: 'lead', id: idOf(element) }, lines(nodes)),
  lines: ({ idOf, lines }, { element, nodes }) =>
    tag('p', { class: 'lines', id: idOf(element) }, lines(nodes)),
  command: ({ idOf, lines, words }, { element, nodes, importance }) =>
    tag(
      'p',
      { class: 'cmd', id: idOf(element) },
      importance === undefined ? [] : tag('span', { class: 'importance' }, text(words[importance])),
      importance === undefined ? [] : text(': '),
      lines(nodes),
    ),
  code,
  quote: ({ idOf, blocks }, block) =>
    tag('blockquote', { id: idOf(block.element) }, blocks(block.blocks)),
  note,
  hazard: hazardHtml,
  stated: ({ idOf, words }, { element, word }) =>
    tag('p', { id: idOf(element) }, text(words[word])),
  'step-detail': ({ idOf, blocks }, block) =>
    tag('div', { class: block.element.name, id: idOf(block.element) }, blocks(block.blocks)),
  group({ idOf, blocks }, block) {
    const id = idOf(block.element);
    return id === undefined ? blocks(block.blocks) : tag('div', { id }, blocks(block.blocks));
  },
  section,
  list: listHtml,
  steps: stepsHtml,
  definitions: definitionsHtml,
  figure: (rendering, block) =>
    figureHtml(rendering, block, caption(rendering, block, rendering.words.figure)),
  table: (rendering, block) =>
    tableHtml(rendering, block, caption(rendering, block, rendering.words.table)),
  media: (rendering, { element, media }) =>
    media ? mediaHtml(rendering, media, rendering.idOf(element)) : [],
  flattened: (_rendering, block) => tag('p', {}, text(block.text)),
};

function pictureHtml(rendering: Rendering, { element, images }: BlockOf<'picture'>): Html {
  const id = element && rendering.idOf(element);
  return images.map((image, at) =>
    dressed(rendering, image, () =>
      tag('div', { class: 'picture', id: at === 0 ? id : undefined }, imageHtml(rendering, image)),
    ),
  );
}

/** A title, after its number where it has one. @param word what is counted */
function numbered(
  { readers, lines }: Rendering,
  { element, word }: { readonly element: BlockOf<'section'>['element']; readonly word: string },
  { title, number }: Caption,
): Html {
  const { anchor } = element;
  const count =
    number === undefined || anchor === undefined
      ? []
      : [
          tag('span', { class: 'number' }, text(`${word} `), readers.number(anchor, number)),
          text(' '),
        ];
  return [...count, lines(title.children)];
}

/** The title of a figure or table with its number, and its description. */
function caption(
  rendering: Rendering,
  { element, caption: own, description }: BlockOf<'figure' | 'table'>,
  word: string,
): Html | undefined {
  const title = own && numbered(rendering, { element, word }, own);
  if (!description) return title;
  return [title ?? [], tag('span', { class: 'desc' }, rendering.lines(description))];
}

/** The heading of a section: its title, or the word for what it is. */
function sectionHeading(rendering: Rendering, block: BlockOf<'section'>): Html | undefined {
  const { words, styles, headingTag } = rendering;
  const { element, caption: own, label } = block;
  if (!own) return label && tag(headingTag, {}, text(words[label]));
  const style = styles.of(own.title);
  return tag(
    headingTag,
    { class: style === undefined ? undefined : `style-${style}` },
    numbered(rendering, { element, word: words.example }, own),
  );
}

function section(rendering: Rendering, block: BlockOf<'section'>): Html {
  const { element } = block;
  const heading = sectionHeading(rendering, block);
  const attributes = { id: rendering.idOf(element), class: element.name };
  const content = rendering.blocks(block.blocks);
  return heading !== undefined && isExpandable(element.attributes)
    ? tag('details', attributes, tag('summary', {}, heading), content)
    : tag('section', attributes, heading ?? [], content);
}

function note({ sheet, locale, words, idOf, blocks }: Rendering, block: BlockOf<'note'>): Html {
  const { element } = block;
  const kind = element.attributes['type'] ?? 'note';
  return tag(
    'div',
    { class: classOf('note', kind.replace(/[^a-z]/gu, '')), id: idOf(element), role: 'note' },
    tag('span', { class: 'note-mark', 'aria-hidden': 'true' }),
    tag('p', { class: 'note-word' }, text(noteName(element, sheet, locale, words))),
    tag('div', {}, blocks(block.blocks)),
  );
}

/** Code with its words marked by what they are in its language. */
const coloured = (words: string, language: string): Html =>
  fromHtml(hljs.highlight(words, { language }).value, { fragment: true }).children as Html;

function code({ idOf, lines }: Rendering, { element, nodes, language }: BlockOf<'code'>): Html {
  const isColoured = language !== undefined && hljs.getLanguage(language) && !nodes.some(isElement);
  const content = isColoured ? coloured(textOf(element), language) : lines(nodes);
  return tag(
    'div',
    { class: 'code', id: idOf(element) },
    tag('pre', { tabindex: 0 }, tag('code', {}, content)),
  );
}
