import {
  conditionsOf,
  evaluateProfile,
  facetValuesOf,
  isSubjectScheme,
  type Facet,
  type Lens,
} from '../facets/index.ts';
import { isA, normalise } from '../grammar/index.ts';
import {
  childElements,
  childNamed,
  element,
  findAll,
  isElement,
  lineOf,
  readXml,
  walk,
  writeXml,
  type Attributes,
  type Element,
  type Node,
} from '../markup/index.ts';
import type { Path } from '../problems/index.ts';

/**
 * What a key stands for, as a map defines it (DITA 1.3, 2.4.4 “Indirect key-based addressing”): a
 * variable where it gives words.
 */
export interface KeyDefinition {
  readonly key: string;
  /** What an empty phrase with this key shows. */
  readonly text?: readonly Node[];
  /** What an empty link with this key shows. */
  readonly linkText?: readonly Node[];
  /** As it stands in the definition; absent for a key that only gives words. */
  readonly href?: string;
  /** The key that gives what this definition does not say. */
  readonly keyref?: string;
  /** Other texts that an edition may choose instead. */
  readonly choices: readonly string[];
  /** The attributes that say for whom it is. */
  readonly conditions: Attributes;
  /** Where it is for one language only. */
  readonly locale?: string;
}

export const namesIn = (text: string | undefined): string[] =>
  (text ?? '').split(/\s+/u).filter((name) => name !== '');

/**
 * The words of a key: its keyword, else its link text, else its short title (DITA 1.3, 2.4.4.6).
 * Further keywords are texts to choose from.
 */
function textsOf(
  reference: Element,
): Pick<KeyDefinition, 'text' | 'linkText'> & { readonly choices: string[] } {
  const meta = childNamed(reference, 'topicmeta');
  const short = reference.attributes['navtitle'];
  if (!meta) return { choices: [], ...(short === undefined ? {} : { text: [short] }) };
  const holder = findAll(meta, (found) => found.name === 'keywords')[0];
  const keywords = holder ? childElements(holder).filter(({ name }) => name === 'keyword') : [];
  const words =
    keywords[0] ??
    (holder && childNamed(holder, 'ph', 'term')) ??
    childNamed(meta, 'linktext', 'navtitle');
  const isGiven = words !== undefined && (lineOf(words) !== '' || childElements(words).length > 0);
  const linkText = childNamed(meta, 'linktext')?.children;
  return {
    choices: keywords.slice(1).map(lineOf),
    ...(isGiven ? { text: words.children } : {}),
    ...(linkText && linkText.length > 0 ? { linkText } : {}),
  };
}

/** The keys that one topic reference defines. */
export function definitionsOf(reference: Element): KeyDefinition[] {
  const { keys, href, keyref } = reference.attributes;
  const locale = reference.attributes['xml:lang'];
  if (keys === undefined) return [];
  const given = {
    ...textsOf(reference),
    conditions: conditionsOf(reference),
    ...(href === undefined ? {} : { href }),
    ...(keyref === undefined ? {} : { keyref }),
    ...(locale === undefined ? {} : { locale }),
  };
  return namesIn(keys).map((key) => ({ key, ...given }));
}

/** Every key that a map defines, in its order, with the path of the reference that does. */
export function definitionsIn(
  map: Element,
): { readonly definition: KeyDefinition; readonly path: Path }[] {
  const found: { definition: KeyDefinition; path: Path }[] = [];
  // The keys of subjects name values of attributes.
  if (isSubjectScheme(map)) return found;
  walk(map, (reference, path) => {
    if (isA(reference.name, 'topicref'))
      for (const definition of definitionsOf(reference))
        found.push({ definition, path: [...path] });
  });
  return found;
}

/** Whether a definition is for readers of a language: for all, where it names none. */
export function isInLanguage({ locale }: KeyDefinition, wanted: string): boolean {
  const named = locale?.toLowerCase();
  const asked = wanted.toLowerCase();
  return named === undefined || asked === named || asked.startsWith(`${named}-`);
}

/**
 * The definition that those get who look through a lens, outside of any map: the first that the
 * lens keeps (DITA 1.3, 2.4.4.3 “Effective key definitions”).
 * @returns undefined where there is none for the language
 */
export const effectiveDefinition = <Definition extends KeyDefinition>(
  definitions: readonly Definition[],
  locale: string,
  lens: Lens | undefined,
  facets: readonly Facet[],
): Definition | undefined => {
  const inLanguage = definitions.filter((one) => isInLanguage(one, locale));
  return (
    inLanguage.find(({ conditions }) => evaluateProfile(conditions, lens, facets).kept) ??
    inLanguage[0]
  );
};

const isPlain = (nodes: readonly Node[]): boolean =>
  nodes.every((node) => typeof node === 'string');

/** The reference that defines a key so. */
export function definitionElement({
  key,
  text = [],
  linkText,
  href,
  keyref,
  choices,
  conditions,
  locale,
}: KeyDefinition): Element {
  const words = [...text];
  // A keyword holds no markup; link text does (DITA 1.3, keyword and linktext).
  const isKeyword = isPlain(words) && href === undefined;
  const ofLinks = isKeyword ? linkText : words;
  const keywords = [
    element('keyword', {}, words),
    ...choices.map((choice) => element('keyword', {}, [choice])),
  ];
  const meta =
    words.length === 0 && choices.length === 0
      ? []
      : [
          ...(ofLinks ? [element('linktext', {}, ofLinks)] : []),
          ...(isKeyword ? [element('keywords', {}, keywords)] : []),
        ];
  const kind =
    href === undefined || href.startsWith('topic:')
      ? {}
      : {
          format: href.startsWith('asset:') ? (/\.(\w+)$/u.exec(href)?.[1] ?? 'image') : 'html',
          ...(/^[a-z]+:\/\//iu.test(href) ? { scope: 'external' } : {}),
        };
  const attributes = {
    keys: key,
    ...(href === undefined ? {} : { href, ...kind }),
    ...(keyref === undefined ? {} : { keyref }),
    ...conditions,
    ...(locale === undefined ? {} : { 'xml:lang': locale }),
  };
  return element('keydef', attributes, meta.length === 0 ? [] : [element('topicmeta', {}, meta)]);
}

/** What a definition says as a piece of XML, and back; undefined where it cannot be read. */
export const markupOf = (nodes: readonly Node[]): string =>
  nodes.length === 0
    ? ''
    : writeXml(element('x', {}, nodes))
        .trimEnd()
        .slice('<x>'.length, -'</x>'.length);
export function markupNodes(markup: string): readonly Node[] | undefined {
  const { document } = readXml(`<linktext>${markup}</linktext>`);
  const root = document && normalise(document.root);
  return root?.name === 'linktext' ? root.children : undefined;
}

/**
 * Those that are for somebody in particular stand before what is for everybody, so that other
 * programs, which take the first, find them too.
 */
const isFirst = (one: KeyDefinition, other: KeyDefinition): boolean =>
  facetValuesOf(one.conditions).size > facetValuesOf(other.conditions).size ||
  (one.locale !== undefined && other.locale === undefined);

/**
 * The map with a variable defined so: in the place of the definition at a path, or as a new one
 * beside those of the same key.
 * @param at the path of a `keydef` of the map itself
 */
export function withDefinition(map: Element, definition: KeyDefinition, at?: Path): Element {
  const [index] = at ?? [];
  const others = index === undefined ? map.children : map.children.toSpliced(index, 1);
  const made = definitionElement(definition);
  const before = others.findIndex(
    (child) =>
      isElement(child) &&
      definitionsOf(child).some((one) => one.key === definition.key && isFirst(definition, one)),
  );
  const lastOfKey = others.findLastIndex(
    (child) => isElement(child) && definitionsOf(child).some(({ key }) => key === definition.key),
  );
  const place =
    before !== -1 ? before : lastOfKey !== -1 ? lastOfKey + 1 : (index ?? others.length);
  return { ...map, children: others.toSpliced(place, 0, made) };
}

/** The map without the definition at a path. */
export const withoutDefinition = (map: Element, at: Path): Element => ({
  ...map,
  children: map.children.toSpliced(at[0]!, 1),
});

/** The names of key scopes and of keys in a text. */
export function keyNamesIn(root: Element): {
  readonly scopes: readonly string[];
  readonly keys: readonly string[];
} {
  const holders = findAll(
    root,
    ({ attributes }) => attributes['keys'] !== undefined || attributes['keyscope'] !== undefined,
  );
  return {
    scopes: holders.flatMap(({ attributes }) => namesIn(attributes['keyscope'])),
    keys: holders.flatMap(({ attributes }) => namesIn(attributes['keys'])),
  };
}

/**
 * Another name for a key, where it is defined and wherever it is used; keys of a scope, as in
 * `scope.key`, follow. The same element where nothing changes.
 * @param scopes the names of all key scopes
 * @param keys the names of all keys: one that is defined with its dot is no key of a scope
 */
export function renameKey(
  root: Element,
  from: string,
  to: string,
  { scopes, keys }: { readonly scopes: ReadonlySet<string>; readonly keys: ReadonlySet<string> },
): Element {
  const isOfScope = (name: string): boolean =>
    name.endsWith(`.${from}`) &&
    !keys.has(name) &&
    name
      .slice(0, -from.length - 1)
      .split('.')
      .every((scope) => scopes.has(scope));
  const renamed = (name: string): string =>
    name === from ? to : isOfScope(name) ? `${name.slice(0, -from.length)}${to}` : name;
  const visit = (found: Element): Element => {
    let { attributes } = found;
    const set = (name: string, value: string): void => {
      if (value !== attributes[name]) attributes = { ...attributes, [name]: value };
    };
    if (attributes['keys'] !== undefined && namesIn(attributes['keys']).includes(from))
      set(
        'keys',
        namesIn(attributes['keys'])
          .map((name) => (name === from ? to : name))
          .join(' '),
      );
    for (const name of ['keyref', 'conkeyref']) {
      const [key = '', part] = (attributes[name] ?? '').split('/');
      if (key !== '') set(name, part === undefined ? renamed(key) : `${renamed(key)}/${part}`);
    }
    const children = found.children.map((child) => (isElement(child) ? visit(child) : child));
    const isSame =
      attributes === found.attributes &&
      children.every((child, at) => child === found.children[at]);
    return isSame ? found : { ...found, attributes, children };
  };
  return visit(root);
}
