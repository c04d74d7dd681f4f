import type { Node as EditorNode } from 'prosemirror-model';
import type { Transaction } from 'prosemirror-state';
import {
  AddMarkStep,
  AttrStep,
  RemoveMarkStep,
  ReplaceAroundStep,
  ReplaceStep,
  Step,
} from 'prosemirror-transform';
import type { Element } from '../markup/index.ts';
import { fromEditor } from './from-editor.ts';
import { editorSchema } from './schema.ts';
import { toEditor } from './to-editor.ts';

/** Reads a document that was kept or sent as JSON; undefined when it is not one. */
export function documentFrom(value: unknown): EditorNode | undefined {
  try {
    const document = editorSchema.nodeFromJSON(value);
    document.check();
    return document;
  } catch {
    return undefined;
  }
}

/** The part of the new document that a step changed. */
function changedRange(step: Step, size: number): { from: number; to: number } | undefined {
  if (step instanceof AddMarkStep || step instanceof RemoveMarkStep) return step;
  if (step instanceof AttrStep) return { from: step.pos, to: Math.min(step.pos + 1, size) };
  if (!(step instanceof ReplaceStep || step instanceof ReplaceAroundStep)) return undefined;
  let from = size;
  let to = 0;
  step.getMap().forEach((_oldStart, _oldEnd, newStart, newEnd) => {
    from = Math.min(from, newStart);
    to = Math.max(to, newEnd);
  });
  return from <= to ? { from, to } : { from: 0, to: 0 };
}

/**
 * Throws unless everything that the range touches is as the schema wants it. What lies beside it is
 * taken to be.
 */
function check(document: EditorNode, { from, to }: { from: number; to: number }): void {
  const checkOne = (node: EditorNode): void => {
    if (!node.type.validContent(node.content))
      throw new RangeError(`Not what may stand in ${node.type.name}`);
    for (const [name, { validate }] of Object.entries(node.type.spec.attrs ?? {}))
      if (typeof validate === 'function') validate(node.attrs[name]);
  };
  checkOne(document);
  document.nodesBetween(Math.max(0, from - 1), Math.min(document.content.size, to + 1), checkOne);
}

export type AppliedSteps =
  { readonly document: EditorNode; readonly steps: readonly Step[] } | { readonly refusal: string };

/**
 * Applies steps as they came over the wire. What is not a step, does not fit, or would leave what
 * the schema forbids is refused whole.
 */
export function applySteps(before: EditorNode, input: readonly unknown[]): AppliedSteps {
  let document = before;
  const steps: Step[] = [];
  try {
    for (const value of input) {
      const step = Step.fromJSON(editorSchema, value);
      const applied = step.apply(document);
      if (!applied.doc) return { refusal: applied.failed ?? 'A step does not fit.' };
      const range = changedRange(step, applied.doc.content.size);
      if (!range) return { refusal: 'A kind of step that the editor never makes.' };
      check(applied.doc, range);
      document = applied.doc;
      steps.push(step);
    }
  } catch (error) {
    return { refusal: error instanceof Error ? error.message : String(error) };
  }
  return { document, steps };
}

/**
 * One step that brings a whole new text into a document; undefined when the document says the same
 * already. What only the editor knows, such as guidance that was typed over, makes no difference.
 */
export function stepTo(before: EditorNode, text: Element): Step | undefined {
  const after = toEditor(text);
  const plain = toEditor(fromEditor(before));
  const start = plain.content.findDiffStart(after.content);
  const end = plain.content.findDiffEnd(after.content);
  if (start === null || !end) return undefined;
  // Where the same letters stand at both sides of the change, the ends found can lie before the
  // start.
  const overlap = Math.max(0, start - Math.min(end.a, end.b));
  const whole = new ReplaceStep(0, before.content.size, after.slice(0, after.content.size));
  // Positions in one are positions in the other only if both have the same shape.
  if (plain.content.size !== before.content.size) return whole;
  const step = new ReplaceStep(start, end.a + overlap, after.slice(start, end.b + overlap));
  const made = step.apply(before).doc;
  return made && toEditor(fromEditor(made)).eq(after) ? step : whole;
}

/** The words that a step puts in: what is offered back when it cannot be kept. */
export function wordsOfStep(step: Step): string {
  if (!(step instanceof ReplaceStep || step instanceof ReplaceAroundStep)) return '';
  return step.slice.content.textBetween(0, step.slice.content.size, '\n').trim();
}

/**
 * Whether a transaction does more than write or delete within lines of text: each such change is
 * undone by itself.
 */
export function changesStructure({ steps, docs }: Transaction): boolean {
  return steps.some((step, index) => {
    if (!(step instanceof ReplaceStep)) return true;
    const writesInline =
      step.slice.openStart === 0 && step.slice.content.content.every((node) => node.isInline);
    return (
      !writesInline || !docs[index]!.resolve(step.from).sameParent(docs[index]!.resolve(step.to))
    );
  });
}
