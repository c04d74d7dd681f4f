/**
 * For tests of this and other packages: small libraries from snippets, and random valid content.
 */
export * from './arbitrary.ts';
export * from './library.ts';
