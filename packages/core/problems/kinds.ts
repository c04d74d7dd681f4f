import type { Problem } from './problem.ts';

/**
 * What problems of a publication are about, in the order in which they are told; a code belongs to
 * the first kind that names its beginning.
 */
const kinds = {
  links: { label: 'Dead links', codes: ['link.unknown-', 'link.outside-peer', 'reference.'] },
  outside: {
    label: 'Links to topics this publication does not contain',
    codes: ['link.outside-publication'],
  },
  topics: { label: 'Missing topics and maps', codes: ['topic.', 'map.'] },
  borrowed: { label: 'Passages that cannot be borrowed', codes: ['borrow.'] },
  variables: { label: 'Variables without a text', codes: ['key.'] },
  images: { label: 'Missing images', codes: ['image.missing', 'image.unreadable'] },
  alternatives: {
    label: 'Images without words for those who do not see them',
    codes: ['image.no-alternative'],
  },
  areas: { label: 'Areas on images', codes: ['imagemap.'] },
  empty: { label: 'Nothing left for these readers', codes: ['filter.'] },
  unfinished: { label: 'Not finished', codes: ['placeholder.'] },
  unready: { label: 'Not ready to go out', codes: ['fact.'] },
  untranslated: { label: 'Not translated', codes: ['locale.'] },
  readers: {
    label: 'Facets and alternates',
    codes: ['facet.', 'alternate.', 'readers.', 'edition.', 'bundle.'],
  },
  sources: { label: 'Linked sources', codes: ['source.'] },
  context: { label: 'Context-help ids', codes: ['context.'] },
  rules: { label: 'House rules', codes: ['house.', 'house-rules.'] },
  content: { label: 'Content model', codes: ['grammar.', 'content.', 'xml.', 'table.', 'index.'] },
  glyphs: { label: 'Missing letters', codes: ['print.glyph', 'print.font'] },
  pages: { label: 'Pages and styles', codes: ['print.', 'plan.', 'styles.', 'look.'] },
  other: { label: 'Other', codes: [''] },
} as const satisfies Record<string, { readonly label: string; readonly codes: readonly string[] }>;

export type ProblemKind = keyof typeof kinds;
export const problemKinds = Object.keys(kinds) as ProblemKind[];
export const kindLabel = (kind: ProblemKind): string => kinds[kind].label;

export const kindOf = ({ code }: Pick<Problem, 'code'>): ProblemKind =>
  problemKinds.find((kind) => kinds[kind].codes.some((beginning) => code.startsWith(beginning)))!;

/** Problems that block the sign-off of a publication unless a reason is given. */
export const usualStops: readonly ProblemKind[] = [
  'links',
  'outside',
  'topics',
  'borrowed',
  'variables',
  'images',
];

/** The same problem in two builds of the same content. */
export const problemKey = ({ code, message, where }: Problem): string =>
  JSON.stringify([code, message, where.item, where.path, where.attribute]);
export const blockingOf = (
  problems: readonly Problem[],
  stops: readonly ProblemKind[],
): Problem[] => problems.filter((found) => stops.includes(kindOf(found)));
