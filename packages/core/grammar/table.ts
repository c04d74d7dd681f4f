import { readAttributes, universalAttributes, type AttributeDefinition } from './attributes.ts';
import { compile, type State } from './automaton.ts';
import { parseContent, symbolsOf, textSymbol, type Expression } from './content.ts';
import type { ElementDefinition } from './definition.ts';
import { blockElements } from './elements/blocks.ts';
import { inlineElements } from './elements/inline.ts';
import { machineryElements } from './elements/machinery.ts';
import { mapElements } from './elements/map.ts';
import { prologElements } from './elements/prolog.ts';
import { releaseElements } from './elements/release.ts';
import { safetyElements } from './elements/safety.ts';
import { schemeElements } from './elements/scheme.ts';
import { taskElements } from './elements/task.ts';
import { technicalElements } from './elements/technical.ts';
import { topicElements } from './elements/topic.ts';

/** Every element of the content model, in the order in which it is offered and explained. */
export const elementDefinitions: readonly ElementDefinition[] = [
  ...topicElements,
  ...taskElements,
  ...machineryElements,
  ...blockElements,
  ...safetyElements,
  ...inlineElements,
  ...technicalElements,
  ...prologElements,
  ...releaseElements,
  ...mapElements,
  ...schemeElements,
];

const byName = new Map(elementDefinitions.map((definition) => [definition.name, definition]));

export function definitionOf(name: string): ElementDefinition | undefined {
  return byName.get(name);
}

/** What people read for an element; the bare name for one that the grammar does not know. */
export function labelOf(name: string): string {
  return byName.get(name)?.label ?? name;
}

function memo<Value>(
  compute: (definition: ElementDefinition) => Value,
): (name: string) => Value | undefined {
  const values = new Map<string, Value>();
  return (name) => {
    const definition = byName.get(name);
    if (!definition) return undefined;
    if (!values.has(name)) values.set(name, compute(definition));
    return values.get(name);
  };
}

export const contentOf = memo((definition): Expression => parseContent(definition.content));
export const startOf = memo((definition): State => compile(contentOf(definition.name)!));
const symbols = memo((definition) => symbolsOf(contentOf(definition.name)!));
const ownAttributes = memo((definition) => readAttributes(definition.attributes));

const allAttributes = memo((definition) => {
  const own = ownAttributes(definition.name)!;
  return new Map(
    [
      ...own,
      ...universalAttributes.filter((universal) => !own.some((one) => one.name === universal.name)),
    ].map((one) => [one.name, one]),
  );
});
const required = memo((definition) =>
  ownAttributes(definition.name)!.filter((one) => one.required),
);

/** The attributes an element may have, its own before the universal ones. */
export function attributesOf(name: string): readonly AttributeDefinition[] {
  return [
    ...(allAttributes(name) ?? new Map(universalAttributes.map((one) => [one.name, one]))).values(),
  ];
}

export function requiredAttributesOf(name: string): readonly AttributeDefinition[] {
  return required(name) ?? [];
}

export const attributeOf = (element: string, attribute: string): AttributeDefinition | undefined =>
  allAttributes(element)?.get(attribute);

const inlineNames = symbolsOf(parseContent('@inline'));
/** Elements that only ever stand inside an inline one and are read with its text. */
const insideInline = new Set([
  'index-see',
  'index-see-also',
  'index-sort-as',
  'coderef',
  'equation-number',
]);

/** Whether the element can stand in a line of text. */
export function isInline(name: string): boolean {
  return inlineNames.has(name) || insideInline.has(name);
}

/** Inline elements that hold their content apart from the line they stand in. */
const apart = new Set([
  'fn',
  'indexterm',
  'indextermref',
  'boolean',
  'draft-comment',
  'required-cleanup',
  'image',
  'object',
  'data',
  'sort-as',
  'foreign',
  'unknown',
  'mathml',
  'svg-container',
]);

/** Whether the element only formats or names words of the line, as `ph` and `uicontrol` do. */
export function isPhrase(name: string): boolean {
  return inlineNames.has(name) && !apart.has(name);
}

export type ContentKind =
  /** Elements only; white space between them means nothing. */
  | 'elements'
  /** Text and inline elements. */
  | 'text'
  /** Text, inline elements and blocks. */
  | 'flow'
  | 'empty';

export const contentKindOf = memo((definition): ContentKind => {
  const allowed = symbols(definition.name)!;
  if (allowed.size === 0) return 'empty';
  if (!allowed.has(textSymbol)) return 'elements';
  return [...allowed].some((name) => name !== textSymbol && !isInline(name)) ? 'flow' : 'text';
});

/** The names of what an element may contain, in the order of its content model. */
export const allowedIn = (parent: string): readonly string[] => [...(symbols(parent) ?? [])];

export function mayContain(parent: string, child: string): boolean {
  return symbols(parent)?.has(child) ?? false;
}

const knownBases = new Map<string, readonly string[]>();

/** The element and those it specialises, nearest first: `['step', 'li']`. */
export function basesOf(name: string): readonly string[] {
  const known = knownBases.get(name);
  if (known) return known;
  const bases: string[] = [];
  for (
    let at: string | undefined = name;
    at !== undefined && !bases.includes(at);
    at = byName.get(at)?.base
  )
    bases.push(at);
  knownBases.set(name, bases);
  return bases;
}

export function isA(name: string, base: string): boolean {
  return basesOf(name).includes(base);
}

/** Whether the element holds another vocabulary, which its own processors check. */
export const isForeign = (name: string): boolean => isA(name, 'foreign') || name === 'unknown';

export const topicKinds = [
  'concept',
  'task',
  'reference',
  'troubleshooting',
  'glossentry',
  'topic',
] as const;
export type TopicKind = (typeof topicKinds)[number];

/** What every topic kind calls its body. */
const bodyNames: Record<TopicKind, string> = {
  topic: 'body',
  concept: 'conbody',
  task: 'taskbody',
  reference: 'refbody',
  troubleshooting: 'troublebody',
  glossentry: 'glossBody',
};

export function isTopic(name: string): name is TopicKind {
  return name in bodyNames;
}

export function bodyOf(kind: TopicKind): string {
  return bodyNames[kind];
}

export function isMap(name: string): boolean {
  return isA(name, 'map');
}
