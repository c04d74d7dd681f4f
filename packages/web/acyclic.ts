import type { Plugin } from 'vite';

/**
 * Refuses a build whose files import each other in a circle: a browser reads one of them before
 * what it needs is there, and which one it is changes with the code.
 */
export const acyclic = (): Plugin => ({
  name: 'acyclic',
  generateBundle(_options, bundle) {
    const done = new Set<string>();
    const visit = (file: string, ancestors: readonly string[]): void => {
      const circle = ancestors.indexOf(file);
      if (circle !== -1)
        this.error(`Files import each other: ${[...ancestors.slice(circle), file].join(' → ')}`);
      if (done.has(file)) return;
      const chunk = bundle[file];
      if (chunk?.type === 'chunk')
        for (const next of chunk.imports) visit(next, [...ancestors, file]);
      done.add(file);
    };
    for (const file of Object.keys(bundle)) visit(file, []);
  },
});
