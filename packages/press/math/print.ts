import { childElements, lineOf, type Element } from '@ukiyo/core/markup';

/** A formula as the print template builds it. Short keys, as in the whole document. */
export type PrintMath =
  /** A letter or name, a number, an operator, words. */
  | { readonly m: 'i' | 'n' | 'o' | 't'; readonly v: string }
  /** `lr`: its first and last signs grow with what stands between them. */
  | { readonly m: 'row'; readonly c: readonly PrintMath[]; readonly lr?: true }
  | { readonly m: 'frac' | 'root'; readonly c: readonly PrintMath[] }
  /** Signs at a base: below and above its line, or under and over it. */
  | {
      readonly m: 'at' | 'limits';
      readonly base: PrintMath;
      readonly b?: PrintMath;
      readonly t?: PrintMath;
    }
  | { readonly m: 'accent'; readonly base: PrintMath; readonly v: string }
  | { readonly m: 'mat'; readonly rows: readonly (readonly PrintMath[])[] }
  | { readonly m: 'gap' };

const tokens: Readonly<Record<string, 'i' | 'n' | 'o' | 't'>> = {
  mi: 'i',
  mn: 'n',
  mo: 'o',
  mtext: 't',
  ms: 't',
};
/** Accents of MathML by the signs that it writes over a base (MathML 3, appendix C). */
const accents: ReadonlySet<string> = new Set(Array.from('^ˆ~˜¯‾˙¨→⃗ˇ´`˘'));
const opening = /^[([{⟨⌊⌈|‖]$/u;
const closing = /^[)\]}⟩⌋⌉|‖]$/u;
const empty: PrintMath = { m: 'row', c: [] };

const rowOf = (parts: readonly Element[]): PrintMath => {
  const c = parts.map(printMath);
  const [first, last] = [c[0], c.at(-1)];
  const isFenced =
    c.length > 2 &&
    first?.m === 'o' &&
    last?.m === 'o' &&
    opening.test(first.v) &&
    closing.test(last.v);
  if (c.length === 1) return c[0]!;
  return isFenced ? { m: 'row', c, lr: true } : { m: 'row', c };
};

/** @param math as `cleanMath` gives it */
export function printMath(math: Element): PrintMath {
  const { name } = math;
  const token = tokens[name];
  if (token) return { m: token, v: lineOf(math) };
  const parts = childElements(math);
  const part = (at: number): PrintMath => (parts[at] ? printMath(parts[at]) : empty);
  switch (name) {
    case 'mfrac':
      return { m: 'frac', c: [part(0), part(1)] };
    case 'msqrt':
      return { m: 'root', c: [rowOf(parts)] };
    case 'mroot':
      return { m: 'root', c: [part(0), part(1)] };
    case 'msub':
      return { m: 'at', base: part(0), b: part(1) };
    case 'msup':
      return { m: 'at', base: part(0), t: part(1) };
    case 'msubsup':
      return { m: 'at', base: part(0), b: part(1), t: part(2) };
    case 'munder':
      return { m: 'limits', base: part(0), b: part(1) };
    case 'mover':
      return overOf(part(0), part(1));
    case 'munderover':
      return { m: 'limits', base: part(0), b: part(1), t: part(2) };
    case 'mmultiscripts':
      return { m: 'at', base: part(0), b: part(1), t: part(2) };
    case 'mtable':
      return { m: 'mat', rows: parts.map((row) => childElements(row).map(printMath)) };
    case 'mspace':
      return { m: 'gap' };
    case 'mphantom':
      return empty;
    default:
      return rowOf(parts);
  }
}

const overOf = (base: PrintMath, over: PrintMath): PrintMath =>
  over.m === 'o' && accents.has(over.v)
    ? { m: 'accent', base, v: over.v }
    : { m: 'limits', base, t: over };
