import { labelOf } from '@ukiyo/core/grammar';

/** The kinds of topic that people make, in the order in which they are offered. */
export const newKinds = (
  ['task', 'concept', 'reference', 'troubleshooting', 'glossentry', 'topic', 'map'] as const
).map((value) => ({ value, label: labelOf(value) }));

/** A topic's kind in one letter, for narrow lists; the full word stands in the title. */
export const kindLetter = (type: string): string =>
  ({
    task: 'T',
    concept: 'C',
    reference: 'R',
    troubleshooting: 'F',
    glossentry: 'G',
    topic: 'P',
    map: 'M',
    bookmap: 'B',
  })[type] ?? '·';
export { labelOf as kindLabel };
