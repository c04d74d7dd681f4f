import {
  childElements,
  childNamed,
  element,
  lineOf,
  readXml,
  writeXml,
  type Element,
} from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { pigments, type Facet, type FacetValue } from './lens.ts';

const rootName = 'subjectScheme';
const deepest = 20;
/** Each level of subjects can double what is below it. */
const mostValues = 10_000;

/** Elements that hold narrower subjects and are none themselves. */
const holders: ReadonlySet<string> = new Set([
  'subjectHead',
  'hasInstance',
  'hasKind',
  'hasNarrower',
  'hasPart',
]);
const isHolder = ({ name }: Element): boolean => holders.has(name);
const isOfSubjects = (one: Element): boolean => one.name === 'subjectdef' || isHolder(one);

export const isSubjectScheme = (root: Element): boolean => root.name === rootName;

/** The root of the scheme at an address, the same each time; undefined where there is none. */
export type SchemeAt = (href: string) => Element | undefined;

/** A scheme, and all that it extends (DITA 1.3, 3.5 `schemeref`), each once. */
function withExtended(root: Element, schemeAt: SchemeAt): readonly Element[] {
  const schemes = new Set([root]);
  // A set is walked through with what is added on the way.
  for (const scheme of schemes)
    for (const { name, attributes } of childElements(scheme)) {
      const extended = name === 'schemeref' ? schemeAt(attributes['href'] ?? '') : undefined;
      if (extended && isSubjectScheme(extended)) schemes.add(extended);
    }
  return [...schemes];
}

/** Where subjects are defined, and where something is added to them, by their keys. */
interface Subjects {
  readonly defined: ReadonlyMap<string, Element>;
  readonly added: ReadonlyMap<string, readonly Element[]>;
}

function subjectsIn(schemes: readonly Element[]): Subjects {
  const defined = new Map<string, Element>();
  const added = new Map<string, Element[]>();
  const gather = (parent: Element): void =>
    childElements(parent).forEach((child) => {
      if (!isOfSubjects(child)) return;
      const { keys, keyref } = child.attributes;
      if (keys !== undefined && !defined.has(keys)) defined.set(keys, child);
      if (keyref !== undefined) added.set(keyref, [...(added.get(keyref) ?? []), child]);
      gather(child);
    });
  schemes.forEach(gather);
  return { defined, added };
}

/** All that says something of one subject, its definition first. */
function partsOf(subject: Element, { defined, added }: Subjects): readonly Element[] {
  const { keys, keyref = '' } = subject.attributes;
  const definition = keys === undefined ? defined.get(keyref) : subject;
  return [...(definition ? [definition] : []), ...(added.get(keys ?? keyref) ?? [])];
}

/**
 * Reads the facets of a subject-scheme map (DITA 1.3, 2.2.3.5): each enumeration binds an attribute
 * to a subject, whose subjects are the values. Problems: `scheme.unbound` for an enumeration
 * without an attribute or a subject; `scheme.too-large` for one with too many values; and those of
 * the XML reader.
 */
export function readSubjectScheme(
  text: string,
  schemeAt: SchemeAt = () => undefined,
): {
  facets: readonly Facet[];
  problems: readonly Problem[];
} {
  const { document, problems } = readXml(text);
  if (!document || !isSubjectScheme(document.root)) return { facets: [], problems };
  const found: Problem[] = [];
  const schemes = withExtended(document.root, schemeAt);
  const subjects = subjectsIn(schemes);
  const bound = new Set<string>();
  const facets = schemes
    .flatMap(childElements)
    // One that holds for a single element is no facet: it is kept in its file.
    .filter((one) => one.name === 'enumerationdef' && !childNamed(one, 'elementdef'))
    .flatMap((binding): Facet[] => {
      const name = childNamed(binding, 'attributedef')?.attributes['name'] ?? '';
      const key = childNamed(binding, 'subjectdef')?.attributes['keyref'] ?? '';
      const subject = subjects.defined.get(key);
      if (name === '' || !subject) {
        found.push(
          problem(
            'warning',
            'scheme.unbound',
            `The list of facets binds “${key}” to “${name}”, one of which is not there. It is ` +
              'left out.',
          ),
        );
        return [];
      }
      // What the scheme binds itself goes before what those bind that it extends.
      if (bound.has(name)) return [];
      bound.add(name);
      const label = titleIn(partsOf(subject, subjects)) ?? name;
      const { values, isCut } = valuesOf(subject, subjects);
      if (isCut)
        found.push(
          problem(
            'warning',
            'scheme.too-large',
            `The facet “${label}” has more than 10,000 values or 20 levels. The rest is left out.`,
          ),
        );
      return [{ name, label, values }];
    });
  return { facets, problems: found };
}

/** The values of a subject; one that is below itself is left out there. */
function valuesOf(
  top: Element,
  subjects: Subjects,
): { readonly values: FacetValue[]; readonly isCut: boolean } {
  let left = mostValues;
  let isTooDeep = false;
  /** @param around the parts of each subject from the top down to this one */
  const below = (
    parts: readonly Element[],
    around: readonly (readonly Element[])[],
  ): FacetValue[] => {
    const names = new Set<string>();
    return parts.flatMap(narrowerIn).flatMap((subject): FacetValue[] => {
      const name = keyOf(subject) ?? '';
      const isTwice = subject.attributes['keys'] === undefined && names.has(name);
      if (name === '' || isTwice) return [];
      left -= 1;
      isTooDeep ||= around.length > deepest;
      if (left < 0 || around.length > deepest) return [];
      const own = partsOf(subject, subjects);
      if (around.some((outer) => outer.some((part) => own.includes(part)))) return [];
      names.add(name);
      const values = below(own, [...around, own]);
      return [
        {
          name,
          label: titleIn(own) ?? name,
          ...mannerOf(own[0]),
          ...(values.length > 0 ? { values } : {}),
        },
      ];
    });
  };
  const whole = partsOf(top, subjects);
  const values = below(whole, [whole]);
  return { values, isCut: left < 0 || isTooDeep };
}

const keyOf = ({ attributes }: Element): string | undefined =>
  attributes['keys'] ?? attributes['keyref'];

/** The subjects right below one. */
const narrowerIn = (subject: Element): readonly Element[] =>
  childElements(subject).flatMap((child) => {
    if (isHolder(child)) return narrowerIn(child);
    return child.name === 'subjectdef' ? [child] : [];
  });

const titleIn = (subjects: readonly Element[]): string | undefined =>
  subjects.map(titleOf).find((title) => title !== undefined);

function titleOf(subject: Element): string | undefined {
  const meta = childNamed(subject, 'topicmeta');
  const title = meta && childNamed(meta, 'navtitle');
  return title ? lineOf(title) : subject.attributes['navtitle'];
}

/**
 * How a value is shown and whether it is still offered, in the subject's metadata; what cannot be
 * read is left out.
 */
function mannerOf(subject: Element | undefined): Partial<FacetValue> {
  const meta = subject && childNamed(subject, 'topicmeta');
  if (!meta) return {};
  const said = new Map(
    childElements(meta).flatMap(({ name, attributes }) =>
      name === 'data' ? [[attributes['name'], attributes['value'] ?? ''] as const] : [],
    ),
  );
  const short = childNamed(meta, 'shortdesc');
  const description = short ? lineOf(short) : '';
  const letters = Array.from((said.get('letters') ?? '').trim())
    .slice(0, 3)
    .join('');
  const pigment = pigments.find((one) => one === said.get('pigment'));
  return {
    ...(letters === '' ? {} : { letters }),
    ...(pigment ? { pigment } : {}),
    ...(description === '' ? {} : { description }),
    ...(said.get('retired') === 'yes' ? { retired: true } : {}),
  };
}

/** The facets as a subject-scheme map that `readSubjectScheme` reads back the same. */
export function writeSubjectScheme(facets: readonly Facet[]): string {
  const datum = (name: string, value: string | undefined): Element[] =>
    value === undefined ? [] : [element('data', { name, value })];
  const subject = ({
    name,
    label,
    letters,
    pigment,
    description,
    retired,
    values = [],
  }: FacetValue): Element =>
    element('subjectdef', { keys: name }, [
      element('topicmeta', {}, [
        element('navtitle', {}, [label]),
        ...(description === undefined ? [] : [element('shortdesc', {}, [description])]),
        ...datum('letters', letters),
        ...datum('pigment', pigment),
        ...datum('retired', retired ? 'yes' : undefined),
      ]),
      ...values.map(subject),
    ]);
  // A facet and a value may have the same name; the subject of a facet has one that no value can
  // have.
  const subjectOf = ({ name }: Facet): string => `facet:${name}`;
  const scheme = element(rootName, {}, [
    ...facets.map((facet) =>
      subject({ name: subjectOf(facet), label: facet.label, values: facet.values }),
    ),
    ...facets.map((facet) =>
      element('enumerationdef', {}, [
        element('attributedef', { name: facet.name }),
        element('subjectdef', { keyref: subjectOf(facet) }),
      ]),
    ),
  ]);
  return writeXml(scheme, (one) => one.name !== 'navtitle' && one.name !== 'shortdesc');
}
