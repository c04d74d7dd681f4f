/**
 * The read side of a library of topics, maps and assets.
 * In: canonical trees; out: addresses, links, and everything that is derived from a text (title,
 * links, searchable words). The server, the browser and the tests each give their own `Library`;
 * everything that composes reads only this.
 */
export * from './address.ts';
export * from './alternates.ts';
export * from './borrowing.ts';
export * from './check.ts';
export * from './derive.ts';
export * from './difference.ts';
export * from './library.ts';
export * from './passages.ts';
export * from './ids.ts';
export * from './link-form.ts';
export * from './reach.ts';
export * from './references.ts';
export * from './rewrite.ts';
export * from './topic-facts.ts';
export * from './readiness.ts';
export * from './uses.ts';
export * from './variables.ts';
export * from './variable-sets.ts';
