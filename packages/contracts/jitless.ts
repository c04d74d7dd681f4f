import { config } from 'zod';

// Zod compiles schemas where it may, and tries that when the first one is made. On pages that
// forbid it (Content Security Policy) the refusal costs 40 ms of their start.
if ('location' in globalThis) config({ jitless: true });
