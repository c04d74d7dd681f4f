import { profilingAttributes } from '../grammar/index.ts';
import type { Attributes, Element } from '../markup/index.ts';
import { facetValuesOf } from './lens.ts';

const isAttribute = (facet: string): boolean =>
  (profilingAttributes as readonly string[]).includes(facet);
const anyGroup = /[^\s()]+\([^)]*\)/gu;

function setOrGone(attributes: Attributes, name: string, value: string): Attributes {
  const { [name]: _old, ...rest } = attributes;
  return value === '' ? rest : { ...rest, [name]: value };
}

/** The values that an element has on one facet, wherever they are written. */
export const valuesOn = (attributes: Attributes, facet: string): readonly string[] =>
  facetValuesOf(attributes).get(facet) ?? [];

/**
 * The attributes with these values on one facet and no others: in a group of `props` where they
 * stand in one already or where the facet has no attribute of its own (DITA 1.3, 2.4.3.2), else in
 * its attribute. No empty attribute is left.
 */
export function withValues(
  attributes: Attributes,
  facet: string,
  values: readonly string[],
): Attributes {
  const props = attributes['props'] ?? '';
  const groups = props.match(anyGroup) ?? [];
  const loose = props.replace(anyGroup, ' ').trim();
  if (facet === 'props') return setOrGone(attributes, 'props', [...values, ...groups].join(' '));
  const others = groups.filter((group) => !group.startsWith(`${facet}(`));
  if (isAttribute(facet) && others.length === groups.length)
    return setOrGone(attributes, facet, values.join(' '));
  const group = values.length > 0 ? [`${facet}(${values.join(' ')})`] : [];
  const outside = isAttribute(facet) ? setOrGone(attributes, facet, '') : attributes;
  return setOrGone(
    outside,
    'props',
    [loose, ...others, ...group].filter((part) => part !== '').join(' '),
  );
}

/** The attributes that say for whom an element is. */
export const conditionsOf = ({ attributes }: Element): Attributes =>
  Object.fromEntries(Object.entries(attributes).filter(([name]) => isAttribute(name)));
