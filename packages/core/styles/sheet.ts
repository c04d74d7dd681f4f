import { problem, type Problem } from '../problems/index.ts';
import type { Numbering } from './numbering.ts';
import {
  propertyDefinition,
  faultOf,
  propertyNames,
  readRule,
  type PropertyName,
  type Value,
  type Values,
} from './properties.ts';
import { noteKinds, roleOf, rootRole, type NoteKind } from './roles.ts';

/** Paper or screen. */
export type Medium = 'print' | 'screen';

/** Which elements have a style of the team's own: all that is named has to be so. */
export interface Attachment {
  readonly element?: string;
  /** An element around it. */
  readonly within?: string;
  readonly outputclass?: string;
}

/** What a style says in both media, and what it says otherwise in one of them. */
export interface Style {
  readonly base?: string;
  readonly all?: Values;
  readonly print?: Values;
  readonly screen?: Values;
  /** Styles of the team's own have a name, a family and something that has them. */
  readonly label?: string;
  readonly family?: 'block' | 'inline';
  readonly appliesTo?: Attachment;
}

/** How the mark of a note stands to the words that it belongs to. */
export interface NoteMark {
  /** One of the marks that ship, or `asset:` and an image of the library. */
  readonly icon: string;
  readonly size: string;
  readonly place: 'margin column' | 'before the text' | 'above' | 'none';
  /**
   * Which lines meet: its top with the top of the capitals, or its foot with the first baseline.
   */
  readonly meets: 'top' | 'baseline';
  readonly words?: Readonly<Record<string, string>>;
}

export const fontFaces = ['Source Serif 4', 'Source Sans 3', 'Source Code Pro'] as const;
type FontFace = (typeof fontFaces)[number];

/** All that rules how content looks: named styles, colours and marks; nothing else does. */
export interface StyleSheet {
  readonly name: string;
  readonly about: string;
  readonly fonts: Readonly<Record<'reading' | 'finding' | 'code', FontFace>>;
  readonly colours: Readonly<Record<string, string>>;
  readonly styles: Readonly<Record<string, Style>>;
  readonly marks: Readonly<Partial<Record<NoteKind, NoteMark>>>;
  readonly numbering: Numbering;
}

const baseOf = (sheet: StyleSheet, id: string): string | undefined =>
  id === rootRole
    ? undefined
    : (sheet.styles[id]?.base ?? (roleOf(id) || sheet.styles[id] ? impliedBase(id) : undefined));
/**
 * Notes of a kind are based on all notes, unless a sheet says otherwise; everything else on all
 * text.
 */
const impliedBase = (id: string): string =>
  id.startsWith('note-') && id !== 'note-label' && noteKinds.some((kind) => id === `note-${kind}`)
    ? 'note'
    : rootRole;

/** A style and those it is based on, nearest first; a loop ends where it would begin again. */
export function styleLineage(sheet: StyleSheet, id: string): string[] {
  const line: string[] = [];
  for (
    let at: string | undefined = id;
    at !== undefined && !line.includes(at);
    at = baseOf(sheet, at)
  )
    line.push(at);
  return line;
}

const saidBy = (style: Style | undefined, medium: Medium): Values => ({
  ...style?.all,
  ...style?.[medium],
});

/**
 * What a style comes to in a medium, without what is said of all text: that is there already,
 * wherever it stands.
 */
export function valuesOf(sheet: StyleSheet, id: string, medium: Medium): Values {
  const line = styleLineage(sheet, id).filter((one) => id === rootRole || one !== rootRole);
  return line
    .toReversed()
    .reduce<Values>((values, one) => ({ ...values, ...saidBy(sheet.styles[one], medium) }), {});
}

export interface PropertySource {
  readonly value: Value;
  /** The style that says it. */
  readonly from: string;
  /** Said for this medium alone. */
  readonly isOwn: boolean;
}

/** What a property is in a medium, and which style says so; undefined where none does. */
export function propertySource(
  sheet: StyleSheet,
  id: string,
  name: PropertyName,
  medium: Medium,
): PropertySource | undefined {
  for (const from of styleLineage(sheet, id)) {
    const style = sheet.styles[from];
    const own = style?.[medium]?.[name];
    if (own !== undefined) return { value: own, from, isOwn: true };
    const shared = style?.all?.[name];
    if (shared !== undefined) return { value: shared, from, isOwn: false };
  }
  return undefined;
}

/** What a property of a style is in print, on screen, or in both. */
export interface NewValue {
  readonly name: PropertyName;
  readonly medium: Medium | 'both';
  /** undefined: the value of the style that this one is based on. */
  readonly value: Value | undefined;
}

/** The sheet with one property of a style changed. */
export function withValue(
  sheet: StyleSheet,
  id: string,
  { name, medium, value }: NewValue,
): StyleSheet {
  const style = sheet.styles[id] ?? {};
  const put = (values: Values | undefined, said: Value | undefined): Values => {
    const { [name]: _before, ...others } = values ?? {};
    return said === undefined ? others : { ...others, [name]: said };
  };
  const other: Medium = medium === 'print' ? 'screen' : 'print';
  const before = style.all?.[name];
  const changed: Style =
    medium === 'both'
      ? {
          ...style,
          all: put(style.all, value),
          print: put(style.print, undefined),
          screen: put(style.screen, undefined),
        }
      : // What was said for both stays said for the other one.
        {
          ...style,
          all: put(style.all, undefined),
          [medium]: put(style[medium], value),
          ...(before === undefined || style[other]?.[name] !== undefined
            ? {}
            : { [other]: put(style[other], before) }),
        };
  return withStyle(sheet, id, united(changed));
}

/** What is said alike for both media is said once; what says nothing is left out. */
function united(style: Style): Style {
  const shared: Record<string, Value> = { ...style.all };
  const own = {
    print: { ...style.print } as Record<string, Value>,
    screen: { ...style.screen } as Record<string, Value>,
  };
  for (const name of propertyNames) {
    if (
      own.print[name] === undefined ||
      JSON.stringify(own.print[name]) !== JSON.stringify(own.screen[name])
    )
      continue;
    shared[name] = own.print[name];
    delete own.print[name];
    delete own.screen[name];
  }
  const { all: _all, print: _print, screen: _screen, ...rest } = style;
  const filled = (values: Record<string, Value>): boolean => Object.keys(values).length > 0;
  return {
    ...rest,
    ...(filled(shared) ? { all: shared } : {}),
    ...(filled(own.print) ? { print: own.print } : {}),
    ...(filled(own.screen) ? { screen: own.screen } : {}),
  };
}

export function withStyle(sheet: StyleSheet, id: string, style: Style | undefined): StyleSheet {
  const { [id]: _before, ...others } = sheet.styles;
  return { ...sheet, styles: style === undefined ? others : { ...others, [id]: style } };
}

/**
 * The style of the team's own that an element has: that which names most of it, of equal ones the
 * last.
 * @param ancestors the names of what it stands in
 */
export function teamStyle(
  sheet: StyleSheet,
  element: string,
  ancestors: readonly string[],
  outputclass: string | undefined,
): string | undefined {
  const classes = (outputclass ?? '').split(/\s+/u);
  let best: { readonly id: string; readonly named: number } | undefined;
  for (const [id, { appliesTo }] of Object.entries(sheet.styles)) {
    if (!appliesTo || (appliesTo.element !== undefined && appliesTo.element !== element)) continue;
    if (
      (appliesTo.within !== undefined && !ancestors.includes(appliesTo.within)) ||
      (appliesTo.outputclass !== undefined && !classes.includes(appliesTo.outputclass))
    )
      continue;
    const named = Object.values(appliesTo).filter((part) => part !== undefined).length;
    if (named > 0 && named >= (best?.named ?? 0)) best = { id, named };
  }
  return best?.id;
}

/**
 * What can be wrong with a style sheet. Problems: `styles.loop`, `styles.base`, `styles.value`,
 * `styles.unknown`. Each names the style.
 */
export function checkSheet(sheet: StyleSheet): Problem[] {
  const nameOf = (id: string): string => `“${sheet.styles[id]?.label ?? roleOf(id)?.label ?? id}”`;
  return Object.entries(sheet.styles).flatMap(([id, style]): Problem[] => {
    const found: Problem[] = [];
    const where = { attribute: id };
    if (!roleOf(id) && style.label === undefined)
      found.push(
        problem(
          'error',
          'styles.unknown',
          `There is no role “${id}”, and the style has no name of its own.`,
          where,
        ),
      );
    if (style.base !== undefined && !roleOf(style.base) && !sheet.styles[style.base])
      found.push(
        problem(
          'error',
          'styles.base',
          `${nameOf(id)} is based on “${style.base}”, which does not exist.`,
          where,
        ),
      );
    const line = styleLineage(sheet, id);
    const further = baseOf(sheet, line.at(-1)!);
    if (further !== undefined && line[0] === id && line.includes(further))
      found.push(
        problem(
          'error',
          'styles.loop',
          `${nameOf(id)} is based on itself, through ` +
            `${line.slice(1).map(nameOf).join(', ') || nameOf(id)}.`,
          where,
        ),
      );
    for (const values of [style.all, style.print, style.screen])
      for (const name of Object.keys(values ?? {})) {
        const fault = propertyNames.includes(name as PropertyName)
          ? faultOf(name as PropertyName, values![name as PropertyName]!, sheet.colours)
          : `There is no property “${name}”.`;
        if (fault !== undefined)
          found.push(problem('error', 'styles.value', `${nameOf(id)}: ${fault}`, where));
      }
    return found;
  });
}

/** The colour that a name or `#rrggbb` stands for; undefined for none. */
export const colourOf = (sheet: StyleSheet, value: string): string | undefined =>
  value === 'none' ? undefined : (sheet.colours[value] ?? value);

/**
 * Notes, their marks and their names have the colour of the letters that they set, else of the rule
 * around them.
 */
export function noteColour(sheet: StyleSheet, kind: NoteKind, medium: Medium): string {
  const values = valuesOf(sheet, kind === 'note' ? 'note' : `note-${kind}`, medium);
  const rule = [values.ruleStart, values.ruleAbove, values.ruleBelow]
    .map((one) => (typeof one === 'string' ? readRule(one) : undefined))
    .find((one) => one !== undefined);
  return (
    colourOf(sheet, typeof values.colour === 'string' ? values.colour : (rule?.colour ?? 'ink')) ??
    '#000000'
  );
}

export const familyOf = (sheet: StyleSheet, id: string): 'block' | 'inline' =>
  sheet.styles[id]?.family ?? roleOf(id)?.family ?? 'block';
/** The properties that a style can say something of. */
export const propertiesFor = (family: 'block' | 'inline'): PropertyName[] =>
  propertyNames.filter(
    (name) => propertyDefinition(name).of !== (family === 'block' ? 'lines' : 'blocks'),
  );
