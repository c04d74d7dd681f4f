import { noteKinds, noteRules, screenRules } from '@ukiyo/core/styles';
import { useStorage, useStyleTag } from '@vueuse/core';
import { computed, onMounted, watchEffect } from 'vue';
import { useDesigns } from '../parts/designs.ts';
import { useSession } from '../parts/session.ts';

const page = '.page .ProseMirror';
const at = (...places: readonly string[]): string => `${page} :is(${places.join(', ')})`;

/** Where each style applies on the page of the writer. */
const pageSelectors: Readonly<Record<string, string>> = {
  text: page,
  paragraph: at('.is-p', '.line'),
  lead: at('.is-shortdesc'),
  label: `${page} [data-head]::before`,
  quote: at('.is-lq'),
  'heading-1': at('.is-topic > .is-title'),
  'block-heading': at('.is-section > .is-title', '.is-example > .is-title'),
  'bullet-list': at('.is-ul'),
  'numbered-list': at('.is-ol'),
  steps: at('.is-steps'),
  'step-number': `${at('.is-steps > .is-step')}::before`,
  'term-name': at('.is-dt'),
  note: at('.is-note'),
  ...Object.fromEntries(
    noteKinds
      .filter((kind) => kind !== 'note')
      .map((kind) => [`note-${kind}`, at(`.is-note[data-note='${kind}']`)]),
  ),
  'note-label': `${at('.is-note')}::before`,
  table: at('table'),
  'table-title': at('.is-table > .is-title', '.is-simpletable > .is-title'),
  'table-head': at('thead td', '.is-sthead td'),
  'figure-title': at('.is-fig > .is-title'),
  'code-block': at('pre'),
  code: at('code'),
  bold: at('b'),
  italic: at('i'),
  control: at('.phrase.is-uicontrol'),
};

/** The workshop’s own plain manner. */
const plain = '';

/**
 * The page of the writer looks as the screen values of a style sheet say, or plain.
 */
export function usePageSheet() {
  const designs = useDesigns();
  const session = useSession();
  const chosen = useStorage('ukiyo-page-sheet', plain);
  const { css } = useStyleTag('', { id: 'ukiyo-page-sheet' });
  const options = computed(() => [
    { value: plain, label: 'plain' },
    ...designs.list.sheets.map(({ id, content }) => ({ value: id, label: content.name })),
  ]);
  onMounted(() => designs.ensure());
  watchEffect(() => {
    const sheet = designs.list.sheets.find(({ id }) => id === chosen.value)?.content;
    // The name of a note and its left edge have the colour of the note.
    const noteOf = (kind: string): string =>
      at(kind === 'note' ? '.is-note' : `.is-note[data-note='${kind}']`);
    const notes = sheet
      ? `${noteRules(sheet, noteOf)}\n${at('.is-note')} { border-left: 0; } ` +
        `${at('.is-note')}::before { color: var(--note); }`
      : '';
    css.value = sheet
      ? `${notes}\n${screenRules(sheet, pageSelectors, session.project?.locale ?? 'en')}`
      : '';
  });
  return { sheet: chosen, options };
}
