import { describe, expect, it } from 'vitest';
import { isIndexable, listedTitle, searchedText } from './indexable.ts';

describe('what an index can take', () => {
  it('is cut between characters', () => {
    expect(listedTitle('Tide')).toBe('Tide');
    expect(listedTitle('𝌆'.repeat(400))).toMatch(/^(?:𝌆){149}…$/u);
    const searched = searchedText('潮'.repeat(100_000));
    expect(Buffer.byteLength(searched)).toBeLessThanOrEqual(200_010);
    expect(searched.length).toBeGreaterThan(66_000);
  });
  it('is measured in bytes', () => {
    expect(isIndexable('x'.repeat(500))).toBe(true);
    expect(isIndexable('潮'.repeat(200))).toBe(false);
  });
});
