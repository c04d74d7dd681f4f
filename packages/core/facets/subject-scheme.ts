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

/**
 * Reads the facets of a subject-scheme map (DITA 1.3, 2.2.3.5): each enumeration binds an attribute
 * to a subject, whose subjects are the values. Problems: `scheme.unbound` for an enumeration
 * without an attribute or a subject; and those of the XML reader.
 */
export function readSubjectScheme(text: string): {
  facets: readonly Facet[];
  problems: readonly Problem[];
} {
  const { document, problems } = readXml(text);
  if (!document || !isSubjectScheme(document.root)) return { facets: [], problems };
  const found: Problem[] = [];
  const subjects = new Map<string, Element>();
  const gather = (parent: Element): void =>
    childElements(parent).forEach((child) => {
      if (!isOfSubjects(child)) return;
      const key = child.attributes['keys'];
      if (key !== undefined && !subjects.has(key)) subjects.set(key, child);
      gather(child);
    });
  gather(document.root);
  const facets = childElements(document.root)
    // One that holds for a single element is no facet: it is kept in its file.
    .filter((one) => one.name === 'enumerationdef' && !childNamed(one, 'elementdef'))
    .flatMap((binding): Facet[] => {
      const name = childNamed(binding, 'attributedef')?.attributes['name'];
      const key = childNamed(binding, 'subjectdef')?.attributes['keyref'] ?? '';
      const subject = subjects.get(key);
      if (name === undefined || name === '' || !subject) {
        found.push(
          problem(
            'warning',
            'scheme.unbound',
            `The list of facets binds “${key}” to “${name ?? ''}”, one of which is not ` +
              'there. It is left out.',
          ),
        );
        return [];
      }
      return [{ name, label: titleOf(subject) ?? name, values: valuesIn(subject, 0) }];
    });
  return { facets, problems: found };
}

function valuesIn(subject: Element, depth: number): FacetValue[] {
  if (depth > deepest) return [];
  return childElements(subject).flatMap((child): FacetValue[] => {
    const name = child.attributes['keys'];
    if (isHolder(child)) return valuesIn(child, depth + 1);
    if (child.name !== 'subjectdef' || name === undefined || name === '') return [];
    const values = valuesIn(child, depth + 1);
    return [
      {
        name,
        label: titleOf(child) ?? name,
        ...mannerOf(child),
        ...(values.length > 0 ? { values } : {}),
      },
    ];
  });
}

function titleOf(subject: Element): string | undefined {
  const meta = childNamed(subject, 'topicmeta');
  const title = meta && childNamed(meta, 'navtitle');
  return title ? lineOf(title) : subject.attributes['navtitle'];
}

/**
 * How a value is shown and whether it is still offered, in the subject's metadata; what cannot be
 * read is left out.
 */
function mannerOf(subject: Element): Partial<FacetValue> {
  const meta = childNamed(subject, 'topicmeta');
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
  const keyOf = ({ name }: Facet): string => `facet:${name}`;
  const scheme = element(rootName, {}, [
    ...facets.map((facet) =>
      subject({ name: keyOf(facet), label: facet.label, values: facet.values }),
    ),
    ...facets.map((facet) =>
      element('enumerationdef', {}, [
        element('attributedef', { name: facet.name }),
        element('subjectdef', { keyref: keyOf(facet) }),
      ]),
    ),
  ]);
  return writeXml(scheme, (one) => one.name !== 'navtitle' && one.name !== 'shortdesc');
}
