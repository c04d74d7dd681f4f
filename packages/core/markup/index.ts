/**
 * XML text ⇄ element tree.
 * In: text of one XML document; out: plain, immutable, JSON-safe trees with paths, or problems with
 * line and column. Knows XML and nothing of DITA: which white space matters is told to it by the
 * grammar.
 */
export * from './element.ts';
export * from './path.ts';
export * from './reader.ts';
export * from './writer.ts';
