import type { Expression } from './content.ts';

/**
 * A place in the reading of an element's children. States are shared: equal states are the same
 * object.
 */
export interface State {
  /** Nothing more is needed here. */
  readonly complete: boolean;
  /** What may come next. */
  readonly symbols: readonly string[];
  next(symbol: string): State | undefined;
}

interface Positions {
  readonly nullable: boolean;
  readonly first: readonly number[];
  readonly last: readonly number[];
}

/**
 * Turns a content expression into an automaton: positions and followers after Glushkov (1961),
 * made deterministic only as far as it is walked.
 */
export function compile(expression: Expression): State {
  const symbolAt: string[] = [];
  const followers: Set<number>[] = [];
  const connect = (from: readonly number[], to: readonly number[]): void => {
    for (const position of from) for (const target of to) followers[position]!.add(target);
  };
  const number = (part: Expression): Positions => {
    if (part.kind === 'symbol') {
      const position = symbolAt.push(part.symbol) - 1;
      followers.push(new Set());
      return { nullable: false, first: [position], last: [position] };
    }
    if (part.kind === 'repeat') {
      const inner = number(part.part);
      if (part.most === 'many') connect(inner.last, inner.first);
      return { ...inner, nullable: inner.nullable || part.least === 0 };
    }
    const parts = part.parts.map(number);
    if (part.kind === 'choice') {
      return {
        nullable: parts.some((one) => one.nullable),
        first: parts.flatMap((one) => one.first),
        last: parts.flatMap((one) => one.last),
      };
    }
    let whole: Positions = { nullable: true, first: [], last: [] };
    for (const one of parts) {
      connect(whole.last, one.first);
      whole = {
        nullable: whole.nullable && one.nullable,
        first: whole.nullable ? [...whole.first, ...one.first] : whole.first,
        last: one.nullable ? [...whole.last, ...one.last] : one.last,
      };
    }
    return whole;
  };

  const whole = number(expression);
  const ends = new Set(whole.last);
  const states = new Map<string, State>();
  const state = (positions: readonly number[], complete: boolean): State => {
    const key = positions.join(',') + (complete ? '!' : '');
    const known = states.get(key);
    if (known) return known;
    const bySymbol = new Map<string, number[]>();
    for (const position of positions)
      bySymbol.set(symbolAt[position]!, [...(bySymbol.get(symbolAt[position]!) ?? []), position]);
    const made: State = {
      complete,
      symbols: [...bySymbol.keys()],
      next(symbol) {
        const taken = bySymbol.get(symbol);
        if (!taken) return undefined;
        const reached = new Set(taken.flatMap((position) => [...followers[position]!]));
        return state(
          [...reached].sort((a, b) => a - b),
          taken.some((position) => ends.has(position)),
        );
      },
    };
    // `next` is asked for the same symbols over and over; remember the answers.
    const answers = new Map<string, State | undefined>();
    const compute = made.next;
    made.next = (symbol) => {
      if (!answers.has(symbol)) answers.set(symbol, compute(symbol));
      return answers.get(symbol);
    };
    states.set(key, made);
    return made;
  };
  return state(whole.first, whole.nullable);
}
