/** Syntax diagrams: what they say, and how they are drawn as tracks from left to right. */
export { drawSyntax } from './draw.ts';
export { readSyntax, type Syntax, type SyntaxGroup, type SyntaxRow } from './read.ts';
