import type { ResolvedElement } from '@ukiyo/core/compose';
import { basesOf, isA, isExpandable } from '@ukiyo/core/grammar';
import {
  childElements,
  childNamed,
  isElement,
  lineOf,
  textOf,
  type Element,
  type Node,
} from '@ukiyo/core/markup';
import type { Words } from '@ukiyo/core/words';
import hljs from 'highlight.js';
import { flowOf } from '../shared/flow.ts';
import { noteName } from '../shared/styles.ts';
import { deepest, type PageContext } from './context.ts';
import { join, raw, tag, text, type Html } from './html.ts';
import { figureHtml, imageHtml } from './images.ts';
import { linesOf } from './lines.ts';
import { mediaHtml } from './media.ts';
import { tableHtml } from './tables.ts';

const labels: Readonly<Record<string, keyof Words>> = {
  prereq: 'prerequisites',
  result: 'result',
  postreq: 'next',
  tasktroubleshooting: 'troubleshooting',
  condition: 'condition',
  cause: 'cause',
  remedy: 'remedy',
  example: 'example',
  refsyn: 'syntax',
};

export interface Blocks {
  /** @param tight whether words alone need no paragraph around them */
  blocks(nodes: readonly Node[], depth: number, tight?: boolean): Html;
  block(element: Element, depth: number): Html;
}

/** Blocks of text, and the lines in them. */
export function blocksOf(context: PageContext): Blocks {
  const { around, locale, words, readers, sheet, worn, idOf, forWhom, traceOf, marked, styled } =
    context;
  const named = (className: string, element: Element): string =>
    [className, forWhom(element)].filter(Boolean).join(' ');
  const lines = linesOf(context, (nodes, depth) => blocks(nodes, depth));

  const blocks = (nodes: readonly Node[], depth: number, tight = false): Html => {
    const flow = flowOf(nodes);
    const [only] = flow;
    if (tight && flow.length === 1 && only?.kind === 'run') return lines(only.nodes, depth);
    return join(
      flow.map((part) =>
        part.kind === 'block' ? block(part.element, depth + 1) : paragraph(part.nodes, depth),
      ),
    );
  };
  const paragraph = (nodes: readonly Node[], depth: number, id?: string): Html => {
    const images = nodes.filter(
      (node): node is Element => isElement(node) && node.name === 'image',
    );
    // One image, or those of which each reader gets one.
    if (
      images.length === nodes.length &&
      (images.length === 1 ||
        images.every(
          ({ attributes }) =>
            attributes['keyref'] === images[0]!.attributes['keyref'] &&
            forWhom(images[0]!) !== undefined,
        ))
    )
      return join(
        images.map((image, at) =>
          tag(
            'div',
            { class: named('picture', image), id: at === 0 ? id : undefined },
            imageHtml(context, image),
          ),
        ),
      );
    return tag('p', { id }, lines(nodes, depth));
  };

  const caption = (element: Element, word: string): Html | undefined => {
    const title = childNamed(element, 'title');
    if (!title) return undefined;
    const { anchor } = element as ResolvedElement;
    const number = anchor === undefined ? undefined : around.target(anchor)?.number;
    return join([
      ...(number === undefined
        ? []
        : [
            tag('span', { class: 'number' }, text(`${word} `), readers.number(anchor!, number)),
            raw(' '),
          ]),
      lines(title.children, 0),
    ]);
  };

  const table = (element: Element, source: Element, isFirst: boolean, depth: number): Html =>
    tableHtml(
      context,
      element,
      source,
      isFirst ? caption(element, words.table) : undefined,
      isFirst,
      (nodes) => blocks(nodes, depth, true),
    );

  const section = (element: Element, depth: number): Html => {
    const title = childNamed(element, 'title');
    const label = labels[element.name];
    const rest = element.children.filter((child) => child !== title);
    const { anchor } = element as ResolvedElement;
    const target = anchor === undefined ? undefined : around.target(anchor);
    const count =
      target?.kind === 'example' && target.number !== undefined
        ? tag(
            'span',
            { class: 'number' },
            text(`${words.example} `),
            readers.number(target.anchor, target.number),
          )
        : undefined;
    const heading = title
      ? join([...(count ? [count, text(' ')] : []), lines(title.children, depth)])
      : label === undefined
        ? undefined
        : text(words[label] as string);
    const id = idOf(element);
    const own = title && worn.of(title);
    const head =
      heading === undefined
        ? undefined
        : tag(
            context.headingTag,
            { class: own === undefined ? undefined : `style-${own}` },
            heading,
          );
    if (head !== undefined && isExpandable(element.attributes))
      return tag(
        'details',
        { id, class: element.name },
        tag('summary', {}, head),
        blocks(rest, depth),
      );
    return tag(
      'section',
      { id, class: element.name },
      ...(head === undefined ? [] : [head]),
      blocks(rest, depth),
    );
  };

  const step = (element: Element, depth: number): Html =>
    tag(
      'li',
      { id: idOf(element), class: forWhom(element) },
      marked(
        element,
        'div',
        join(
          childElements(element).map((part) => {
            if (part.name === 'cmd')
              return traceOf(
                part,
                tag(
                  'p',
                  { class: named('cmd', part), id: idOf(part) },
                  lines(part.children, depth),
                ),
              );
            return isA(part.name, 'itemgroup')
              ? tag(
                  'div',
                  { class: named(part.name, part), id: idOf(part) },
                  blocks(part.children, depth),
                )
              : block(part, depth);
          }),
        ),
      ),
    );

  const steps = (element: Element, name: 'ol' | 'ul', depth: number): Html => {
    const parts: Html[] = [];
    let count = 0;
    let items: Html[] = [];
    const end = (): void => {
      if (items.length > 0)
        parts.push(
          tag(
            name,
            {
              class: 'steps',
              start: name === 'ol' && count > items.length ? count - items.length + 1 : undefined,
            },
            join(items),
          ),
        );
      items = [];
    };
    for (const child of childElements(element)) {
      if (child.name === 'stepsection') {
        end();
        parts.push(
          tag(
            'div',
            { class: ['between', forWhom(child)].filter(Boolean).join(' ') },
            blocks(child.children, depth),
          ),
        );
        continue;
      }
      count += 1;
      items.push(step(child, depth));
    }
    end();
    const heading =
      element.name === 'substeps'
        ? []
        : [tag(context.headingTag, { class: 'label' }, text(words.steps))];
    return element.name === 'substeps'
      ? join(parts)
      : tag('section', { class: 'steps', id: idOf(element) }, ...heading, ...parts);
  };

  const code = (element: Element, depth: number): Html => {
    const language = /language-([\w-]+)/u.exec(element.attributes['outputclass'] ?? '')?.[1];
    const plain = element.children.every((child) => typeof child === 'string');
    const highlighted =
      plain && language !== undefined && hljs.getLanguage(language)
        ? raw(hljs.highlight(textOf(element), { language }).value)
        : lines(element.children, depth);
    return tag(
      'div',
      { class: 'code', id: idOf(element) },
      tag('pre', { tabindex: 0 }, tag('code', {}, highlighted)),
    );
  };

  const list =
    (name: 'ul' | 'ol', className?: string) =>
    (element: Element, depth: number): Html =>
      tag(
        name,
        { id: idOf(element), class: className },
        join(
          childElements(element).map((item) =>
            traceOf(
              item,
              tag(
                'li',
                { id: idOf(item), class: forWhom(item) },
                marked(item, 'div', blocks(item.children, depth, true)),
              ),
            ),
          ),
        ),
      );

  const note = (element: Element, depth: number): Html => {
    const kind = element.attributes['type'] ?? 'note';
    return tag(
      'div',
      { class: `note ${kind.replace(/[^a-z]/gu, '')}`, id: idOf(element), role: 'note' },
      tag('span', { class: 'note-mark', 'aria-hidden': 'true' }),
      tag('p', { class: 'note-word' }, text(noteName(element, sheet, locale, words))),
      tag('div', {}, blocks(element.children, depth)),
    );
  };

  const definitionList = (element: Element, depth: number): Html =>
    tag(
      'dl',
      { id: idOf(element) },
      join(
        childElements(element)
          .filter((entry) => isA(entry.name, 'dlentry'))
          .flatMap((entry) => {
            const entryId = idOf(entry);
            const whose = (part: Element): string | undefined =>
              [forWhom(entry), forWhom(part)].filter(Boolean).join(' ') || undefined;
            return childElements(entry).map((part, index) =>
              isA(part.name, 'dt')
                ? tag(
                    'dt',
                    { id: index === 0 ? entryId : undefined, class: whose(part) },
                    lines(part.children, depth),
                  )
                : tag(
                    'dd',
                    { id: idOf(part), class: whose(part) },
                    blocks(part.children, depth, true),
                  ),
            );
          }),
      ),
    );

  const makers: Readonly<Record<string, (element: Element, depth: number) => Html>> = {
    p: (element, depth) => {
      const flow = flowOf(element.children);
      return flow.length === 1 && flow[0]?.kind === 'run'
        ? paragraph(flow[0].nodes, depth, idOf(element))
        : blocks(element.children, depth);
    },
    title: () => raw(''),
    steps: (element, depth) => steps(element, 'ol', depth),
    'steps-unordered': (element, depth) => steps(element, 'ul', depth),
    substeps: (element, depth) => steps(element, 'ol', depth),
    ul: list('ul'),
    ol: list('ol'),
    sl: list('ul', 'plain'),
    dl: definitionList,
    note,
    pre: code,
    lines: (element, depth) =>
      tag('p', { class: 'lines', id: idOf(element) }, lines(element.children, depth)),
    lq: (element, depth) =>
      tag('blockquote', { id: idOf(element) }, blocks(element.children, depth)),
    fig: (element, depth) =>
      figureHtml(context, element, caption(element, words.figure), (part) => blocks([part], depth)),
    table: (element, depth) =>
      join(
        childElements(element)
          .filter((part) => part.name === 'tgroup')
          .map((group, index) => table(element, group, index === 0, depth)),
      ),
    simpletable: (element, depth) => table(element, element, true, depth),
    image: (element) => tag('div', { class: 'picture' }, imageHtml(context, element)),
    object: (element) => mediaHtml(element, context, idOf(element)),
    section,
    example: section,
    'related-links': () => raw(''),
    shortdesc: (element, depth) =>
      tag('p', { class: 'lead', id: idOf(element) }, lines(element.children, depth)),
    'steps-informal': (element, depth) => blocks(element.children, depth),
  };

  const block = (element: Element, depth: number): Html => {
    const made = marked(
      element,
      'div',
      styled(element, 'div', () => traceOf(element, plainBlock(element, depth))),
    );
    const whose = forWhom(element);
    return whose === undefined || made === '' ? made : tag('div', { class: whose }, made);
  };
  const plainBlock = (element: Element, depth: number): Html => {
    if (depth > deepest) return tag('p', {}, text(lineOf(element)));
    for (const name of basesOf(element.name)) {
      const make = makers[name];
      if (make) return make(element, depth);
    }
    const id = idOf(element);
    const inner = blocks(element.children, depth);
    return id === undefined ? inner : tag('div', { id }, inner);
  };

  return { blocks, block };
}
