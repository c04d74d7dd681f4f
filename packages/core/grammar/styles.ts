import type { Attributes } from '../markup/index.ts';

/** The named styles of an element (`outputclass`, written as words: DITA 1.3, 3.10.13.1). */
export const stylesOf = ({ outputclass = '' }: Attributes): string[] =>
  outputclass.split(/\s+/u).filter((style) => style !== '');

/** The attributes of an element with exactly these styles; without any the attribute goes. */
export function withStyles(
  { outputclass: _old, ...others }: Attributes,
  styles: readonly string[],
): Attributes {
  return styles.length === 0 ? others : { ...others, outputclass: styles.join(' ') };
}

export const expandableStyle = 'expandable';
/** Whether help sites keep it closed until the reader opens it; print shows all of it. */
export const isExpandable = (attributes: Attributes): boolean =>
  stylesOf(attributes).includes(expandableStyle);

/** Styles that say how Ukiyo treats an element, not how it looks. */
const treatments = /^(expandable|new-window|without-heading|words-\w+)$/u;

/** The styles of an element that are names of its look, safe to be classes of HTML. */
export const classesOf = (attributes: Attributes): readonly string[] =>
  attributes['outputclass'] === undefined
    ? []
    : stylesOf(attributes).filter((style) => /^[\w-]+$/u.test(style) && !treatments.test(style));
