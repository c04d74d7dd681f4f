/** Formulas in MathML: cleaned, for screens, for paper, and in words. */
export { cleanMath, mathIn } from './clean.ts';
export { printMath, type PrintMath } from './print.ts';
export { mathWords } from './words.ts';
