import type { ResolvedElement } from '@ukiyo/core/compose';
import { basesOf, isA } from '@ukiyo/core/grammar';
import {
  childElements,
  childNamed,
  isElement,
  lineOf,
  type Element,
  type Node,
} from '@ukiyo/core/markup';
import { problem } from '@ukiyo/core/problems';
import { flowOf } from '../shared/flow.ts';
import { printable } from '../shared/text.ts';
import { noteName } from '../shared/styles.ts';
import { deepest, type Context } from './context.ts';
import type { Block, Inline } from './document.ts';
import { imageBlock, mediaBlock, spotsOf } from './images.ts';
import { linesOf, type Lines } from './lines.ts';
import { tableOf, type Caption } from './tables.ts';

export interface Blocks extends Lines {
  blocks(nodes: readonly Node[], depth: number): Block[];
  block(element: Element, depth: number): Block[];
}

/** Blocks of text, and the lines in them. Problems: `print.too-deep`, and those of tables. */
export function blocksOf(context: Context): Blocks {
  const { publication, sheet, words, worn, problems, at, marksOf, marked } = context;
  const { inlines, linked } = linesOf(context, (nodes, depth) => blocks(nodes, depth));

  const blocks = (nodes: readonly Node[], depth: number): Block[] =>
    flowOf(nodes).flatMap((part): Block[] => {
      if (part.kind === 'block') return block(part.element, depth + 1);
      const [only] = part.nodes;
      const alone =
        part.nodes.length === 1 && isElement(only) && only.name === 'image' ? only : undefined;
      return alone ? imageBlock(context, alone) : [{ t: 'p', c: inlines(part.nodes, depth) }];
    });

  const labelled = (element: Element, word: string, depth: number): Block[] => {
    const title = childNamed(element, 'title');
    const rest = element.children.filter((child) => child !== title);
    return [
      ...marksOf(element),
      { t: 'label', c: title ? inlines(title.children, depth) : [word] },
      ...blocks(rest, depth),
    ];
  };

  const captioned = (element: Element): Caption => {
    const title = childNamed(element, 'title');
    const { anchor } = element as ResolvedElement;
    const num = anchor === undefined ? undefined : publication.targets[anchor]?.number;
    return {
      at: at(element),
      ...(title ? { cap: inlines(title.children, 0) } : {}),
      ...(num === undefined ? {} : { num }),
    };
  };

  /** A title that stands in what it names is marked with all of it. */
  const titledWhole = (element: Element, c: Block[]): Block[] => {
    const title = childNamed(element, 'title');
    return title ? marked(title, c) : c;
  };

  const item = (element: Element, depth: number): Block[] =>
    marked(element, [...marksOf(element), ...blocks(element.children, depth)]);

  const step = (element: Element, depth: number): Block[] =>
    marked(element, [
      ...marksOf(element),
      ...childElements(element).flatMap((part): Block[] => {
        if (part.name === 'cmd')
          return marked(part, [
            {
              t: 'p',
              c: [
                ...at(part).map((id): Inline => ({ t: 'at', id })),
                ...inlines(part.children, depth),
              ],
            },
          ]);
        return isA(part.name, 'itemgroup') ? item(part, depth) : block(part, depth);
      }),
    ]);

  const steps = (element: Element, kind: 'steps' | 'ul', depth: number): Block[] => {
    const out: Block[] = [];
    let items: Block[][] = [];
    let count = 0;
    const end = (): void => {
      if (items.length > 0) out.push({ t: kind, items, start: count - items.length + 1 });
      items = [];
    };
    for (const child of childElements(element)) {
      if (child.name === 'stepsection') {
        end();
        out.push(...blocks(child.children, depth));
      } else {
        items.push(step(child, depth));
        count += 1;
      }
    }
    end();
    return out;
  };
  const block = (element: Element, depth: number): Block[] => {
    if (depth > deepest) {
      problems.push(
        problem(
          'warning',
          'print.too-deep',
          'Content is nested too deeply to be set as it is; its text is set without structure.',
          (element as ResolvedElement).origin,
        ),
      );
      return [{ t: 'p', c: [printable(lineOf(element))] }];
    }
    for (const name of basesOf(element.name)) {
      const make = makers[name];
      if (make)
        return make === item
          ? styled(element, () => item(element, depth))
          : marked(
              element,
              styled(element, () => make(element, depth)),
            );
    }
    return styled(element, () => item(element, depth));
  };
  /** What an element becomes, in the style of the team's own that it wears. */
  const styled = (element: Element, make: () => Block[]): Block[] => {
    const own = worn.of(element);
    const made = worn.within(element, make);
    if (own === undefined) return made;
    const shown = made.filter(({ t }) => !['at', 'from', 'bar', 'gone'].includes(t));
    return shown.length === 1 && shown[0]!.t !== 'mark'
      ? made.map((one) => (one === shown[0] ? { ...one, s: own } : one))
      : [{ t: 'group', s: own, c: made }];
  };

  /** What counts a block with a title: “Example 3-2”. */
  const counted = (element: Element): Inline[] => {
    const target = publication.targets[(element as ResolvedElement).anchor ?? ''];
    return target?.kind === 'example' && target.number !== undefined
      ? [`${words.example} ${target.number}\u2002`]
      : [];
  };

  const titled = (element: Element, depth: number, word?: string): Block[] => {
    const title = childNamed(element, 'title');
    if (!title) return word === undefined ? item(element, depth) : labelled(element, word, depth);
    const rest = element.children.filter((child) => child !== title);
    const own = worn.of(title);
    return [
      ...marked(title, [
        {
          t: 'h',
          c: [...counted(element), ...inlines(title.children, depth)],
          at: at(element),
          ...(own === undefined ? {} : { s: own }),
        },
      ]),
      ...blocks(rest, depth),
    ];
  };

  type Maker = (element: Element, depth: number) => Block[];
  const list =
    (t: 'ul' | 'ol' | 'sl'): Maker =>
    (element, depth) => [
      ...marksOf(element),
      { t, items: childElements(element).map((one) => item(one, depth)) },
    ];
  const definitions: Maker = (element, depth) => [
    ...marksOf(element),
    {
      t: 'dl',
      items: childElements(element)
        .filter((entry) => isA(entry.name, 'dlentry'))
        .map((entry) => ({
          dt: childElements(entry)
            .filter((part) => isA(part.name, 'dt'))
            .map((part) => [
              ...at(entry).map((id): Inline => ({ t: 'at', id })),
              ...inlines(part.children, depth),
            ]),
          dd: childElements(entry)
            .filter((part) => isA(part.name, 'dd'))
            .flatMap((part) => item(part, depth)),
        })),
    },
  ];
  const preformatted =
    (t: 'code' | 'lines'): Maker =>
    (element, depth) => [...marksOf(element), { t, c: inlines(element.children, depth) }];
  const makers: Record<string, Maker> = {
    p: (element, depth) => [...marksOf(element), ...blocks(element.children, depth)],
    title: () => [],
    ul: (element, depth) =>
      element.name === 'ul' || element.name === 'choices'
        ? list('ul')(element, depth)
        : steps(element, 'ul', depth),
    ol: list('ol'),
    sl: list('sl'),
    steps: (element, depth) => [
      ...marksOf(element),
      { t: 'label', c: [words.steps] },
      ...steps(element, 'steps', depth),
    ],
    'steps-unordered': (element, depth) => [
      ...marksOf(element),
      { t: 'label', c: [words.steps] },
      ...steps(element, 'ul', depth),
    ],
    substeps: (element, depth) => steps(element, 'steps', depth),
    dl: definitions,
    note: (element, depth) => {
      const kind = element.attributes['type'] ?? 'note';
      return [
        ...marksOf(element),
        {
          t: 'note',
          kind,
          word: printable(noteName(element, sheet, publication.locale, words)),
          c: blocks(element.children, depth),
        },
      ];
    },
    pre: preformatted('code'),
    lines: preformatted('lines'),
    lq: (element, depth) => [
      ...marksOf(element),
      { t: 'quote', c: blocks(element.children, depth) },
    ],
    fig: (element, depth) => {
      const areas = childElements(element).filter((part) => part.name === 'area');
      const picture = childNamed(element, 'image');
      const spots = picture ? spotsOf(context, areas, picture) : [];
      const legend = areas.slice(0, spots.length).map((area, at) => ({
        sign: spots[at]!.sign,
        c: inlines(
          area.children.filter((part) => isElement(part) && part.name === 'xref'),
          depth,
        ),
      }));
      const shown = childElements(element).filter(
        (part) => !['title', 'desc', 'area'].includes(part.name),
      );
      return titledWhole(element, [
        {
          t: 'fig',
          ...captioned(element),
          c: [
            ...shown.flatMap((part) =>
              part === picture ? imageBlock(context, part, spots) : blocks([part], depth),
            ),
            ...(legend.length === 0 ? [] : [{ t: 'legend' as const, items: legend }]),
          ],
        },
      ]);
    },
    table: (element, depth) => {
      const groups = childElements(element).filter((part) => part.name === 'tgroup');
      const caption = captioned(element);
      return titledWhole(
        element,
        groups.map((group, index) =>
          tableOf(context, element, group, index === 0 ? caption : { at: [] }, (inside) =>
            item(inside, depth),
          ),
        ),
      );
    },
    simpletable: (element, depth) => [
      tableOf(context, element, element, captioned(element), (inside) => item(inside, depth)),
    ],
    image: (element) => imageBlock(context, element),
    object: (element) => mediaBlock(context, element),
    example: (element, depth) => titled(element, depth, words.example),
    prereq: (element, depth) => labelled(element, words.prerequisites, depth),
    context: item,
    result: (element, depth) => labelled(element, words.result, depth),
    postreq: (element, depth) => labelled(element, words.next, depth),
    tasktroubleshooting: (element, depth) => labelled(element, words.troubleshooting, depth),
    condition: (element, depth) => labelled(element, words.condition, depth),
    cause: (element, depth) => labelled(element, words.cause, depth),
    remedy: (element, depth) => labelled(element, words.remedy, depth),
    refsyn: (element, depth) => titled(element, depth, words.syntax),
    section: (element, depth) => titled(element, depth),
    'related-links': () => [],
    'steps-informal': item,
  };
  return { inlines, linked, blocks, block };
}
