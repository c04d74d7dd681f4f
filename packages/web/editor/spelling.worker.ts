import { expose } from 'comlink';
import { createSpeller } from './speller.ts';

const spelling = createSpeller();
export type Speller = typeof spelling;
expose(spelling);
