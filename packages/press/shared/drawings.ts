import type { Publication } from '@ukiyo/core/compose';
import { writeXml } from '@ukiyo/core/markup';
import { cleanSvg, sizeOfSvg } from '@ukiyo/core/svg';
import type { AssetFile, AssetSource } from './assets.ts';

/**
 * The files of the library, and the drawings that stand in texts, as files that draw and do nothing
 * else.
 */
export function withDrawings({ drawings }: Publication, source: AssetSource): AssetSource {
  const made = new Map<string, AssetFile>();
  return (id) => {
    const drawing = drawings[id];
    if (!drawing) return source(id);
    const known = made.get(id);
    if (known) return known;
    const root = cleanSvg(drawing);
    const file = {
      id,
      name: `${id}.svg`,
      mediaType: 'image/svg+xml',
      bytes: new TextEncoder().encode(writeXml(root)),
      ...sizeOfSvg(root),
    };
    made.set(id, file);
    return file;
  };
}
