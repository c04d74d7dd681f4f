import { isA } from '../../grammar/index.ts';
import { childElements, isElement, lineOf, type Element } from '../../markup/index.ts';

/** What can be shown of content in another vocabulary. */
export type ForeignContent =
  | { readonly kind: 'formula'; readonly formula: Element }
  | { readonly kind: 'formula-file'; readonly element: Element; readonly index: number }
  | { readonly kind: 'drawing'; readonly drawing: Element; readonly alt: readonly Element[] }
  /** Images and media that stand in for it, with their places among its children. */
  | {
      readonly kind: 'instead';
      readonly instead: readonly { readonly element: Element; readonly index: number }[];
    };

/** The name without the prefix that a document gives to a vocabulary. */
const localName = (name: string): string => name.replace(/^[^:]*:/u, '');

/**
 * Formulas in MathML stay as they are; drawings in SVG become images. Of another vocabulary the
 * image or media that stands in for it is shown (DITA 1.3, 3.3.9.1 `foreign`).
 */
export function foreignContent({ children }: Element): ForeignContent {
  const inside = (name: string): Element | undefined =>
    children.find((child): child is Element => isElement(child) && localName(child.name) === name);
  const formula = inside('math');
  if (formula) return { kind: 'formula', formula };
  const file = inside('mathmlref');
  if (file) return { kind: 'formula-file', element: file, index: children.indexOf(file) };
  const drawing = inside('svg');
  if (drawing) return { kind: 'drawing', drawing, alt: altOf(drawing) };
  return {
    kind: 'instead',
    instead: children.flatMap((element, index) => {
      if (!isElement(element)) return [];
      if (element.name === 'svgref') return [{ element: { ...element, name: 'image' }, index }];
      const isFile = isA(element.name, 'image') || element.name === 'object';
      return isFile ? [{ element, index }] : [];
    }),
  };
}

/** What a drawing says of itself (SVG 2, 5.8 “title and desc”). */
function altOf(drawing: Element): readonly Element[] {
  const said = childElements(drawing).find(({ name }) => localName(name) === 'title');
  return said ? [{ name: 'alt', attributes: {}, children: [lineOf(said)] }] : [];
}
