import { isA, isExpandable, stylesOf } from '../grammar/index.ts';
import { childElements, type Element } from '../markup/index.ts';
import { noteKinds, rootRole } from './roles.ts';
import { teamStyle, type StyleSheet } from './sheet.ts';

const inside = (ancestors: readonly string[], ...names: readonly string[]): boolean =>
  ancestors.some((one) => names.includes(one));

/**
 * Roles that elements have by what they are. The first that fits holds; headings of topics are
 * given by maps, and have none here.
 */
const byElement: readonly (readonly [
  element: string,
  role: (element: Element, ancestors: readonly string[]) => string | undefined,
])[] = [
  ['shortdesc', () => 'lead'],
  [
    'title',
    (_element, ancestors) =>
      ({
        fig: 'figure-title',
        table: 'table-title',
        simpletable: 'table-title',
        section: 'block-heading',
        example: 'block-heading',
      })[ancestors.at(-1) ?? ''],
  ],
  ['choices', () => 'bullet-list'],
  ['substeps', () => 'substeps'],
  ['steps', () => 'steps'],
  [
    'ul',
    (_element, ancestors) => (inside(ancestors, 'ul', 'ol') ? 'bullet-list-2' : 'bullet-list'),
  ],
  [
    'ol',
    (_element, ancestors) => (inside(ancestors, 'ul', 'ol') ? 'numbered-list-2' : 'numbered-list'),
  ],
  ['sl', () => 'simple-list'],
  ['dl', () => 'term-list'],
  ['dt', () => 'term-name'],
  [
    'note',
    ({ attributes: { type = 'note' } }) =>
      type !== 'note' && (noteKinds as readonly string[]).includes(type) ? `note-${type}` : 'note',
  ],
  ['table', () => 'table'],
  ['simpletable', () => 'table'],
  ['entry', (_element, ancestors) => (inside(ancestors, 'thead') ? 'table-head' : 'table-cell')],
  ['stentry', (_element, ancestors) => (inside(ancestors, 'sthead') ? 'table-head' : 'table-cell')],
  ['fig', () => 'figure'],
  ['codeblock', () => 'code-block'],
  ['codeph', () => 'code'],
  ['pre', () => 'code-block'],
  ['lines', () => 'lines'],
  ['lq', () => 'quote'],
  ['fn', () => 'footnote'],
  ['q', () => 'quoted'],
  ['uicontrol', () => 'control'],
  ['b', () => 'bold'],
  ['i', () => 'italic'],
  ['xref', () => 'link'],
  ['cmd', () => 'paragraph'],
  ['p', () => 'paragraph'],
];

/**
 * The style that an element has: one of the team's own, else that of its role.
 * @param ancestors from the outside in
 */
export function styleOf(
  sheet: StyleSheet,
  element: Element,
  ancestors: readonly string[],
): string | undefined {
  const own = teamStyle(sheet, element.name, ancestors, element.attributes['outputclass']);
  if (own === undefined && isA(element.name, 'ph') && isExpandable(element.attributes))
    return 'expandable';
  return own ?? byElement.find(([name]) => isA(element.name, name))?.[1](element, ancestors);
}

/** How often something is there, and in which items. */
export interface Uses {
  readonly count: number;
  readonly items: Readonly<Record<string, number>>;
}
/**
 * A look that content asks for by its `outputclass` and that no style gives it, with the style from
 * which one for it would best begin.
 */
export interface Unstyled extends Uses {
  readonly outputclass: string;
  readonly element: string;
  readonly base: string;
}
export interface StyleUses {
  readonly uses: Readonly<Record<string, Uses>>;
  readonly unstyled: readonly Unstyled[];
}

/** Values of `outputclass` that say what something does, not how it looks. */
const isLook = (outputclass: string): boolean =>
  !['expandable', 'new-window'].includes(outputclass) && !outputclass.startsWith('language-');

class Counter {
  count = 0;
  readonly items: Record<string, number> = {};
  add(item: string): void {
    this.count += 1;
    this.items[item] = (this.items[item] ?? 0) + 1;
  }
}

/** Where the styles of a sheet are used, and which looks no style gives. */
export function styleUses(
  sheet: StyleSheet,
  topics: Iterable<{ readonly id: string; readonly root: Element }>,
): StyleUses {
  const counts = new Map<string, Counter>();
  const unstyled = new Map<
    string,
    Counter & { outputclass: string; element: string; base: string }
  >();
  const isGiven = (outputclass: string, element: Element, ancestors: readonly string[]): boolean =>
    sheet.styles[teamStyle(sheet, element.name, ancestors, outputclass) ?? '']?.appliesTo
      ?.outputclass === outputclass;
  const walk = (element: Element, ancestors: readonly string[], item: string): void => {
    const style = styleOf(sheet, element, ancestors);
    if (style !== undefined) {
      if (!counts.has(style)) counts.set(style, new Counter());
      counts.get(style)!.add(item);
    }
    for (const outputclass of stylesOf(element.attributes)) {
      if (!isLook(outputclass) || isGiven(outputclass, element, ancestors)) continue;
      const key = `${element.name} ${outputclass}`;
      if (!unstyled.has(key))
        unstyled.set(
          key,
          Object.assign(new Counter(), {
            outputclass,
            element: element.name,
            base: style ?? rootRole,
          }),
        );
      unstyled.get(key)!.add(item);
    }
    const within = [...ancestors, element.name];
    for (const child of childElements(element)) walk(child, within, item);
  };
  for (const { id, root } of topics) walk(root, [], id);
  return {
    uses: Object.fromEntries(counts),
    unstyled: [...unstyled.values()].sort((a, b) => b.count - a.count),
  };
}
