import { noteKinds } from '@ukiyo/core/styles';

/** Where each style applies on the pages of a site. */
export const siteSelectors: Readonly<Record<string, string>> = {
  text: 'body',
  paragraph: 'article p',
  lead: 'article .lead',
  label:
    'article :is(section.prereq, section.result, section.postreq, section.steps, ' +
    'section.tasktroubleshooting, section.condition, section.cause, section.remedy) > ' +
    ':is(h2, h3, h4, h5, h6)',
  quote: 'article blockquote',
  lines: 'article .lines',
  footnote: '.footnotes',
  'heading-1': 'article > h1',
  'heading-1-number': 'article > h1 .number',
  'heading-2': 'article section.joined > h2',
  'heading-3': 'article section.joined > h3',
  'heading-4': 'article section.joined > :is(h4, h5, h6)',
  'block-heading':
    'article :is(section.section, section.example, section.refsyn) > :is(h2, h3, h4, h5, h6)',
  'bullet-list': 'article ul',
  'bullet-list-2': 'article li ul',
  'numbered-list': 'article ol',
  'list-mark': 'article li::marker',
  steps: 'article .steps',
  'step-number': 'article ol.steps > li::before',
  'term-name': 'article dt',
  note: 'article .note',
  ...Object.fromEntries(
    noteKinds
      .filter((kind) => kind !== 'note')
      .map((kind) => [`note-${kind}`, `article .note.${kind}`]),
  ),
  'note-label': 'article :is(.note-word, .note-mark, .signal)',
  table: 'article table',
  'table-title': 'article caption',
  'table-head': 'article thead th',
  'table-cell': 'article tbody :is(td, th)',
  'table-band': 'article tbody tr:nth-child(even)',
  figure: 'article figure',
  'figure-title': 'article figcaption',
  'caption-number': 'article :is(figcaption, caption) .number',
  'code-block': 'article pre',
  code: 'article code',
  bold: 'article :is(b, strong)',
  italic: 'article :is(i, em)',
  control: 'article .ui',
  link: 'main a',
  expandable: 'article .expandable',
};

/** Where a style of the team's own applies. */
export const ownSelector = (id: string): string =>
  `.style-${id}, .style-${id} > :is(h1, h2, h3, h4, h5, h6, p)`;
