import type { Choice } from '@ukiyo/core/editing';
import { describe, expect, it } from 'vitest';
import { rankChoices } from './ranking.ts';

const choice = (kind: Choice['kind'], element: string, label: string, help = ''): Choice => ({
  kind,
  element,
  label,
  help,
  place: '',
  within: 0,
  apply: (state) => state.tr,
});
const choices = [
  choice('insert', 'p', 'Paragraph', 'Some sentences.'),
  choice('insert', 'fig', 'Figure', 'An image with a title.'),
  choice('insert', 'note', 'Note', 'A remark, a warning.'),
  choice('phrase', 'uicontrol', 'Control', 'A button or a field.'),
  choice('turn', 'ol', 'Numbered list'),
];
const labels = (query: string, uses: Record<string, number> = {}): string[] =>
  rankChoices(choices, query, uses).map(({ label }) => label);

describe('the palette', () => {
  it('keeps groups together and the order of the content model within them', () => {
    expect(labels('')).toEqual(['Paragraph', 'Figure', 'Note', 'Control', 'Numbered list']);
  });
  it('puts what is used most first in its group', () => {
    expect(labels('', { 'insert note': 3, 'insert fig': 1, 'turn ol': 9 })).toEqual([
      'Note',
      'Figure',
      'Paragraph',
      'Control',
      'Numbered list',
    ]);
  });
  it('finds by label, element name and plain words, best first', () => {
    expect(labels('fig')).toEqual(['Figure']);
    expect(labels('warning')).toEqual(['Note']);
    expect(labels('ol')).toEqual(['Numbered list', 'Control']);
    expect(labels('n')).toEqual(['Note', 'Paragraph', 'Figure', 'Numbered list', 'Control']);
    expect(labels('button')).toEqual(['Control']);
    expect(labels('zebra')).toEqual([]);
  });
});
