import type { LibraryItem, Reference } from '../../library/index.ts';
import type { Element } from '../../markup/index.ts';
import { problem, type Problem, type Severity } from '../../problems/index.ts';
import type { ChosenAlternate } from '../alternates.ts';
import { keyReference, lookUpKey } from '../keys.ts';
import type { Origin, Reason } from '../publication.ts';
import type {
  AnchoredTerm,
  Landmark,
  OtherTitles,
  PendingLink,
  ResolutionContext,
  ResolvedTopic,
} from './resolved.ts';

/** Passages that one topic may borrow; real ones borrow some dozens at most. */
const mostBorrowed = 10_000;

/** The context of resolving one topic, and what is gathered on the way. */
export class Gathering {
  readonly landmarks: Landmark[] = [];
  readonly links: PendingLink[] = [];
  readonly indexTerms: AnchoredTerm[] = [];
  readonly contextIds: string[] = [];
  otherTitles: OtherTitles = {};
  metadata: readonly Element[] = [];
  readonly anchors = new Map<string, string>();
  readonly assets = new Set<string>();
  readonly drawings = new Map<string, Element>();
  readonly problems: Problem[] = [];
  readonly why: Reason[] = [];
  readonly read = new Map<string, Element | undefined>();
  readonly lookedFor = new Map<string, boolean>();
  readonly nested: ResolvedTopic[] = [];
  readonly item: string;
  readonly anchor: string;
  readonly context: ResolutionContext;
  #count = 0;
  #borrowed = 0;

  /** @param anchor of the place at which the topic stands */
  constructor(item: string, anchor: string, context: ResolutionContext) {
    this.item = item;
    this.anchor = anchor;
    this.context = context;
  }

  /** Whether a topic borrows more than a page can show: each level can double what is below. */
  borrowsTooMuch(): boolean {
    this.#borrowed += 1;
    return this.#borrowed > mostBorrowed;
  }

  /** A number that no other element of the topic without an id has. */
  nextNumber(): number {
    return (this.#count += 1);
  }

  report(severity: Severity, code: string, message: string, where: Origin): void {
    this.problems.push(problem(severity, code, message, where));
  }

  readItem(id: string): LibraryItem | undefined {
    const found = this.context.library.item(id);
    // Noted also where there is none: it may come.
    if (id !== this.item) this.read.set(id, found?.root);
    return found;
  }

  /** The id of the file that a drawing becomes. */
  addDrawing(drawing: Element): string {
    const id = `${this.anchor}--drawing-${this.drawings.size + 1}`;
    this.drawings.set(id, drawing);
    this.assets.add(id);
    return id;
  }

  isFileThere(id: string): boolean {
    const isThere = this.context.library.asset(id) !== undefined;
    this.lookedFor.set(id, isThere);
    if (isThere) this.assets.add(id);
    return isThere;
  }

  choose(id: string): ChosenAlternate {
    const choice = this.context.choose(id);
    this.problems.push(...choice.problems);
    return choice;
  }

  /** Whether `key` or `key/element` names a key that is defined. */
  isDefined(keyref: string): boolean {
    return lookUpKey(this.context.scope, keyref.split('/')[0]!) !== undefined;
  }

  /** What `key` or `key/element` leads to; undefined where the key leads nowhere. */
  keyTarget(keyref: string): Reference | undefined {
    return keyReference(this.context.scope, keyref);
  }
}
