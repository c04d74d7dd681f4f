import type { Plugin } from 'vite';

/** The files that every screen needs, by the names of their groups in `vite.config.ts`. */
const needed = new Set(['start', 'frame']);

/**
 * Names what every screen needs in the page itself, so that it comes together with the first script
 * instead of after it (HTML, 4.6.7.9, modulepreload).
 */
export const preloaded = (): Plugin => ({
  name: 'preloaded',
  transformIndexHtml: {
    order: 'post',
    handler: (_page, { bundle = {} }) =>
      Object.values(bundle).flatMap((file) =>
        file.type === 'chunk' && needed.has(file.name)
          ? [
              {
                tag: 'link',
                attrs: { rel: 'modulepreload', crossorigin: true, href: `/${file.fileName}` },
                injectTo: 'head' as const,
              },
            ]
          : [],
      ),
  },
});
