import { pageFields, type PageField, type PlainField } from '@ukiyo/core/styles';

/** A field by its name, as it is when it is new. */
export function newField(name: string): PageField {
  if (name === 'text') return { field: 'text', words: 'Words' };
  if (name === 'variable') return { field: 'variable', key: '' };
  if (name === 'image') return { field: 'image', image: '', height: '8mm' };
  return { field: name as PlainField };
}

export const fieldChoices = Object.entries(pageFields).map(([value, label]) => ({ value, label }));
