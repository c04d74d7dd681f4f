import { stylesOf, withStyles } from '../grammar/index.ts';
import type { Attributes } from '../markup/index.ts';

/**
 * In what words a link without words of its own names its target, and whether print adds the page.
 * Written as a style of the link; without one it is `usual`.
 */
export const linkForms = [
  {
    name: 'usual',
    label: 'usual words',
    help: 'Topics by their title, figures and tables by their number; print adds the page.',
  },
  { name: 'title', label: 'title alone', help: 'The title of the target, without the page.' },
  {
    name: 'number',
    label: 'number and title',
    help: 'Number and title of the target; print adds the page.',
  },
  {
    name: 'page',
    label: 'page alone',
    help:
      'In print only the page that the target is on; on screens, where there is none, the ' +
      'usual words.',
  },
] as const;
export type LinkForm = (typeof linkForms)[number]['name'];

const styleOf = (form: string): string => `words-${form}`;

export function linkFormOf(attributes: Attributes): LinkForm {
  const styles = stylesOf(attributes);
  return linkForms.find(({ name }) => styles.includes(styleOf(name)))?.name ?? 'usual';
}

/** The attributes of a link with another form; its other styles stay. */
export function withLinkForm(attributes: Attributes, form: LinkForm): Attributes {
  const kept = stylesOf(attributes).filter(
    (style) => !linkForms.some(({ name }) => style === styleOf(name)),
  );
  return withStyles(attributes, [...kept, ...(form === 'usual' ? [] : [styleOf(form)])]);
}
