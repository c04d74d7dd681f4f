import type { Reach } from '@ukiyo/contracts';

const mostNamed = 4;

/** The topics and maps that use something, the first few by name. */
export function namesOf(found: Reach['uses']): string {
  const titles = [...new Set(found.map(({ item }) => `“${item.title || item.id}”`))];
  return titles.length <= mostNamed
    ? titles.join(', ')
    : `${titles.slice(0, mostNamed).join(', ')} and ${titles.length - mostNamed} more`;
}
