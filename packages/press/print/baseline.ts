import { roleOf, rootRole } from '@ukiyo/core/styles';
import type { PrintStyle } from './design.ts';

/** What is set apart from the text keeps its own distances. */
const apart = new Set(['Front', 'Contents', 'Index', 'Page']);
const isApart = (id: string): boolean => apart.has(roleOf(id)?.group ?? '') || id === 'footnote';

/**
 * Styles of which every line stands on a grid that begins with the first line of the page.
 * The page template makes each line as high as the letters of the text, whatever stands in it. A
 * block of such lines keeps to the grid where its lines follow each other by whole steps, and where
 * the room between blocks is whole steps less one such line: the larger of two such rooms, which is
 * the one that counts, is then again one.
 * @param step of the grid, in points
 */
export function onBaseline(
  styles: Readonly<Record<string, PrintStyle>>,
  step: number,
): Record<string, PrintStyle> {
  const { size: text, leading: usual } = styles[rootRole]!;
  const line = text && 'pt' in text ? text.pt : 10;
  const between = usual && 'em' in usual ? usual.em : 0.2;
  const room = (distance: number): number => Math.max(1, Math.round(distance / step)) * step - line;
  const stood = (id: string, style: PrintStyle): PrintStyle => {
    if (isApart(id)) return { ...style, ownLines: true };
    if (roleOf(id)?.family === 'inline') return style;
    const size =
      style.size === undefined ? line : 'pt' in style.size ? style.size.pt : style.size.em * line;
    const pitch =
      (1 + (style.leading && 'em' in style.leading ? style.leading.em : between)) * size;
    // Lines that would touch each other take a step more.
    const steps = Math.max(1, Math.round(pitch / step), Math.ceil(size / step));
    const padding =
      style.ground === undefined && style.rules === undefined ? 0 : (style.padding ?? 0);
    return {
      ...style,
      leading: { pt: steps * step - line },
      // From baseline to baseline: letters stand up four fifths of their size, and hang down one.
      above: room(0.2 * line + (style.above ?? 0) + padding + 0.8 * size),
      below: room(0.2 * size + (style.below ?? 0) + padding + 0.8 * line),
      ...(style.between === undefined ? {} : { between: room(line + style.between) }),
    };
  };
  return Object.fromEntries(Object.entries(styles).map(([id, style]) => [id, stood(id, style)]));
}
