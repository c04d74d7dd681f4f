import type { When } from '../facets/index.ts';
import { isA } from '../grammar/index.ts';
import { childElements, isElement } from '../markup/index.ts';
import type { ResolvedElement } from './publication.ts';

/** An entry of a numbered list to which something can lead. */
export interface Ordinal {
  readonly anchor: string;
  /** In its list, with everything that some readers get. */
  readonly number: number;
  /** Of the entries before it that not everybody gets: who gets each. */
  readonly varied: readonly (readonly When[])[];
}

/**
 * The numbered steps and list entries of a topic, as its readers count them: borrowed ones where
 * they stand, without what stands between them.
 */
export function ordinalsIn(content: ResolvedElement): Ordinal[] {
  const own: Ordinal[] = [];
  if (isA(content.name, 'ol')) {
    let number = 0;
    const varied: (readonly When[])[] = [];
    for (const entry of childElements(content) as ResolvedElement[]) {
      if (entry.name === 'stepsection') continue;
      number += 1;
      if (entry.anchor !== undefined)
        own.push({ anchor: entry.anchor, number, varied: [...varied] });
      if (entry.when) varied.push(entry.when);
    }
  }
  return [
    ...own,
    ...content.children.flatMap((child) =>
      isElement(child) ? ordinalsIn(child as ResolvedElement) : [],
    ),
  ];
}
