import {
  childNamed,
  element,
  isElement,
  withAttribute,
  type Element,
  type Node,
} from '../markup/index.ts';

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
  const isLocked = hasTopic(entry) && title.length > 0;
  const plain = withAttribute(
    withAttribute(entry, 'navtitle', undefined),
    'locktitle',
    isLocked ? 'yes' : undefined,
  );
  const meta = childNamed(plain, 'topicmeta');
  const others = (meta?.children ?? []).filter(
    (child) => !isElement(child) || child.name !== 'navtitle',
  );
  const inside = title.length > 0 ? [element('navtitle', {}, title), ...others] : others;
  const made = inside.length > 0 ? [{ ...(meta ?? element('topicmeta')), children: inside }] : [];
  return { ...plain, children: [...made, ...plain.children.filter((child) => child !== meta)] };
}
