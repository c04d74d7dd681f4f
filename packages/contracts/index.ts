/**
 * Everything that crosses the wire or is stored as JSON.
 * In: unknown values; out: checked ones. The types of server and browser are inferred from here and
 * nowhere repeated.
 */
// Before any schema is made.
import './jitless.ts';

export * from './access.ts';
export * from './agreements.ts';
export * from './content.ts';
export * from './frames.ts';
export * from './live.ts';
export * from './outside.ts';
export * from './packages.ts';
export * from './publishing.ts';
export * from './sources.ts';
export * from './styles.ts';
export * from './variables.ts';
