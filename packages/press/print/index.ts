/**
 * Publication and design → PDF, or pages as images.
 * The publication becomes one JSON document (document.ts), its styles and page plan another part of
 * it (design.ts), and one fixed template (template/) sets both; page numbers are read back and
 * returned.
 */
import type { Publication } from '@ukiyo/core/compose';
import type { Problem } from '@ukiyo/core/problems';
import type { AssetSource } from '../shared/index.ts';
import { usualDesign, type PrintDesign } from './design.ts';
import { createPrintEngine, PrintFailure, type Located, type PrintEngine } from './engine.ts';
import { finished } from './file.ts';
import { failed, problemsOf, settingOf } from './setting.ts';

export { usualDesign, type PrintDesign } from './design.ts';
export { createPrintEngine, type PrintEngine } from './engine.ts';
export { specimen } from './specimen.ts';
export {
  layoutOf,
  proofPublication,
  proofTopic,
  proofWhole,
  type ProofPages,
  type ProofWhole,
} from './proof.ts';

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
 * Problems: those of the design, `image.unreadable` (the image is left out), `print.standard`,
 * `print.font`, `print.failed` (then there is no PDF).
 */
export async function printPublication(
  publication: Publication,
  source: AssetSource,
  engine: PrintEngine = createPrintEngine(),
  design: PrintDesign = usualDesign,
): Promise<PrintResult> {
  const setting = settingOf({ publication, asset: source, engine, design });
  try {
    const { pdf, sheets, pages, warnings, milliseconds } = setting.run((document, images) =>
      engine.compile(document, images, setting.plan.file.standard),
    );
    return {
      pdf: await finished(pdf, setting.plan),
      pageCount: sheets.length,
      pages,
      problems: [...setting.problems, ...problemsOf(warnings)],
      engineMilliseconds: milliseconds,
    };
  } catch (error) {
    if (!(error instanceof PrintFailure)) throw error;
    return {
      pageCount: 0,
      pages: [],
      problems: [...setting.problems, failed(error)],
      engineMilliseconds: 0,
    };
  }
}
