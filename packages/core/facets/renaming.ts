import { isElement, type Attributes, type Element } from '../markup/index.ts';
import { facetValuesOf, type Lens } from './lens.ts';
import { valuesOn, withValues } from './setting.ts';

export interface ValueUse {
  readonly facet: string;
  readonly value: string;
  /** On how many elements it is set. */
  readonly count: number;
}

/** Every facet value that is set in a text, with how often. */
export function valuesUsed(root: Element): ValueUse[] {
  const uses = new Map<string, ValueUse>();
  const visit = (found: Element): void => {
    for (const [facet, values] of facetValuesOf(found.attributes))
      for (const value of new Set(values)) {
        const key = JSON.stringify([facet, value]);
        uses.set(key, { facet, value, count: (uses.get(key)?.count ?? 0) + 1 });
      }
    for (const child of found.children) if (isElement(child)) visit(child);
  };
  visit(root);
  return [...uses.values()];
}

/**
 * The attributes with another value in the place of one, or without it; the same where it is not
 * set.
 */
export function withOtherValue(
  attributes: Attributes,
  facet: string,
  from: string,
  to: string | undefined,
): Attributes {
  const values = valuesOn(attributes, facet);
  return values.includes(from)
    ? withValues(attributes, facet, [
        ...new Set(values.flatMap((value) => (value === from ? (to ?? []) : [value]))),
      ])
    : attributes;
}

/**
 * Sets another value wherever one of a facet is set; without another one, it goes.
 * The same element is given back where nothing changes. An element that has both values keeps one
 * of them.
 */
export function replaceValue(
  root: Element,
  facet: string,
  from: string,
  to: string | undefined,
): Element {
  const children = root.children.map((child) =>
    isElement(child) ? replaceValue(child, facet, from, to) : child,
  );
  const attributes = withOtherValue(root.attributes, facet, from, to);
  const isSame =
    attributes === root.attributes &&
    children.every((child, index) => child === root.children[index]);
  return isSame ? root : { ...root, attributes, children };
}

/**
 * The lens with its decisions on a value made on another one. Of two decisions on the same value
 * the first stays.
 */
export function replaceInLens<Named extends Lens>(
  lens: Named,
  facet: string,
  from: string,
  to: string,
): Named {
  const renamed = lens.rules.map((rule) =>
    rule.facet === facet && rule.value === from ? { ...rule, value: to } : rule,
  );
  const rules = renamed.filter(
    (rule, index) =>
      rule.value === undefined ||
      renamed.findIndex((one) => one.facet === rule.facet && one.value === rule.value) === index,
  );
  return { ...lens, rules };
}
