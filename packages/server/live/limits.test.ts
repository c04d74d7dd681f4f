import { toEditor } from '@ukiyo/core/editing';
import { canonicalLength } from '@ukiyo/core/grammar';
import { element } from '@ukiyo/core/markup';
import { describe, expect, it } from 'vitest';
import { Growth, liveLimits } from './limits.ts';

const topic = (paragraphs: number, words = 'tide') =>
  element('concept', { id: 'x' }, [
    element('title', {}, ['T']),
    element(
      'conbody',
      {},
      Array.from({ length: paragraphs }, () => element('p', {}, [words])),
    ),
  ]);
/** The root, its title and its body. */
const others = 3;
/** One key, as JSON. */
const key = 90;

describe('a document that grows on the page', () => {
  it('never exceeds the limit of elements after refusals, and can shrink again', () => {
    const growth = new Growth();
    const full = toEditor(topic(liveLimits.elements - others));
    const more = toEditor(topic(liveLimits.elements - others + 1));
    expect(growth.admits(full, 1_000_000)).toBe(true);
    for (let tries = 0; tries < 5; tries += 1) expect(growth.admits(more, key)).toBe(false);
    expect(growth.admits(full, key)).toBe(true);
    expect(growth.admits(more, key)).toBe(false);
    expect(growth.admits(toEditor(topic(10)), key)).toBe(true);
  });
  it('nor more characters than are stored', () => {
    const growth = new Growth();
    const left = liveLimits.characters - canonicalLength(topic(1, 'x'));
    const full = toEditor(topic(1, 'x'.repeat(1 + left)));
    const more = toEditor(topic(1, 'x'.repeat(2 + left)));
    expect(growth.admits(full, 3_000_000)).toBe(true);
    for (let tries = 0; tries < 5; tries += 1) expect(growth.admits(more, 1)).toBe(false);
    expect(growth.admits(full, 1)).toBe(true);
  });
});
