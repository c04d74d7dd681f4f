import { collab, getVersion, receiveTransaction, sendableSteps } from 'prosemirror-collab';
import type { EditorState, Plugin, Transaction } from 'prosemirror-state';
import { Step } from 'prosemirror-transform';
import { editorSchema } from './schema.ts';
import { wordsOfStep } from './steps.ts';

/** Keeps count of what the authority of a topic has acknowledged and what it has not. */
export const liveEditing = (start: { readonly version: number; readonly client: string }): Plugin =>
  collab({ version: start.version, clientID: start.client });

/** How many steps of the authority the state has taken in. */
export const versionOf = (state: EditorState): number => getVersion(state);

/** The steps that are not acknowledged yet, as they go over the wire. */
export const unacknowledged = (state: EditorState): unknown[] =>
  (sendableSteps(state)?.steps ?? []).map((step) => step.toJSON() as unknown);

export const hasUnacknowledged = (state: EditorState): boolean => sendableSteps(state) !== null;

/** The words in steps that are not acknowledged: what would be lost without them. */
export const unacknowledgedWords = (state: EditorState): string =>
  wordsOf(sendableSteps(state)?.steps ?? []);

const wordsOf = (steps: readonly Step[]): string =>
  steps
    .map(wordsOfStep)
    .filter((words) => words !== '')
    .join('');

export interface Received {
  readonly transaction: Transaction;
  /** Those that were new, in order: they make the next acknowledged document of the last. */
  readonly steps: readonly Step[];
  /** Where each other client's last change ended, in the new document. */
  readonly ends: ReadonlyMap<string, number>;
  /** Words of steps that no longer fit, because another person changed the place. */
  readonly lost: string;
}

/**
 * Takes in what the authority sends: own steps are acknowledged, those of others applied, and what
 * is not acknowledged is fitted in behind them.
 * @param from the version before the first step; steps that the state has already are passed over
 * @returns undefined when there is a gap: the steps between are missing
 */
export function receiveSteps(
  state: EditorState,
  from: number,
  input: readonly unknown[],
  clients: readonly string[],
): Received | undefined {
  const known = versionOf(state) - from;
  if (known < 0) return undefined;
  const fresh = input.slice(known).map((value) => Step.fromJSON(editorSchema, value));
  const by = clients.slice(known);
  const before = sendableSteps(state);
  const transaction = receiveTransaction(state, fresh, by, { mapSelectionBackward: true });
  const self = before?.clientID;
  const ends = new Map<string, number>();
  fresh.forEach((step, index) => {
    if (by[index] === self) return;
    const map = step.getMap();
    for (const [client, end] of ends) ends.set(client, map.map(end));
    map.forEach((_oldStart, _oldEnd, _newStart, newEnd) => ends.set(by[index]!, newEnd));
  });
  const others = by.findIndex((client) => client !== self);
  return {
    transaction,
    steps: fresh,
    ends,
    lost: before && others !== -1 ? wordsOf(lostOf(before, others, state.apply(transaction))) : '',
  };
}

/** The steps that are neither acknowledged nor among those that the new state still holds. */
function lostOf(
  before: NonNullable<ReturnType<typeof sendableSteps>>,
  acknowledged: number,
  after: EditorState,
): Step[] {
  const kept = sendableSteps(after)?.origins ?? [];
  let next = 0;
  return before.steps.slice(acknowledged).filter((_step, index) => {
    // What is kept is a part of what was, in the same order.
    const isKept = kept[next] === before.origins[acknowledged + index];
    if (isKept) next += 1;
    return !isKept;
  });
}
