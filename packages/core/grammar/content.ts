import { groups } from './groups.ts';

/**
 * Content expressions say what may stand in an element, in the notation of document type
 * definitions: names, `#text`, `empty`, `@group`, sequence `,`, choice `|`, and `?` `*` `+` after a
 * name or bracket.
 */
export type Expression =
  | { readonly kind: 'symbol'; readonly symbol: string }
  | { readonly kind: 'sequence' | 'choice'; readonly parts: readonly Expression[] }
  | {
      readonly kind: 'repeat';
      readonly part: Expression;
      readonly least: 0 | 1;
      readonly most: 1 | 'many';
    };

export const textSymbol = '#text';

const tokenPattern = /\s*(@?[#\w-]+|[(),|?*+])/uy;

function tokens(source: string): string[] {
  const found: string[] = [];
  tokenPattern.lastIndex = 0;
  while (tokenPattern.lastIndex < source.trimEnd().length) {
    const match = tokenPattern.exec(source);
    if (!match) throw new Error(`Not a content expression: ${source}`);
    found.push(match[1]!);
  }
  return found;
}

/**
 * Reads a content expression; groups are replaced by what they stand for. Throws on a mistake in
 * the grammar table.
 */
export function parseContent(source: string): Expression {
  const input = tokens(source);
  let position = 0;
  const fail = (): never => {
    throw new Error(`Not a content expression: ${source}`);
  };
  const primary = (): Expression => {
    const token = input[position++] ?? fail();
    if (token === '(') {
      const inner = joined();
      if (input[position++] !== ')') fail();
      return inner;
    }
    if (token.startsWith('@')) return parseContent(groups[token.slice(1)] ?? fail());
    if (token === 'empty') return { kind: 'sequence', parts: [] };
    return /^[#\w]/u.test(token) ? { kind: 'symbol', symbol: token } : fail();
  };
  const repeated = (): Expression => {
    const part = primary();
    const sign = input[position];
    if (sign !== '?' && sign !== '*' && sign !== '+') return part;
    position += 1;
    return { kind: 'repeat', part, least: sign === '+' ? 1 : 0, most: sign === '?' ? 1 : 'many' };
  };
  const joined = (): Expression => {
    const parts = [repeated()];
    const separator = input[position];
    if (separator !== ',' && separator !== '|') return parts[0]!;
    while (input[position] === separator) {
      position += 1;
      parts.push(repeated());
    }
    return { kind: separator === ',' ? 'sequence' : 'choice', parts };
  };
  const result = joined();
  if (position !== input.length) fail();
  return result;
}

/** Every name and `#text` in an expression. */
export function symbolsOf(expression: Expression): Set<string> {
  if (expression.kind === 'symbol') return new Set([expression.symbol]);
  if (expression.kind === 'repeat') return symbolsOf(expression.part);
  return new Set(expression.parts.flatMap((part) => [...symbolsOf(part)]));
}
