import {
  childNamed,
  element,
  isElement,
  type Attributes,
  type Element,
  type Node,
} from '../markup/index.ts';

/** The attributes with another value of one of them; without it where it is undefined. */
export const withAttribute = (
  attributes: Attributes,
  name: string,
  value: string | undefined,
): Attributes => {
  const { [name]: _before, ...others } = attributes;
  return value === undefined ? others : { ...others, [name]: value };
};

/** Whether the entry has a topic, whose title goes before that of the map. */
const hasTopic = ({ attributes }: Element): boolean =>
  attributes['href'] !== undefined || attributes['keyref'] !== undefined;

/** The entry's own title, as it was written; empty where it has the title of its topic. */
export function entryTitle(entry: Element): readonly Node[] {
  if (hasTopic(entry) && entry.attributes['locktitle'] !== 'yes') return [];
  const meta = childNamed(entry, 'topicmeta');
  const navigation = meta && childNamed(meta, 'navtitle');
  const { navtitle } = entry.attributes;
  return navigation ? navigation.children : navtitle === undefined ? [] : [navtitle];
}

/**
 * The entry with a title of its own, with markup and variables; with that of its topic where there
 * are no words. It is locked: else that of the topic would go before it (DITA 1.3, `locktitle`).
 */
export function withEntryTitle(entry: Element, title: readonly Node[]): Element {
  const plain = {
    ...entry,
    attributes: withAttribute(
      withAttribute(entry.attributes, 'navtitle', undefined),
      'locktitle',
      hasTopic(entry) && title.length > 0 ? 'yes' : undefined,
    ),
  };
  const meta = childNamed(plain, 'topicmeta');
  const others = (meta?.children ?? []).filter(
    (child) => !isElement(child) || child.name !== 'navtitle',
  );
  const inside = title.length > 0 ? [element('navtitle', {}, title), ...others] : others;
  const made = inside.length > 0 ? [{ ...(meta ?? element('topicmeta')), children: inside }] : [];
  return { ...plain, children: [...made, ...plain.children.filter((child) => child !== meta)] };
}
