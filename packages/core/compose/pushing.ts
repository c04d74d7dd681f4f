import { evaluateProfile, type Facet, type Lens } from '../facets/index.ts';
import { follows, isA, labelOf, symbolsIn } from '../grammar/index.ts';
import {
  elementById,
  readReference,
  withoutBorrowing,
  type FoundElement,
  type Library,
} from '../library/index.ts';
import { isElement, nodeAt, type Attributes, type Element } from '../markup/index.ts';
import { problem, type Path, type Problem } from '../problems/index.ts';
import type { ExpandedMap } from './expand/map.ts';
import { allNodes } from './expand/node.ts';
import { keyReference, type KeyScope } from './keys.ts';
import type { Origin, Reason } from './publication.ts';

/** Content that one topic puts into another (DITA 1.3, 2.5.1.3 “Pushing content”). */
export interface Push {
  readonly action: 'before' | 'after' | 'replace';
  readonly element: Element;
  /** Those that it has at its new place. */
  readonly attributes: Attributes;
  readonly origin: Origin;
}

/** By item, and by the path of the element beside which or for which it is put there. */
export type Pushes = ReadonlyMap<string, ReadonlyMap<string, readonly Push[]>>;

export const pathKey = (path: Path): string => path.join('.');

export interface PushedContent {
  readonly pushes: Pushes;
  readonly problems: readonly Problem[];
  readonly why: readonly Reason[];
}

interface PushContext {
  readonly library: Library;
  readonly facets: readonly Facet[];
}

/** A topic that puts content into others, as these readers get it. */
interface Source {
  readonly id: string;
  readonly lens: Lens | undefined;
  readonly scope: KeyScope;
}

/**
 * Gathers what the topics of a map, shown or only at hand, put into other topics. What the lens
 * drops is not put anywhere. A pass of composing.
 * @returns what is put where, with problems `push.*`, `borrow.missing` and `borrow.mismatch`
 */
export function gatherPushes(expanded: ExpandedMap, context: PushContext): PushedContent {
  const gathered = new PushGathering(context);
  const { pushing } = context.library;
  if (pushing.length > 0) for (const source of sourcesIn(expanded, pushing)) gathered.read(source);
  return gathered;
}

function sourcesIn(expanded: ExpandedMap, pushing: readonly string[]): Iterable<Source> {
  const sources = new Map<string, Source>();
  for (const { item: id, lens, scope } of [...allNodes(expanded.nodes), ...expanded.resources])
    if (id !== undefined && pushing.includes(id) && !sources.has(id))
      sources.set(id, { id, lens, scope });
  return sources.values();
}

class PushGathering implements PushedContent {
  readonly pushes = new Map<string, Map<string, Push[]>>();
  readonly problems: Problem[] = [];
  readonly why: Reason[] = [];
  readonly #context: PushContext;

  constructor(context: PushContext) {
    this.#context = context;
  }

  read(source: Source): void {
    const root = this.#context.library.item(source.id)?.root;
    if (root) this.#children(root, [], source);
  }

  #children(parent: Element, path: Path, source: Source): void {
    parent.children.forEach((child, index) => {
      if (!isElement(child)) return;
      if (!evaluateProfile(child.attributes, source.lens, this.#context.facets).kept) return;
      const at = [...path, index];
      const { conaction } = child.attributes;
      const action = actions.get(conaction ?? '');
      if (action) this.#push({ element: child, path: at }, action, parent, source);
      this.#children(child, at, source);
    });
  }

  #push({ element, path }: FoundElement, action: Push['action'], parent: Element, source: Source) {
    const origin = { item: source.id, path };
    const marker = action === 'replace' ? element : markBeside(parent, path.at(-1)!, action);
    if (!marker) {
      this.#report(
        'push.unmarked',
        `“${labelOf(element.name)}” is pushed before or after a passage, but no element with the ` +
          'action “mark” stands beside it. The content is left out.',
        origin,
      );
      return;
    }
    const target = this.#target(marker, source);
    if (!target) {
      const { conref, conkeyref = '' } = marker.attributes;
      this.#report(
        'borrow.missing',
        `“${labelOf(element.name)}” is pushed to “${conref ?? conkeyref}”, which does not exist. ` +
          'The content is left out.',
        origin,
      );
      return;
    }
    if (!canStand(element, action, target)) {
      this.#report(
        'borrow.mismatch',
        `“${labelOf(element.name)}” cannot be pushed to “${labelOf(target.element.name)}”. The ` +
          'content is left out.',
        origin,
      );
      return;
    }
    this.#add(target, {
      action,
      element,
      attributes: attributesOf(element, action, target),
      origin,
    });
  }

  #target({ attributes }: Element, { id, scope }: Source): PushTarget | undefined {
    const { conref, conkeyref } = attributes;
    const reference =
      conref === undefined ? keyReference(scope, conkeyref ?? '') : readReference(conref, id);
    if (reference?.kind !== 'item' || reference.element === undefined) return undefined;
    const root = this.#context.library.item(reference.id)?.root;
    const found = root && elementById(root, reference.element);
    return found && { ...found, item: reference.id, root };
  }

  #add({ item, path }: PushTarget, push: Push): void {
    const inItem = this.pushes.get(item) ?? new Map<string, Push[]>();
    const key = pathKey(path);
    const known = inItem.get(key) ?? [];
    if (push.action === 'replace' && known.some(({ action }) => action === 'replace')) {
      this.#report(
        'push.twice',
        'Two passages replace the same passage. The first one holds.',
        push.origin,
      );
      return;
    }
    this.pushes.set(item, inItem.set(key, [...known, push]));
    this.why.push({ kind: 'borrowed', origin: push.origin, detail: item, from: { item, path } });
  }

  #report(code: string, message: string, where: Origin): void {
    this.problems.push(problem('error', code, message, where));
  }
}

interface PushTarget extends FoundElement {
  readonly item: string;
  readonly root: Element;
}

const actions: ReadonlyMap<string, Push['action']> = new Map([
  ['pushbefore', 'before'],
  ['pushafter', 'after'],
  ['pushreplace', 'replace'],
]);

/** The mark behind what is put before a passage, or before what is put behind it. */
function markBeside(
  { children }: Element,
  index: number,
  action: 'before' | 'after',
): Element | undefined {
  const siblings =
    action === 'before' ? children.slice(index + 1) : children.slice(0, index).toReversed();
  const beside = siblings
    .filter(isElement)
    .find(({ attributes }) => attributes['conaction'] !== `push${action}`);
  return beside?.attributes['conaction'] === 'mark' ? beside : undefined;
}

/** Whether an element can stand for another, or beside it. */
function canStand(
  { name }: Element,
  action: Push['action'],
  { element, root, path }: PushTarget,
): boolean {
  if (action === 'replace') return isA(name, element.name) || isA(element.name, name);
  const parent = nodeAt(root, path.slice(0, -1));
  const at = (path.at(-1) ?? 0) + (action === 'after' ? 1 : 0);
  if (!isElement(parent) || path.length === 0) return false;
  const { children } = parent;
  return follows(parent.name, [
    ...symbolsIn(children.slice(0, at)),
    name,
    ...symbolsIn(children.slice(at)),
  ]);
}

/** What links lead to keeps its id, whatever stands there. */
function attributesOf(
  { attributes }: Element,
  action: Push['action'],
  { element }: PushTarget,
): Attributes {
  const own = withoutBorrowing(attributes);
  const { id } = element.attributes;
  return action === 'replace' && id !== undefined ? { ...own, id } : own;
}
