/**
 * Publication → PDF.
 * The publication becomes one JSON document (document.ts), which one fixed template (manual.typ) sets;
 * page numbers are read back and returned.
 */
import type { Publication } from '@ukiyo/core/compose';
import { problem, type Problem } from '@ukiyo/core/problems';
import { assetFileName, isImage, type AssetSource } from '../shared/assets.ts';
import { buildPrintDocument } from './build.ts';
import { createPrintEngine, PrintFailure, type Compiled, type Located, type PrintEngine } from './engine.ts';

export { createPrintEngine, type PrintEngine } from './engine.ts';

export interface PrintResult {
  readonly pdf?: Uint8Array;
  readonly pageCount: number;
  /** Where everything that can be led to stands. */
  readonly pages: readonly Located[];
  readonly problems: readonly Problem[];
  readonly engineMilliseconds: number;
}

/**
 * Sets a publication as a PDF: tagged, with bookmarks, links and metadata.
 * Problems: `image.unreadable` (the image is left out), `print.not-accessible`, `print.font`, `print.failed` (then there is no PDF).
 */
export function printPublication(publication: Publication, source: AssetSource, engine: PrintEngine = createPrintEngine()): PrintResult {
  const problems: Problem[] = [];
  const images = new Map<string, Uint8Array>();
  const names = new Map<string, string>();
  const refuse = (name: string): void => void problems.push(problem('error', 'image.unreadable', `“${name}” is not an image that can be shown. It is left out.`));
  for (const id of publication.assets) {
    const asset = source(id);
    if (!asset) continue;
    if (asset.mediaType.startsWith('video/') || asset.mediaType.startsWith('audio/')) continue;
    if (!isImage(asset)) {
      refuse(asset.name);
      continue;
    }
    const path = `/assets/${assetFileName(asset)}`;
    names.set(path, asset.name);
    images.set(path, asset.bytes);
  }
  const pathOf = (id: string): string | undefined => {
    const asset = source(id);
    const path = asset && `/assets/${assetFileName(asset)}`;
    return path !== undefined && images.has(path) ? path : undefined;
  };

  const attempt = (): Compiled => {
    const built = buildPrintDocument(publication, { path: pathOf });
    const compiled = engine.compile(built.document, images);
    problems.push(...built.problems);
    return compiled;
  };
  const attemptWithoutBadImages = (failure: PrintFailure): Compiled => {
    const bad = [...images].filter(([path, bytes]) => !engine.canDraw(path, bytes)).map(([path]) => path);
    if (bad.length === 0) throw failure;
    for (const path of bad) {
      images.delete(path);
      refuse(names.get(path) ?? path);
    }
    return attempt();
  };

  try {
    let compiled: Compiled;
    try {
      compiled = attempt();
    } catch (error) {
      if (!(error instanceof PrintFailure)) throw error;
      compiled = attemptWithoutBadImages(error);
    }
    for (const warning of compiled.warnings) {
      const refused = warning.startsWith('accessible PDF refused');
      problems.push(problem('warning', refused ? 'print.not-accessible' : 'print.font', refused ? `The PDF is not marked as accessible: ${warning.slice(24)}` : `The page engine says: ${warning}`));
    }
    return { pdf: compiled.pdf, pageCount: compiled.pageCount, pages: compiled.pages, problems, engineMilliseconds: compiled.milliseconds };
  } catch (error) {
    if (!(error instanceof PrintFailure)) throw error;
    return { pageCount: 0, pages: [], problems: [...problems, problem('error', 'print.failed', `The pages could not be set: ${error.message}`)], engineMilliseconds: 0 };
  }
}
