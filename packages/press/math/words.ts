import { childElements, lineOf, type Element } from '@ukiyo/core/markup';
import { isToken } from './clean.ts';

const simple = /^[\p{L}\p{N}.,′]+$/u;
const grouped = (words: string): string => (simple.test(words) ? words : `(${words})`);

/**
 * A formula in one line of words and signs, for those who hear it and for text alone: `(a + b)/2`.
 * @param math as `cleanMath` gives it
 */
export function mathWords(math: Element): string {
  const { alttext } = math.attributes;
  return alttext ?? wordsOf(math).replace(/\s+/gu, ' ').trim();
}

function wordsOf(element: Element): string {
  if (isToken(element.name)) {
    const text = lineOf(element);
    return element.name === 'mo' && /^[=<>≤≥≈≠±+−×·÷→⇒∈]$/u.test(text) ? ` ${text} ` : text;
  }
  const parts = childElements(element).map(wordsOf);
  const [base = '', first = '', second = ''] = parts;
  switch (element.name) {
    case 'mfrac':
      return `${grouped(base)}/${grouped(first)}`;
    case 'msqrt':
      return `√${grouped(parts.join(''))}`;
    case 'mroot':
      return `√[${first}]${grouped(base)}`;
    case 'msup':
    case 'mover':
      return `${base}^${grouped(first)}`;
    case 'msub':
    case 'munder':
      return `${base}_${grouped(first)}`;
    case 'msubsup':
    case 'munderover':
      return `${base}_${grouped(first)}^${grouped(second)}`;
    case 'mtr':
      return parts.join(', ');
    case 'mtable':
      return `[${parts.join('; ')}]`;
    case 'mspace':
      return ' ';
    default:
      return parts.join('');
  }
}
