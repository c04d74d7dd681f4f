import { literally } from '../language/index.ts';
import type { Node as EditorNode } from 'prosemirror-model';
import type { EditorState, Transaction } from 'prosemirror-state';

/** What is looked for in a topic. */
export interface Query {
  readonly text: string;
  readonly matchCase: boolean;
  readonly wholeWord: boolean;
  /** The text is a regular expression. */
  readonly isPattern: boolean;
  /** Only in elements of this name; empty: everywhere. */
  readonly within: string;
}

/**
 * The text of one line with where each of its pieces stands. What is no text counts as one sign
 * that nothing matches.
 */
export interface SearchedLine {
  readonly text: string;
  readonly pieces: readonly {
    readonly start: number;
    readonly position: number;
    readonly length: number;
    readonly holder: EditorNode;
  }[];
}

const gap = '\uFFFC';

/** The lines of a document, or of its elements of one name. */
export function searchedLines(document: EditorNode, within = ''): SearchedLine[] {
  const lines: SearchedLine[] = [];
  const visit = (node: EditorNode, position: number, isIn: boolean): void => {
    const inside = isIn || node.type.spec.element === within;
    if (!node.isTextblock)
      return void node.forEach((child, offset) => visit(child, position + 1 + offset, inside));
    if (!inside) return;
    let text = '';
    const pieces: SearchedLine['pieces'][number][] = [];
    const walk = (holder: EditorNode, start: number): void =>
      holder.forEach((child, offset) => {
        const at = start + offset;
        if (child.content.size > 0) return walk(child, at + 1);
        const words = child.isText ? child.text! : gap;
        if (child.isText)
          pieces.push({ start: text.length, position: at, length: words.length, holder });
        text += words;
      });
    walk(node, position + 1);
    lines.push({ text, pieces });
  };
  document.forEach((child, offset) => visit(child, offset, within === ''));
  return lines;
}

const letters = '[\\p{L}\\p{N}\\p{M}_]';

/** The query as a regular expression; a refusal in plain words when it is none. */
export function patternOf({
  text,
  matchCase,
  wholeWord,
  isPattern,
}: Query): { source: string; flags: string } | { refusal: string } {
  const own = isPattern ? text : literally(text);
  const source = wholeWord ? `(?<!${letters})(?:${own})(?!${letters})` : own;
  const flags = matchCase ? 'gu' : 'giu';
  try {
    new RegExp(source, flags);
    return { source, flags };
  } catch (error) {
    return {
      refusal:
        'This is not a pattern: ' +
        `${error instanceof Error ? error.message.replace(/^.*: /u, '') : String(error)}.`,
    };
  }
}

/** One find in one of the texts, with what would stand there instead. */
export interface Find {
  readonly line: number;
  readonly start: number;
  readonly end: number;
  readonly instead: string;
}

const mostFinds = 20_000;

/**
 * Looks through the texts; finds of nothing are left out. Runs in a worker: some patterns never
 * end.
 */
export function findMatches(
  texts: readonly string[],
  { source, flags }: { source: string; flags: string },
  replacement: string,
  isPattern: boolean,
): Find[] {
  const pattern = new RegExp(source, flags);
  const finds: Find[] = [];
  for (const [line, text] of texts.entries())
    for (const match of text.matchAll(pattern)) {
      if (match[0] === '' || match[0].includes(gap)) continue;
      if (finds.length === mostFinds) return finds;
      const instead = isPattern
        ? replacement.replace(/\$(\d|&)/gu, (_whole, group: string) =>
            group === '&' ? match[0] : (match[Number(group)] ?? ''),
          )
        : replacement;
      finds.push({ line, start: match.index, end: match.index + match[0].length, instead });
    }
  return finds;
}

export interface Found {
  readonly from: number;
  readonly to: number;
  readonly instead: string;
}

/**
 * Where the finds stand in the document. One that would reach over the edge of an element is none.
 */
export function placesOf(lines: readonly SearchedLine[], finds: readonly Find[]): Found[] {
  return finds.flatMap(({ line, start, end, instead }) => {
    const { pieces } = lines[line]!;
    const first = pieces.find(
      (piece) => piece.start <= start && start < piece.start + piece.length,
    );
    const last = pieces.find((piece) => piece.start < end && end <= piece.start + piece.length);
    if (!first || !last || first.holder !== last.holder) return [];
    return [
      { from: first.position + start - first.start, to: last.position + end - last.start, instead },
    ];
  });
}

/**
 * Puts what is to stand there instead, in one step back; the words keep the names that the first of
 * the old ones had.
 */
export function replaceFound({ tr, schema }: EditorState, found: readonly Found[]): Transaction {
  for (const { from, to, instead } of found.toSorted((a, b) => b.from - a.from)) {
    if (instead === '') tr.delete(from, to);
    else
      tr.replaceWith(
        from,
        to,
        schema.text(instead, tr.doc.resolve(from).marksAcross(tr.doc.resolve(to)) ?? []),
      );
  }
  return tr;
}
