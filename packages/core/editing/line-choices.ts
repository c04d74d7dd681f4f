import type { MarkType, Node as EditorNode } from 'prosemirror-model';
import { Selection, type EditorState, type Transaction } from 'prosemirror-state';
import { mayContain, stylesOf, withStyles } from '../grammar/index.ts';
import { linkFormOf, linkForms, withLinkForm } from '../library/index.ts';
import type { Attributes } from '../markup/index.ts';
import { placeholderTarget } from '../rules/index.ts';
import { choiceOf, labelOfNode, wordsOfAnswer, type Answer, type Choice } from './choice.ts';
import { withAttributes } from './details.ts';
import { canBeNamed, inOrder, textElementAt } from './fitting.ts';
import { addImage, canAddImage } from './images.ts';
import { canLink, linkAt, linkAttributes, linkTo } from './linking.ts';
import { special } from './names.ts';
import { addNote, notesAt } from './notes.ts';
import { editorSchema } from './schema.ts';

export function linkChoices(state: EditorState): Choice[] {
  if (!canLink(state)) return [];
  const place = state.selection.empty ? 'with the words of its target' : 'from the selected words';
  return [
    {
      ...choiceOf(
        { kind: 'phrase', element: 'xref', place, within: state.selection.$from.depth },
        (at, answer) => linkTo(at, linkAttributes(wordsOfAnswer(answer)) ?? {}),
      ),
      asks: 'target',
    },
  ];
}

/** In a link, or behind one that takes its words from its target: in which form they name it. */
export function linkFormChoices(state: EditorState): Choice[] {
  const link = linkAt(state);
  if (!link) return [];
  return linkForms.flatMap(({ name, label, help }) =>
    name === linkFormOf(link.attributes)
      ? []
      : [
          {
            kind: 'turn',
            element: `words-${name}`,
            label: `Link: ${label}`,
            help,
            place: 'for this link',
            within: state.selection.$from.depth,
            apply: (at) => withAttributes(at, link, withLinkForm(link.attributes, name)),
          },
        ],
  );
}

export const imageChoices = (state: EditorState): Choice[] =>
  canAddImage(state)
    ? [
        {
          ...choiceOf(
            {
              kind: 'insert',
              element: 'image',
              place: 'in the line',
              within: state.selection.$from.depth,
            },
            (at, answer) => addImage(at, wordsOfAnswer(answer)),
          ),
          asks: 'image',
        },
      ]
    : [];

/**
 * Languages of program text that are offered by name; any other can be written as the style of the
 * code block.
 */
const languages: Readonly<Record<string, string>> = {
  bash: 'Shell',
  c: 'C',
  cpp: 'C++',
  csharp: 'C#',
  css: 'CSS',
  go: 'Go',
  ini: 'INI',
  java: 'Java',
  javascript: 'JavaScript',
  json: 'JSON',
  plaintext: 'none',
  python: 'Python',
  sql: 'SQL',
  typescript: 'TypeScript',
  xml: 'XML, HTML',
  yaml: 'YAML',
};

/** In a code block: the language it is in, as HTML names it (HTML, 4.5.15). */
export function languageChoices(state: EditorState): Choice[] {
  const { $from } = state.selection;
  if ($from.parent.type.spec.code !== true) return [];
  const attributes = $from.parent.attrs['attributes'] as Attributes;
  const styles = stylesOf(attributes).filter((style) => !style.startsWith('language-'));
  return Object.entries(languages).map(([name, label]) => ({
    kind: 'turn',
    element: `language-${name}`,
    label: `Language: ${label}`,
    help: 'Sets its words apart by colour, here and in help sites.',
    place: `of ${labelOfNode($from.parent)}`,
    within: $from.depth,
    apply: ({ tr }) =>
      tr.setNodeAttribute(
        $from.before(),
        'attributes',
        withStyles(attributes, [...styles, `language-${name}`]),
      ),
  }));
}

/** In a template: words that stand in an empty place until something is typed. */
export function guidanceChoices(state: EditorState): Choice[] {
  const { $from } = state.selection;
  if (!$from.parent.isTextblock || $from.parent.type.spec.attrs?.['guidance'] === undefined)
    return [];
  const apply = (at: EditorState, answer?: Answer): Transaction => {
    const { $from: $at } = at.selection;
    const tr = at.tr
      .delete($at.start(), $at.end())
      .setNodeAttribute(
        $at.before(),
        'guidance',
        wordsOfAnswer(answer).replaceAll('?>', '') || null,
      );
    return tr.setSelection(Selection.near(tr.doc.resolve($at.start())));
  };
  return [
    {
      kind: 'insert',
      element: 'guidance',
      label: 'Guidance',
      help: 'Words that stand here until something is typed; never published.',
      place: `instead of the words of ${labelOfNode($from.parent)}`,
      within: $from.depth,
      asks: 'words',
      apply,
    },
  ];
}

/**
 * Characters that no key has, where there is text, and words that stand for what is still to be
 * written.
 */
export function characterChoices(state: EditorState): Choice[] {
  const { $from } = state.selection;
  if (!$from.parent.isTextblock) return [];
  const within = $from.depth;
  const mark = { kind: 'insert' as const, place: 'in the line', within };
  const placeholder = (words: string): EditorNode =>
    editorSchema.nodes[special.rawInline]!.create({
      node: { target: placeholderTarget, body: words.replaceAll('?>', '') },
    });
  return [
    {
      ...mark,
      element: 'character',
      label: 'Special character',
      help: 'Found by its name or category: dash, degree, arrow …',
      asks: 'character',
      apply: (at, answer) => at.tr.insertText(wordsOfAnswer(answer)).scrollIntoView(),
    },
    ...(textElementAt($from) === undefined || $from.parent.type.spec.code
      ? []
      : [
          {
            ...mark,
            element: 'placeholder',
            label: 'Placeholder',
            help: 'Stands for words still to be written; typing over it replaces it.',
            asks: 'words' as const,
            apply: (at: EditorState, answer?: Answer) =>
              at.tr
                .replaceSelectionWith(placeholder(wordsOfAnswer(answer)), false)
                .scrollIntoView(),
          },
        ]),
  ];
}

export const noteChoices = (state: EditorState): Choice[] =>
  notesAt(state).map((name) => ({
    ...choiceOf(
      { kind: 'insert', element: name, place: 'in the line', within: state.selection.$from.depth },
      (at, answer) => addNote(at, name, wordsOfAnswer(answer)),
    ),
    asks: 'words',
  }));

/** Names for the selected words, or for the words that are typed next. */
export function phraseChoices(state: EditorState): Choice[] {
  const { $from, empty, from, to } = state.selection;
  const element = textElementAt($from);
  if (element === undefined) return [];
  const fitting = phrasesIn(element).filter((type) => canBeNamed(state, type.spec.element!));
  return fitting.map((type) =>
    choiceOf(
      {
        kind: 'phrase',
        element: type.spec.element!,
        place: empty ? 'for what is typed next' : 'for the selected words',
        within: $from.depth,
      },
      ({ tr }) => {
        const mark = type.create();
        return empty ? tr.addStoredMark(mark) : tr.addMark(from, to, mark);
      },
    ),
  );
}

const targeted = new Set(['xref', 'abbreviated-form', 'text', 'boolean', 'state']);

function phrasesIn(element: string): MarkType[] {
  return Object.values(editorSchema.marks)
    .filter(
      (type) =>
        type.spec.element !== undefined &&
        !targeted.has(type.spec.element) &&
        mayContain(element, type.spec.element),
    )
    .sort(inOrder);
}
