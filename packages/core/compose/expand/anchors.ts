import type { Reference } from '../../library/index.ts';
import type { MapNode } from './node.ts';

/** Anchors of maps, and what other maps hang in at them (DITA 1.3, 3.2.2 `anchor`). */
export class Anchors {
  /** Those that were read, as `item/id`. */
  readonly #read = new Set<string>();
  readonly #hung = new Map<string, readonly MapNode[]>();

  add(key: string): void {
    this.#read.add(key);
  }

  isRead(key: string | undefined): boolean {
    return key !== undefined && this.#read.has(key);
  }

  /** @returns the key of the anchor; undefined where the reference names none */
  hang(reference: Reference | undefined, nodes: readonly MapNode[]): string | undefined {
    if (reference?.kind !== 'item') return undefined;
    const key = `${reference.id}/${reference.element ?? ''}`;
    this.#hung.set(key, [...(this.#hung.get(key) ?? []), ...nodes]);
    return key;
  }

  /** What hangs at an anchor, once only, so that what hangs in itself ends. */
  take(key: string): readonly MapNode[] {
    const nodes = this.#hung.get(key) ?? [];
    this.#hung.delete(key);
    return nodes;
  }

  /** Anchors at which something hangs that was never taken: they are in what hangs there. */
  untaken(): readonly string[] {
    return [...this.#hung.keys()].filter((key) => this.#read.has(key));
  }
}
