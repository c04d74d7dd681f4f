import type { ResolvedElement, Target } from '@ukiyo/core/compose';
import { basesOf, isA } from '@ukiyo/core/grammar';
import {
  childElements,
  childNamed,
  isElement,
  lineOf,
  type Element,
  type Node,
} from '@ukiyo/core/markup';
import { linesOfText, readMedia } from '@ukiyo/core/media';
import { gridOf } from '@ukiyo/core/tables';
import type {
  Block,
  Caption,
  Definition,
  Figure,
  ListItem,
  List,
  Picture,
  StepRun,
  TableGrid,
  WordName,
} from './block.ts';
import { flowOf, phraseFor } from './flow.ts';
import { syntaxLines } from './syntax.ts';
import { tableGrid } from './tables.ts';

/** What normalising needs from outside. */
export interface Normalizing {
  /** What an anchor leads to, with its number. */
  target(anchor: string): Pick<Target, 'kind' | 'number'> | undefined;
  /** The text of a file of code; undefined where it has none. */
  fileText(id: string): string | undefined;
  /** How many blocks and inline elements may be nested; below that only the text is kept. */
  readonly deepest: number;
}

/** What a walk through a topic carries along. @see Normalizing */
interface Walk extends Normalizing {
  readonly depth: number;
}

const children = (element: ResolvedElement): readonly ResolvedElement[] =>
  childElements(element) as ResolvedElement[];
const child = (element: ResolvedElement, name: string): ResolvedElement | undefined =>
  childNamed(element, name) as ResolvedElement | undefined;

/**
 * The content of a topic without its title and links.
 * @param content the resolved root element of the topic
 */
export function topicBlocks(content: ResolvedElement, normalizing: Normalizing): Block[] {
  return children(content).flatMap((part) =>
    isA(part.name, 'body') || part.name === 'abstract'
      ? normalizeBlocks(part.children, normalizing)
      : blockOf(part, { ...normalizing, depth: 1 }),
  );
}

/** Mixed content as blocks; text between blocks becomes paragraphs without an element. */
export const normalizeBlocks = (nodes: readonly Node[], normalizing: Normalizing): Block[] =>
  blocksOf(nodes, { ...normalizing, depth: 0 });

function blocksOf(nodes: readonly Node[], walk: Walk): Block[] {
  return flowOf(nodes).flatMap((part) =>
    part.kind === 'block'
      ? blockOf(part.element as ResolvedElement, { ...walk, depth: walk.depth + 1 })
      : textBlocks(part.nodes, walk),
  );
}

/** An element as a block; titles and links of a topic are shown elsewhere. */
function blockOf(element: ResolvedElement, walk: Walk): Block[] {
  if (walk.depth > walk.deepest) return [{ kind: 'flattened', element, text: lineOf(element) }];
  const name = basesOf(element.name).find((one) => one in makers);
  return name === undefined ? [group(element, walk)] : makers[name]!(element, walk);
}

type Maker = (element: ResolvedElement, walk: Walk) => Block[];

const group = (element: ResolvedElement, walk: Walk): Block => ({
  kind: 'group',
  element,
  blocks: blocksOf(element.children, walk),
});

const itemOf = (element: ResolvedElement, walk: Walk): ListItem => ({
  element,
  blocks: blocksOf(element.children, walk),
});

/** Text with inline elements, cut where it is nested too deeply. */
function linesOf(nodes: readonly Node[], { depth, deepest }: Walk): readonly Node[] {
  const isTooDeep = (within: readonly Node[], left: number): boolean =>
    within.some((node) => isElement(node) && (left === 0 || isTooDeep(node.children, left - 1)));
  const cut = (node: Node, left: number): Node => {
    if (!isElement(node)) return node;
    const inside = left === 0 ? [lineOf(node)] : node.children.map((one) => cut(one, left - 1));
    return { ...node, children: inside };
  };
  const left = deepest - depth;
  return isTooDeep(nodes, left + 1) ? nodes.map((node) => cut(node, left)) : nodes;
}

/** A paragraph, or the image that stands alone in it. */
function textBlocks(nodes: readonly Node[], walk: Walk, element?: ResolvedElement): Block[] {
  const own = element === undefined ? {} : { element };
  const images = imagesAlone(nodes);
  return images
    ? pictureBlocks({ kind: 'picture', images, ...own })
    : [{ kind: 'paragraph', nodes: linesOf(withDescriptions(nodes), walk), ...own }];
}

/** Behind images in a line, links to their long descriptions in brackets. */
function withDescriptions(nodes: readonly Node[]): readonly Node[] {
  if (!nodes.some((node) => isElement(node) && isDescribed(node))) return nodes;
  return nodes.flatMap((node): readonly Node[] => {
    if (!isElement(node)) return [node];
    const inside = { ...node, children: withDescriptions(node.children) };
    const link = node.name === 'image' ? childNamed(node, 'longdescref') : undefined;
    if (!link) return [inside];
    const words = [' (', { ...link, name: 'xref' }, ')'];
    return [node, phraseFor(node as ResolvedElement, words)];
  });
}
const isDescribed = (element: Element): boolean =>
  element.children.some(
    (one) =>
      isElement(one) &&
      (((one as ResolvedElement).link !== undefined && one.name === 'longdescref') ||
        isDescribed(one)),
  );

/** A picture, and links to the long descriptions of its images (DITA 1.3, `longdescref`). */
const pictureBlocks = (picture: Picture): Block[] => [
  picture,
  ...picture.images.flatMap((image): Block[] => {
    const link = child(image, 'longdescref');
    if (link?.link === undefined) return [];
    const nodes = [{ ...link, name: 'xref' }];
    const { when } = image;
    const element = when ? { ...within(link), when } : within(link);
    return [{ kind: 'form', element, word: 'description', nodes }];
  }),
];

/** One image, or images of which each reader gets one. */
function imagesAlone(nodes: readonly Node[]): readonly ResolvedElement[] | undefined {
  const images = nodes.filter(
    (node): node is ResolvedElement => isElement(node) && node.name === 'image',
  );
  const [first] = images;
  if (!first || images.length < nodes.length) return undefined;
  const isChoice = images.every(
    ({ attributes, when }) =>
      attributes['keyref'] === first.attributes['keyref'] && when !== undefined,
  );
  return images.length === 1 || isChoice ? images : undefined;
}

function paragraph(element: ResolvedElement, walk: Walk): Block[] {
  const [only, ...more] = flowOf(element.children);
  return only?.kind === 'run' && more.length === 0
    ? textBlocks(only.nodes, walk, element)
    : [group(element, walk)];
}

/** The title of an element with its number; examples alone among sections have one. */
function captionOf(
  element: ResolvedElement,
  { target }: Walk,
  isNumbered: (kind: Target['kind']) => boolean = () => true,
): { readonly caption?: Caption } {
  const title = child(element, 'title') ?? ownTitle(element);
  if (!title) return {};
  const found = element.anchor === undefined ? undefined : target(element.anchor);
  return found?.number !== undefined && isNumbered(found.kind)
    ? { caption: { title, number: found.number } }
    : { caption: { title } };
}

/** A title that an element has as an attribute (DITA 1.3, `spectitle`). */
const ownTitle = ({ attributes, origin }: ResolvedElement): ResolvedElement | undefined =>
  attributes['spectitle'] === undefined
    ? undefined
    : { name: 'title', attributes: {}, children: [attributes['spectitle']], origin };

/** Blocks that have no place for a title, under one of their own. */
function entitled(element: ResolvedElement, blocks: readonly Block[]): Block[] {
  const title = ownTitle(element);
  if (!title) return [...blocks];
  return [{ kind: 'paragraph', nodes: [{ ...title, name: 'b' }] }, ...blocks];
}

/** What is said of a figure or table below its title. */
function descriptionOf(element: ResolvedElement, walk: Walk) {
  const description = child(element, 'desc');
  return description ? { description: linesOf(description.children, walk) } : {};
}

const section =
  (label?: WordName): Maker =>
  (element, walk) => {
    const caption = captionOf(element, walk, (kind) => kind === 'example');
    return [
      {
        kind: 'section',
        element,
        blocks: blocksOf(element.children, walk),
        ...caption,
        ...(label === undefined ? {} : { label }),
      },
    ];
  };

const list =
  (form: List['form']): Maker =>
  (element, walk) =>
    entitled(element, [
      { kind: 'list', element, form, items: children(element).map((one) => itemOf(one, walk)) },
    ]);

const steps =
  (isNumbered: boolean, isNested = false): Maker =>
  (element, walk) => {
    const runs: StepRun[] = [];
    let items: ListItem[] = [];
    let start = 1;
    const end = (): void => {
      if (items.length > 0) runs.push({ kind: 'steps', start, items });
      start += items.length;
      items = [];
    };
    for (const part of children(element)) {
      if (part.name === 'stepsection') {
        end();
        runs.push({ kind: 'between', ...itemOf(part, walk) });
      } else items.push(step(part, walk));
    }
    end();
    return [{ kind: 'steps', element, isNumbered, isNested, runs }];
  };

function step(element: ResolvedElement, walk: Walk): ListItem {
  const { importance } = element.attributes;
  const isSaid = importance === 'optional' || importance === 'required';
  return {
    element,
    blocks: children(element)
      .flatMap((part) => blockOf(part, walk))
      .map((block) => (isSaid && block.kind === 'command' ? { ...block, importance } : block)),
  };
}

const definitions: Maker = (element, walk) => {
  const entries = children(element)
    .filter(({ name }) => isA(name, 'dlentry') || name === 'dlhead')
    .map((entry): Definition => ({
      element: entry,
      terms: children(entry).filter(({ name }) => isA(name, 'dt') || name === 'dthd'),
      meanings: children(entry)
        .filter(({ name }) => isA(name, 'dd') || name === 'ddhd')
        .map((part) => itemOf(part, walk)),
      ...(entry.name === 'dlhead' ? { isHead: true } : {}),
    }));
  return entitled(element, [{ kind: 'definitions', element, entries }]);
};

/** Titles, descriptions and areas of a figure are shown in other ways than its content. */
const figure: Maker = (element, walk) => {
  const areas = children(element).filter(({ name }) => name === 'area');
  const image = child(element, 'image');
  const picture: Picture | undefined = image && { kind: 'picture', images: [image] };
  const blocks = children(element)
    .filter(({ name }) => !['title', 'desc', 'area'].includes(name))
    .flatMap((part) => (part === image ? pictureBlocks(picture!) : blocksOf([part], walk)));
  const made: Figure = {
    kind: 'figure',
    element,
    blocks,
    areas,
    ...captionOf(element, walk),
    ...descriptionOf(element, walk),
  };
  return [picture ? { ...made, picture } : made];
};

/**
 * A syntax diagram as a figure: its drawing, and a line of code for each of its blocks and
 * fragments, which can be searched, copied and read aloud.
 */
const syntaxDiagram: Maker = (element, walk) => {
  const drawing = child(element, 'image');
  const lines = syntaxLines(element).map(({ element: part, nodes }): Block => ({
    kind: 'code',
    element: part === element ? within(part) : part,
    nodes: linesOf(nodes, walk),
  }));
  return [
    {
      kind: 'figure',
      element,
      areas: [],
      blocks: drawing ? [{ kind: 'picture', images: [drawing] }, ...lines] : lines,
      ...captionOf(element, walk),
      ...descriptionOf(element, walk),
    },
  ];
};

const table: Maker = (element, walk) => {
  const groups = children(element).filter(({ name }) => name === 'tgroup');
  const grids = (groups.length > 0 ? groups : [element]).map((one) =>
    gridBlocks(one, element, walk),
  );
  return [
    {
      kind: 'table',
      element,
      grids,
      ...captionOf(element, walk),
      ...descriptionOf(element, walk),
    },
  ];
};

/** @param source a `tgroup`, or a table that has no groups */
function gridBlocks(source: ResolvedElement, around: ResolvedElement, walk: Walk): TableGrid {
  const grid = tableGrid(gridOf(source, around), (nodes) => blocksOf(nodes, walk));
  return {
    ...grid,
    problems: grid.problems.map((found) => ({ ...found, where: source.origin })),
  };
}

/** The lines of a file that a reference to code names. */
function quoted({ attributes }: Element, { fileText }: Walk): string {
  const [file = '', fragment] = (attributes['href'] ?? '').split('#', 2);
  const whole = fileText(file.slice('asset:'.length));
  return whole === undefined ? '' : linesOfText(whole, fragment);
}

const code: Maker = (element, walk) => {
  const language = /language-([\w-]+)/u.exec(element.attributes['outputclass'] ?? '')?.[1];
  const nodes = element.children.map((node) =>
    isElement(node) && node.name === 'coderef' ? quoted(node, walk) : node,
  );
  const made = { kind: 'code', element, nodes: linesOf(nodes, walk) } as const;
  return entitled(element, [language === undefined ? made : { ...made, language }]);
};

const lines =
  (kind: 'lead' | 'lines' | 'command'): Maker =>
  (element, walk) =>
    entitled(element, [{ kind, element, nodes: linesOf(element.children, walk) }]);

const media: Maker = (element) => {
  const read = readMedia(element);
  return [read ? { kind: 'media', element, media: read } : { kind: 'media', element }];
};

const container =
  (kind: 'note' | 'step-detail'): Maker =>
  (element, walk) => [{ kind, element, blocks: blocksOf(element.children, walk) }];

/** A long quotation, and where it is from. */
const quotation: Maker = (element, walk) => {
  const { attributes, link } = element;
  const title = attributes['reftitle'];
  const named: ResolvedElement[] =
    title === undefined && link === undefined
      ? []
      : [{ ...within(element), name: 'xref', children: title === undefined ? [] : [title] }];
  const sources = [
    ...named.map((one) => (link === undefined ? one : { ...one, link })),
    ...children(element)
      .filter(({ name }) => name === 'longquoteref')
      .map((one) => ({ ...one, name: 'xref' })),
  ];
  return [
    {
      kind: 'quote',
      element,
      blocks: [
        ...blocksOf(
          element.children.filter((node) => !isElement(node) || node.name !== 'longquoteref'),
          walk,
        ),
        ...sources.map((source): Block => ({ kind: 'paragraph', nodes: ['— ', source] })),
      ],
    },
  ];
};

const hazard: Maker = (element, walk) => [
  {
    kind: 'hazard',
    element,
    symbols: children(element)
      .filter(({ name }) => isA(name, 'image'))
      .map((image) => ({ kind: 'picture', images: [image] })),
    panels: children(element)
      .filter(({ name }) => name === 'messagepanel')
      .map((panel) => ({
        element: panel,
        parts: children(panel).map((part) => itemOf(part, walk)),
      })),
  },
];

/** An element whose anchor, condition and marks are those of the block around it. */
const within = ({
  name,
  attributes,
  children: inner,
  origin,
}: ResolvedElement): ResolvedElement => ({
  name,
  attributes,
  children: inner,
  origin,
});

/** Requirements of a task under the word for them; each person has skills and so on below. */
const requirements =
  (label: WordName): Maker =>
  (element, walk) => {
    const items: { readonly element: ResolvedElement; readonly details: ResolvedElement[] }[] = [];
    for (const part of children(element)) {
      if (['perscat', 'perskill', 'esttime'].includes(part.name)) items.at(-1)?.details.push(part);
      else items.push({ element: part, details: [] });
    }
    const listed = items.map(({ element: item, details }): ListItem => ({
      element: item,
      blocks: [
        ...contentOf(item, walk),
        ...(details.length === 0 ? [] : [plainList(within(item), details, walk)]),
      ],
    }));
    return [
      {
        kind: 'section',
        element,
        label,
        blocks: [{ kind: 'list', element: within(element), form: 'bulleted', items: listed }],
      },
    ];
  };

const plainList = (
  element: ResolvedElement,
  items: readonly ResolvedElement[],
  walk: Walk,
): List => ({
  kind: 'list',
  element,
  form: 'plain',
  items: items.map((one) => itemOf(one, walk)),
});

/** What an item says: that there is none of its kind, or its content. */
const contentOf = (item: ResolvedElement, walk: Walk): readonly Block[] =>
  nothingRequired.has(item.name)
    ? [{ kind: 'stated', element: within(item), word: 'none' }]
    : blocksOf(item.children, walk);
const nothingRequired = new Set(['noconds', 'nosafety', 'nosupeq', 'nosupply', 'nospares']);

const termForm =
  (word: WordName): Maker =>
  (element, walk) => [{ kind: 'form', element, word, nodes: linesOf(element.children, walk) }];

const stated =
  (word: WordName): Maker =>
  (element) => [{ kind: 'stated', element, word }];

/** An equation whose formulas are as large as there is room; its number in brackets, as usual. */
const equation: Maker = (element, walk) => {
  const number = child(element, 'equation-number');
  const nodes = element.children.flatMap((part): Node[] => {
    if (part === number) return [];
    return isElement(part) && part.name === 'mathml'
      ? [{ ...part, attributes: { ...part.attributes, display: 'block' } }]
      : [part];
  });
  const isBracketed = number !== undefined && /^\s*\(/u.test(lineOf(number));
  const made = { kind: 'equation', element, nodes: linesOf(nodes, walk) } as const;
  if (!number) return [made];
  return [{ ...made, number: isBracketed ? [number] : ['(', number, ')'] }];
};

const nothing: Maker = () => [];

/** By the element, or by one that it is a specialisation of; all others are groups. */
const makers: Readonly<Record<string, Maker>> = {
  title: nothing,
  'related-links': nothing,
  p: paragraph,
  shortdesc: lines('lead'),
  cmd: lines('command'),
  lines: lines('lines'),
  pre: code,
  lq: quotation,
  figgroup: section(),
  glossgroup: section(),
  glossAbbreviation: termForm('abbreviation'),
  glossAcronym: termForm('acronym'),
  glossShortForm: termForm('shortForm'),
  glossSynonym: termForm('synonym'),
  note: container('note'),
  hazardstatement: hazard,
  itemgroup: container('step-detail'),
  ul: list('bulleted'),
  ol: list('numbered'),
  sl: list('plain'),
  dl: definitions,
  steps: steps(true),
  'steps-unordered': steps(false),
  substeps: steps(true, true),
  'steps-informal': (element, walk) => [group(element, walk)],
  fig: figure,
  'equation-block': equation,
  syntaxdiagram: syntaxDiagram,
  table,
  simpletable: table,
  image: (element) => pictureBlocks({ kind: 'picture', images: [element] }),
  object: media,
  section: section(),
  example: section('example'),
  refsyn: section('syntax'),
  prereq: section('prerequisites'),
  result: section('result'),
  postreq: section('next'),
  tasktroubleshooting: section('troubleshooting'),
  condition: section('condition'),
  cause: section('cause'),
  remedy: section('remedy'),
  reqconds: requirements('conditions'),
  reqpers: requirements('personnel'),
  safety: requirements('safety'),
  supequip: section('equipment'),
  supplies: section('supplies'),
  spares: section('spares'),
  nosupeq: stated('none'),
  nosupply: stated('none'),
  nospares: stated('none'),
};
