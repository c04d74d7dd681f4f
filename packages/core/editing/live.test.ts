import fc from 'fast-check';
import { EditorState, TextSelection } from 'prosemirror-state';
import { ReplaceStep } from 'prosemirror-transform';
import { Slice, type Node as EditorNode } from 'prosemirror-model';
import { describe, expect, it } from 'vitest';
import { normalise, topicTemplate, writeCanonical } from '../grammar/index.ts';
import { readXml } from '../markup/index.ts';
import { anyElement } from '../testing/index.ts';
import {
  applySteps,
  choicesAt,
  documentFrom,
  editingKeys,
  fromEditor,
  hasUnacknowledged,
  liveEditing,
  receiveSteps,
  stepTo,
  structureGuard,
  toEditor,
  unacknowledged,
  versionOf,
} from './index.ts';

const documentOf = (xml: string): EditorNode => toEditor(normalise(readXml(xml).document!.root));
const concept = (body: string): EditorNode =>
  documentOf(
    `<concept id="c"><title>Winding the clock</title><conbody>${body}</conbody></concept>`,
  );

/** One who decides the order of steps, as the server does, without the server. */
class Decider {
  steps: unknown[] = [];
  clients: string[] = [];
  constructor(public document: EditorNode) {}
  take(version: number, steps: readonly unknown[], client: string): boolean {
    if (version !== this.steps.length) return false;
    const applied = applySteps(this.document, steps);
    if ('refusal' in applied) throw new Error(applied.refusal);
    this.document = applied.document;
    this.steps.push(...(JSON.parse(JSON.stringify(steps)) as unknown[]));
    this.clients.push(...steps.map(() => client));
    return true;
  }
}

/** One editor; what it hears and says goes through it by hand. */
class Editor {
  state: EditorState;
  lost = '';
  constructor(
    readonly client: string,
    private readonly decider: Decider,
  ) {
    this.state = EditorState.create({
      doc: decider.document,
      plugins: [liveEditing({ version: decider.steps.length, client }), structureGuard],
    });
  }
  hear(): void {
    const from = versionOf(this.state);
    const received = receiveSteps(
      this.state,
      from,
      this.decider.steps.slice(from),
      this.decider.clients.slice(from),
    )!;
    this.lost += received.lost;
    this.state = this.state.apply(received.transaction);
  }
  say(): void {
    if (
      hasUnacknowledged(this.state) &&
      this.decider.take(versionOf(this.state), unacknowledged(this.state), this.client)
    )
      this.hear();
  }
  type(position: number, text: string): void {
    this.state = this.state.apply(this.state.tr.insertText(text, position));
  }
}

const keys = [
  'Enter',
  'Tab',
  'Shift-Tab',
  'Alt-ArrowUp',
  'Alt-ArrowDown',
  'Alt-ArrowLeft',
  'Alt-ArrowRight',
  'Alt-Delete',
  'Backspace',
  'Delete',
] as const;
type Act = {
  who: number;
  act: 'type' | 'key' | 'choose' | 'hear' | 'say';
  at: number;
  pick: number;
};
const acts = fc.array(
  fc.record({
    who: fc.nat(2),
    act: fc.constantFrom<Act['act']>('type', 'type', 'key', 'key', 'choose', 'hear', 'say'),
    at: fc.nat(10_000),
    pick: fc.nat(10_000),
  }),
  {
    minLength: 5,
    maxLength: 40,
  },
);

function perform(editor: Editor, { act, at, pick }: Act): void {
  if (act === 'hear') return editor.hear();
  if (act === 'say') return editor.say();
  const { state } = editor;
  const selection = TextSelection.near(state.doc.resolve(at % (state.doc.content.size + 1)));
  const placed = state.apply(state.tr.setSelection(selection));
  if (act === 'type') editor.state = placed.apply(placed.tr.insertText('abc '[pick % 4]!));
  else if (act === 'key') {
    editor.state = placed;
    editingKeys[keys[pick % keys.length]!]?.(
      placed,
      (transaction) => (editor.state = placed.apply(transaction)),
    );
  } else {
    const choices = choicesAt(placed);
    const choice = choices[pick % Math.max(1, choices.length)];
    if (choice) editor.state = placed.apply(choice.apply(placed));
  }
}

describe('several people in one topic', () => {
  it('who types in one line at the same time all keep their words', () => {
    const decider = new Decider(concept('<p>The clock</p>'));
    const [ada, teo] = [new Editor('ada', decider), new Editor('teo', decider)];
    ada.type(2, 'A');
    teo.type(2, 'B');
    ada.say();
    teo.say();
    expect(hasUnacknowledged(teo.state)).toBe(true);
    teo.hear();
    teo.say();
    ada.hear();
    expect(ada.state.doc.toJSON()).toEqual(teo.state.doc.toJSON());
    expect(ada.state.doc.firstChild!.firstChild!.textContent).toMatch(/^(AB|BA)Winding/u);
    expect(ada.lost + teo.lost).toBe('');
  });
  it('says which words could not be kept when their place is gone', () => {
    const decider = new Decider(
      concept('<p>Stays</p><section><title>Goes</title><p>Goes too</p></section>'),
    );
    const [ada, teo] = [new Editor('ada', decider), new Editor('teo', decider)];
    let section = 0;
    decider.document.descendants(
      (node, position) => void (node.type.name === 'section' && (section = position)),
    );
    teo.type(section + 3, 'Never ');
    teo.type(section + 9, 'mind');
    ada.state = ada.state.apply(
      ada.state.tr.delete(section, section + ada.state.doc.nodeAt(section)!.nodeSize),
    );
    ada.say();
    teo.hear();
    expect(teo.lost).toBe('Never mind'.replace(' ', ''));
    expect(hasUnacknowledged(teo.state)).toBe(false);
    expect(teo.state.doc.eq(decider.document)).toBe(true);
  });
  it('passes over steps that it has, and notices when some are missing', () => {
    const decider = new Decider(concept('<p>x</p>'));
    const ada = new Editor('ada', decider);
    ada.type(2, 'A');
    ada.say();
    expect(receiveSteps(ada.state, 0, decider.steps, decider.clients)!.transaction.docChanged).toBe(
      false,
    );
    expect(receiveSteps(ada.state, 2, [], [])).toBeUndefined();
  });
  it('three who do anything at all end with the same valid topic, and say what was lost', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('concept', 'task', 'reference'),
        fc.context(),
        acts,
        fc.gen(),
        (kind, _log, chosen, gen) => {
          const decider = new Decider(toEditor(normalise(gen(anyElement, kind, 4))));
          const editors = ['ada', 'teo', 'noor'].map((client) => new Editor(client, decider));
          for (const act of chosen) perform(editors[act.who]!, act);
          for (let round = 0; round < 4; round += 1)
            for (const editor of editors) {
              editor.hear();
              editor.say();
            }
          for (const editor of editors) {
            editor.hear();
            expect(hasUnacknowledged(editor.state)).toBe(false);
            expect(editor.state.doc.eq(decider.document)).toBe(true);
          }
          decider.document.check();
          const text = writeCanonical(fromEditor(decider.document));
          expect(readXml(text).problems).toEqual([]);
          expect(
            documentFrom(JSON.parse(JSON.stringify(decider.document)))!.eq(decider.document),
          ).toBe(true);
        },
      ),
      { numRuns: 150 },
    );
  });
});

const document = concept('<p>Text <b>bold</b></p><ul><li>item</li></ul>');
const paragraph = (): number => {
  let found = 0;
  document.descendants((node, position) => void (node.type.name === 'p' && (found = position)));
  return found;
};
const slice = (json: unknown): object => ({
  stepType: 'replace',
  from: paragraph() + 1,
  to: paragraph() + 1,
  slice: { content: [json] },
});

describe('steps from outside', () => {
  it.each([
    ['no step', 5],
    ['an unknown kind', { stepType: 'explode' }],
    ['a place that is not there', { stepType: 'replace', from: 10_000, to: 10_001 }],
    ['a block in a line', slice({ type: 'section' })],
    [
      'an attribute that is no name',
      { stepType: 'attr', pos: paragraph(), attr: 'attributes', value: { 'a b': 'x' } },
    ],
    [
      'an attribute that is no text',
      { stepType: 'attr', pos: paragraph(), attr: 'attributes', value: { id: 5 } },
    ],
    [
      'a closed part that is no XML',
      slice({
        type: 'raw_inline',
        attrs: { node: { name: '<script', attributes: {}, children: [] } },
      }),
    ],
    [
      'a comment that ends early',
      slice({ type: 'raw_inline', attrs: { node: { comment: '--><evil/>' } } }),
    ],
    [
      'a mark with such an attribute',
      {
        stepType: 'addMark',
        from: 3,
        to: 5,
        mark: { type: 'b', attrs: { attributes: { 'x y': '1' } } },
      },
    ],
    [
      'a topic without a title',
      new ReplaceStep(1, 1 + document.firstChild!.firstChild!.nodeSize, Slice.empty).toJSON(),
    ],
    [
      'a list without items',
      {
        stepType: 'replace',
        from: paragraph(),
        to: paragraph(),
        slice: { content: [{ type: 'ul' }] },
      },
    ],
  ])('%s is refused', (_what, step) =>
    expect(applySteps(document, [step])).toHaveProperty('refusal'),
  );
  it('a step that fits is taken', () => {
    const applied = applySteps(document, [
      new ReplaceStep(
        paragraph() + 1,
        paragraph() + 1,
        new Slice(
          concept('<p>More </p>').slice(0).content.firstChild!.lastChild!.firstChild!.content,
          0,
          0,
        ),
      ).toJSON(),
    ]);
    expect(applied).toHaveProperty('document');
  });
  it('turns a whole new text into one step', () => {
    fc.assert(
      fc.property(anyElement('concept', 4), anyElement('concept', 4), (one, other) => {
        const [before, after] = [toEditor(normalise(one)), normalise(other)];
        const step = stepTo(before, after);
        if (!step) expect(fromEditor(before)).toEqual(after);
        else expect(fromEditor(step.apply(before).doc!)).toEqual(after);
      }),
      { numRuns: 200 },
    );
  });
});

describe('steps from outside', () => {
  it('leaves the place alone where somebody writes, also where guidance was typed over', () => {
    const template = toEditor(topicTemplate('concept', 'x', 'X'));
    const at = template.content.size - 3;
    const typed = EditorState.create({ doc: template });
    const state = typed.apply(typed.tr.insertText('Written', at));
    const text = writeCanonical(fromEditor(state.doc)).replace('</p>', '</p><p>More</p>');
    const step = stepTo(state.doc, normalise(readXml(text).document!.root))!;
    expect(step.getMap().mapResult(at + 3).deleted).toBe(false);
  });
});
