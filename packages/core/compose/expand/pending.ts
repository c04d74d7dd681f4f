import type { MapNode } from './node.ts';

/** Entries that can only be resolved when all maps have been read. */
export class PendingNodes {
  readonly #makers = new Map<MapNode, () => readonly MapNode[]>();

  /** Keeps the position of entries that `make` gives later. */
  add(node: MapNode, make: () => readonly MapNode[]): readonly MapNode[] {
    this.#makers.set(node, make);
    return [node];
  }

  /** The entries, with those that were pending resolved. */
  settled(nodes: readonly MapNode[]): readonly MapNode[] {
    if (this.#makers.size === 0) return nodes;
    return nodes.flatMap((node) => this.#makers.get(node)?.() ?? [this.withSettled(node)]);
  }

  /** An entry with the pending entries below it resolved. */
  withSettled(node: MapNode): MapNode {
    const children = this.settled(node.children);
    const isSame =
      children.length === node.children.length &&
      children.every((child, at) => child === node.children[at]);
    return isSame ? node : { ...node, children };
  }
}
