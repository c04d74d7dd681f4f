import { isElement, type Attributes, type Element } from '../markup/index.ts';
import { isKept, keptAttributes } from './kept.ts';
import { attributeOf, definitionOf } from './table.ts';
import { learningElements } from './elements/learning.ts';

/**
 * The nearest element of the content model that an element specialises: as its `class` says, or as
 * is known of the learning and training domains. A `class` that speaks of another element lies.
 */
function baseOf({ name, attributes }: Element): string | undefined {
  const path = (attributes['class'] ?? '')
    .trim()
    .split(/\s+/u)
    .flatMap((part) => (part.includes('/') ? [part.slice(part.indexOf('/') + 1)] : []));
  if (path.at(-1) === name) return path.findLast((one) => definitionOf(one));
  return path.length === 0 ? learningElements.get(name) : undefined;
}

/** Names in `a(props name)` of `domains`, and `@props/name` of `specializations`. */
function declaredProps({ domains = '', specializations = '' }: Attributes): readonly string[] {
  return [
    ...[...domains.matchAll(/a\(props\s+([^)]*)\)/gu)].map((found) => found[1]!),
    ...[...specializations.matchAll(/@props\/(\S+)/gu)].map((found) => found[1]!),
  ].flatMap((names) =>
    names
      .trim()
      .split(/[\s/]+/u)
      .slice(-1),
  );
}

/**
 * A text whose specialised elements and attributes have the names of what they specialise (DITA
 * 1.3, 2.5.4 “Generalization”). What they were called is kept beside them.
 * @param props attributes that are specialised from `props` beside those that the text declares
 */
export function generalise(root: Element, props: readonly string[] = []): Element {
  const names = [...new Set([...declaredProps(root.attributes), ...props])];
  let found = new Set<string>();
  const change = (element: Element): Element => {
    const base = definitionOf(element.name) ? undefined : baseOf(element);
    const children = element.children.map((child) => (isElement(child) ? change(child) : child));
    const own = names.filter(
      (name) =>
        element.attributes[name] !== undefined &&
        attributeOf(base ?? element.name, name) === undefined,
    );
    if (own.length > 0) found = new Set([...found, ...own]);
    const isSame = children.every((child, at) => child === element.children[at]);
    if (base === undefined && own.length === 0) return isSame ? element : { ...element, children };
    return {
      name: base ?? element.name,
      attributes: {
        ...asGroups(element.attributes, own),
        ...(base === undefined ? {} : { [keptAttributes.name]: element.name }),
      },
      children,
    };
  };
  const made = change(root);
  return found.size === 0
    ? made
    : { ...made, attributes: { ...made.attributes, [keptAttributes.props]: [...found].join(' ') } };
}

function asGroups(attributes: Attributes, names: readonly string[]): Attributes {
  if (names.length === 0) return attributes;
  const others = Object.entries(attributes).filter(([name]) => !names.includes(name));
  const groups = names.map((name) => `${name}(${attributes[name]!.trim()})`);
  const { props } = attributes;
  return {
    ...Object.fromEntries(others),
    props: [...(props === undefined ? [] : [props]), ...groups].join(' '),
  };
}

/** The text as it was before it was generalised, without what only keeps something. */
export function respecialise(root: Element): Element {
  const names = (root.attributes[keptAttributes.props] ?? '')
    .split(' ')
    .filter((name) => name !== '');
  const change = (element: Element): Element => {
    const children = element.children.map((child) => (isElement(child) ? change(child) : child));
    const written = element.attributes[keptAttributes.name];
    const name = written !== undefined && isName(written) ? written : element.name;
    const attributes = withoutGroups(element.attributes, names);
    const isSame =
      name === element.name &&
      attributes === element.attributes &&
      children.every((child, at) => child === element.children[at]);
    return isSame ? element : { name, attributes, children };
  };
  return change(root);
}

/** What is kept may have been written by hand. */
const isName = (text: string): boolean => /^[\p{L}_][\p{L}\p{N}._:-]*$/u.test(text);

function withoutGroups(attributes: Attributes, names: readonly string[]): Attributes {
  const { props = '' } = attributes;
  const groups = names.flatMap((name) => {
    const values = new RegExp(`(?:^|\\s)${escaped(name)}\\(([^)]*)\\)`, 'u').exec(props);
    return values ? [{ name, values: values[1]!, written: values[0] }] : [];
  });
  const isPlain = groups.length === 0 && !Object.keys(attributes).some(isKept);
  if (isPlain) return attributes;
  const rest = groups.reduce((text, { written }) => text.replace(written, ''), props).trim();
  const { props: _props, ...others } = Object.fromEntries(
    Object.entries(attributes).filter(([name]) => !isKept(name)),
  );
  return {
    ...others,
    ...(rest === '' ? {} : { props: rest }),
    ...Object.fromEntries(groups.map(({ name, values }) => [name, values])),
  };
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/gu, '\\$&');
