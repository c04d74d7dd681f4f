import {
  shippedSheets,
  teamStyle,
  wordsByLanguage,
  type NoteKind,
  type StyleSheet,
} from '@ukiyo/core/styles';
import type { Element } from '@ukiyo/core/markup';
import type { Words } from '@ukiyo/core/words';

/** The style sheet of what names none. */
export const usualSheet = shippedSheets['workshop']!;

/** Which styles of the team's own elements have, while a topic is walked from the outside in. */
export interface AppliedStyles {
  of(element: Element): string | undefined;
  /** What is made inside an element knows that it is around it. */
  within<Made>(element: Element, make: () => Made): Made;
}

export function appliedStyles(sheet: StyleSheet): AppliedStyles {
  const ancestors: string[] = [];
  const hasOwn = Object.values(sheet.styles).some(({ appliesTo }) => appliesTo !== undefined);
  return {
    of: (element) =>
      hasOwn
        ? teamStyle(sheet, element.name, ancestors, element.attributes['outputclass'])
        : undefined,
    within(element, make) {
      ancestors.push(element.name);
      const made = make();
      ancestors.pop();
      return made;
    },
  };
}

/**
 * What a note is called: as it says itself, as its style says in this language, else as is usual.
 */
export function noteName(
  element: Element,
  sheet: StyleSheet,
  locale: string,
  words: Words,
): string {
  const { type: kind = 'note', spectitle, othertype } = element.attributes;
  if (spectitle !== undefined) return spectitle;
  if (kind === 'other') return othertype ?? words.notes['note']!;
  return (
    wordsByLanguage(sheet.marks[kind as NoteKind]?.words, locale) ||
    (words.notes[kind] ?? words.notes['note']!)
  );
}
