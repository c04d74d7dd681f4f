import type { BlockOf, HazardPanel } from '../blocks/index.ts';
import { tag, text, type Html } from '../html/index.ts';
import { noteName } from '../shared/index.ts';
import { classOf, type Rendering } from './context.ts';

/** Types of hazard statements for which the safety alert symbol is shown (ANSI Z535.6, 7). */
const alerted: ReadonlySet<string> = new Set(['danger', 'warning', 'caution']);

/** The signal word above the symbols and the messages. */
export function hazardHtml(rendering: Rendering, block: BlockOf<'hazard'>): Html {
  const { sheet, locale, words, idOf, blocks } = rendering;
  const { element, symbols, panels } = block;
  const kind = (element.attributes['type'] ?? 'note').replace(/[^a-z]/gu, '');
  return tag(
    'div',
    { class: classOf('hazard', kind), id: idOf(element), role: 'note' },
    tag(
      'p',
      { class: classOf('signal', alerted.has(kind) ? 'alerted' : undefined) },
      text(noteName(element, sheet, locale, words)),
    ),
    symbols.length === 0 ? [] : tag('div', { class: 'symbols' }, blocks(symbols)),
    tag(
      'div',
      { class: 'messages' },
      panels.map((panel) => panelHtml(rendering, panel)),
    ),
  );
}

const panelHtml = (
  { idOf, forWhom, marked, tight }: Rendering,
  { element, parts }: HazardPanel,
): Html =>
  tag(
    'div',
    { class: classOf('message', forWhom(element)), id: idOf(element) },
    marked(
      element,
      'div',
      parts.map((part) =>
        tag(
          'div',
          { class: classOf(part.element.name, forWhom(part.element)), id: idOf(part.element) },
          marked(part.element, 'div', tight(part.blocks)),
        ),
      ),
    ),
  );
