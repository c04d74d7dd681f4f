import { isA, isInline, isTopic } from '../../grammar/index.ts';
import { isElement, type Attributes, type Element, type Node } from '../../markup/index.ts';
import type { TargetKind } from '../publication.ts';
import type { Gathering } from './gathering.ts';

/** An element whose attributes and children are resolved. */
interface Anchored {
  readonly name: string;
  readonly attributes: Attributes;
  readonly children: readonly Node[];
}

/**
 * The anchor of an element, unique in the publication, and its landmark; undefined for what nothing
 * can lead to. What is counted by its title has one, and what has an id.
 */
export function anchorOf(
  { name, attributes, children }: Anchored,
  isGathered: boolean,
  gathering: Gathering,
): string | undefined {
  if (isTopic(name)) return gathering.anchor;
  if (isGathered) return undefined;
  const id = attributes['id'];
  const kind = targetKindOf(name);
  const title = children.find(
    (child): child is Element => isElement(child) && child.name === 'title',
  );
  const isListed = isCaptioned(kind) && title !== undefined;
  if (id === undefined && !isListed && name !== 'indexterm') return undefined;
  const anchor = freeAnchor(name, id, gathering);
  if (name === 'indexterm') return anchor;
  const called = title?.children ?? (isA(name, 'dlentry') ? firstTerm(children) : []);
  const opening = called.length > 0 ? '' : openingOf({ name, attributes, children });
  gathering.landmarks.push({
    anchor,
    kind,
    title: called,
    ...(opening === '' ? {} : { opening }),
  });
  return anchor;
}

/** The first element with an id has its name; another one, borrowed perhaps, has a number. */
function freeAnchor(name: string, id: string | undefined, gathering: Gathering): string {
  const { anchor, anchors } = gathering;
  if (id === undefined || anchors.has(id)) return `${anchor}--${name}-${gathering.nextNumber()}`;
  anchors.set(id, `${anchor}--${id}`);
  return `${anchor}--${id}`;
}

/** Counted by their titles. */
export const isCaptioned = (kind: TargetKind): kind is 'figure' | 'table' | 'example' =>
  kind === 'figure' || kind === 'table' || kind === 'example';

const kinds = new Map<string, TargetKind>();

function targetKindOf(name: string): TargetKind {
  const known = kinds.get(name) ?? kindFrom(name);
  kinds.set(name, known);
  return known;
}

function kindFrom(name: string): TargetKind {
  if (isA(name, 'fig')) return 'figure';
  if (isA(name, 'table') || isA(name, 'simpletable')) return 'table';
  if (name === 'example') return 'example';
  if (isA(name, 'section')) return 'section';
  if (name === 'step' || name === 'substep') return 'step';
  if (isA(name, 'fn')) return 'footnote';
  return isA(name, 'li') ? 'item' : 'element';
}

/** Words of an opening, at most. */
const openingLength = 60;

/** How an element without a title begins, cut between words; images say their alternative text. */
function openingOf({ attributes, children }: Anchored): string {
  let words = attributes['spectitle'] ?? '';
  const gather = (nodes: readonly Node[]): void => {
    for (const node of nodes) {
      if (words.length > openingLength) return;
      if (typeof node === 'string') words += node;
      else if (isElement(node) && node.name !== 'indexterm' && node.name !== 'fn') {
        if (node.children.length === 0) words += node.attributes['alt'] ?? '';
        gather(node.children);
        if (!isInline(node.name)) words += ' ';
      }
    }
  };
  if (words === '') gather(children);
  const line = (words.trim() === '' ? (attributes['alt'] ?? '') : words)
    .replace(/\s+/gu, ' ')
    .trim();
  return line.length <= openingLength
    ? line
    : `${line.slice(0, openingLength).replace(/ \S*$/u, '')}…`;
}

const firstTerm = (children: readonly Node[]): readonly Node[] =>
  children.find((child): child is Element => isElement(child) && isA(child.name, 'dt'))?.children ??
  [];
