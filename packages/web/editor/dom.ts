import {
  basesOf,
  isExpandable,
  labelOf,
  inlineStyleOf,
  type InlineStyle,
} from '@ukiyo/core/grammar';
import { editorSchema, special } from '@ukiyo/core/editing';
import { readArea } from '@ukiyo/core/imagemaps';
import { placeholderTarget } from '@ukiyo/core/rules';
import { isElement, type Attributes, type Node as XmlNode } from '@ukiyo/core/markup';
import type { DOMOutputSpec, Mark, Node } from 'prosemirror-model';

const blockTags: Readonly<Record<string, string>> = {
  topic: 'article',
  title: 'h2',
  p: 'p',
  ul: 'ul',
  ol: 'ol',
  li: 'li',
  sl: 'ul',
  sli: 'li',
  dl: 'dl',
  dt: 'dt',
  dd: 'dd',
  pre: 'pre',
  lq: 'blockquote',
  fig: 'figure',
  section: 'section',
  tgroup: 'table',
  thead: 'thead',
  tbody: 'tbody',
  row: 'tr',
  entry: 'td',
  simpletable: 'table',
  sthead: 'tr',
  strow: 'tr',
  stentry: 'td',
};
const inlineTags: Readonly<Partial<Record<InlineStyle, string>>> = {
  bold: 'b',
  italic: 'i',
  underlined: 'u',
  superscript: 'sup',
  subscript: 'sub',
  struck: 's',
  code: 'code',
  quoted: 'q',
};

const attributesOf = (node: Node | Mark): Attributes =>
  (node.attrs['attributes'] ?? {}) as Attributes;

/** Words that stand above a part so that a writer sees what it is. */
const heads = new Set([
  'prereq',
  'context',
  'steps',
  'steps-unordered',
  'steps-informal',
  'result',
  'postreq',
  'tasktroubleshooting',
  'example',
  'condition',
  'cause',
  'remedy',
  'refsyn',
  'troubleSolution',
  'stepresult',
  'steptroubleshooting',
  'fig',
  'table',
  'properties',
  'choicetable',
  'simpletable',
  'prelreqs',
  'closereqs',
  'reqconds',
  'reqpers',
  'supequip',
  'supplies',
  'spares',
  'safety',
]);

/** Elements that begin with the word for their type. */
const signalled: ReadonlySet<string> = new Set(['note', 'hazardstatement']);

function common(node: Node, element: string): Record<string, string> {
  const { type, conref, conkeyref } = attributesOf(node);
  const borrowed = conref ?? conkeyref;
  return {
    'data-element': element,
    class: [
      'el',
      ...basesOf(element).map((base) => `is-${base}`),
      ...(isExpandable(attributesOf(node)) ? ['opens'] : []),
    ].join(' '),
    ...(heads.has(element) ? { 'data-head': labelOf(element) } : {}),
    ...(signalled.has(element) ? { 'data-note': type ?? 'note' } : {}),
    ...(borrowed === undefined ? {} : { 'data-borrowed': borrowed }),
    ...(node.isTextblock && node.content.size === 0 && node.attrs['guidance']
      ? { 'data-guidance': String(node.attrs['guidance']) }
      : {}),
  };
}

/** The texts inside, each for itself: what a closed block says in short. */
function wordsIn(node: XmlNode): string[] {
  if (typeof node === 'string') return node.trim() === '' ? [] : [node.trim()];
  return isElement(node) ? node.children.flatMap(wordsIn) : [];
}

function tagOf(element: string): string {
  for (const base of basesOf(element)) {
    const tag = blockTags[base];
    if (tag !== undefined) return tag;
  }
  return 'div';
}

/**
 * How nodes of a topic look on the writer's page. Images and borrowed passages have views of their
 * own.
 */
export function nodeDom(node: Node): DOMOutputSpec {
  const { name } = node.type;
  if (name === special.line)
    return [
      'div',
      {
        class: 'line',
        ...(node.content.size === 0 && node.attrs['guidance']
          ? { 'data-guidance': String(node.attrs['guidance']) }
          : {}),
      },
      0,
    ];
  if (name === special.rawBlock || name === special.rawInline) {
    const held = node.attrs['node'] as XmlNode;
    // A specification takes no room of its own; its width is that of its column.
    if (isElement(held) && held.name === 'colspec') return ['col', { 'data-element': 'colspec' }];
    const inline = name === special.rawInline;
    const element = typeof held === 'object' && 'name' in held ? held.name : '';
    const isPlaceholder =
      typeof held === 'object' && 'target' in held && held.target === placeholderTarget;
    if (isPlaceholder)
      return [
        'span',
        {
          class: 'placeholder',
          contenteditable: 'false',
          title: 'Still to be written: type over it',
        },
        held.body,
      ];
    const label =
      element === ''
        ? typeof held === 'object' && 'comment' in held
          ? 'comment'
          : 'instruction'
        : labelOf(element);
    const area = isElement(held) && held.name === 'area' ? readArea(held) : undefined;
    const text = area
      ? area.name
      : typeof held === 'object' && 'comment' in held
        ? held.comment
        : wordsIn(held).join(' · ');
    return [
      inline ? 'span' : 'div',
      {
        class: inline ? 'raw raw-inline' : 'raw raw-block',
        'data-element': element,
        contenteditable: 'false',
        title: `${label}: ${text}`,
      },
      ['span', { class: 'raw-label' }, label],
      ...(text === '' ? [] : [' ', text.slice(0, 160)]),
    ];
  }
  const element = node.type.spec.element ?? name;
  if (node.isInline) {
    const { keyref, href } = attributesOf(node);
    const shown = keyref ?? href?.replace(/^(topic|map):/u, '') ?? labelOf(element);
    const phrase = `phrase is-${element}${isExpandable(attributesOf(node)) ? ' opens' : ''}`;
    return node.content.size === 0
      ? [
          'span',
          { class: 'variable', 'data-element': element, title: `${labelOf(element)}: ${shown}` },
          ['span', { class: 'given' }, shown],
        ]
      : ['span', { class: phrase, 'data-element': element }, 0];
  }
  const span =
    element === 'entry'
      ? { colspan: String(node.attrs['columnSpan']), rowspan: String(node.attrs['rowSpan']) }
      : {};
  const tag = node.type.spec.code ? 'pre' : tagOf(element);
  return [tag, { ...common(node, element), ...span }, 0];
}

function markDom(mark: Mark): DOMOutputSpec {
  const element = mark.type.spec.element ?? mark.type.name;
  const { href, keyref } = attributesOf(mark);
  const style = inlineStyleOf(element);
  return [
    (style && inlineTags[style]) ?? 'span',
    {
      class: `phrase is-${element}${isExpandable(attributesOf(mark)) ? ' opens' : ''}`,
      'data-element': element,
      title: `${labelOf(element)}${(href ?? keyref) ? `: ${href ?? keyref}` : ''}`,
    },
    0,
  ];
}

/** Tells the schema how it looks: the schema itself comes from the core, which knows no page. */
export function dressSchema(): typeof editorSchema {
  for (const type of Object.values(editorSchema.nodes)) if (!type.isText) type.spec.toDOM = nodeDom;
  for (const type of Object.values(editorSchema.marks)) type.spec.toDOM = markDom;
  return editorSchema;
}
