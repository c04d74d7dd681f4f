import type { MapNode } from './node.ts';

/** Entries for which all maps must have been read, and what then stands for them. */
export class PendingNodes {
  readonly #makers = new Map<MapNode, () => readonly MapNode[]>();

  /** A place among the others, until it is known what stands there. */
  add(node: MapNode, make: () => readonly MapNode[]): readonly MapNode[] {
    this.#makers.set(node, make);
    return [node];
  }

  /** Entries with what stands for those that had to wait. */
  settled(nodes: readonly MapNode[]): readonly MapNode[] {
    if (this.#makers.size === 0) return nodes;
    return nodes.flatMap((node) => this.#makers.get(node)?.() ?? [this.withSettled(node)]);
  }

  /** An entry with what stands for those below it. */
  withSettled(node: MapNode): MapNode {
    const children = this.settled(node.children);
    const isSame =
      children.length === node.children.length &&
      children.every((child, at) => child === node.children[at]);
    return isSame ? node : { ...node, children };
  }
}
