import type { Publication } from '@ukiyo/core/compose';
import { problem, type Problem } from '@ukiyo/core/problems';
import { checkPlan, checkSheet } from '@ukiyo/core/styles';
import { assetFileName, isImage, type AssetSource } from '../shared/assets.ts';
import { qrImage } from '../shared/qr.ts';
import { buildPrintDocument } from './build.ts';
import { designData, usualDesign, type PrintDesign } from './design.ts';
import type { PrintDocument } from './document.ts';
import { PrintFailure, type PrintEngine } from './engine.ts';

/** What the page engine is given, and what was found on the way. */
export interface Setting {
  readonly problems: Problem[];
  /** Sets the document; images that the engine cannot draw are left out and said. Throws `PrintFailure`. */
  run<Made>(act: (document: PrintDocument, images: ReadonlyMap<string, Uint8Array>) => Made): Made;
}

/** A part of a document, and the topic whose elements are traced in it. */
export interface Part {
  readonly traced: string | undefined;
  narrow(document: PrintDocument): PrintDocument;
}

/**
 * A publication and a design as a document of the page engine.
 * Problems: those of style sheet and page plan, `image.unreadable` (the image is left out), and those of the document.
 * @param part of the document, where not all of it is wanted
 */
export function settingOf(publication: Publication, source: AssetSource, engine: PrintEngine, design: PrintDesign, part?: Part): Setting {
  const unusable = checkPlan(design.plan);
  const { sheet, plan } = unusable.length > 0 ? { ...design, plan: usualDesign.plan } : design;
  const problems: Problem[] = [...unusable, ...checkSheet(sheet)];
  const images = new Map<string, Uint8Array>();
  const names = new Map<string, string>();
  const refuse = (name: string): void => void problems.push(problem('error', 'image.unreadable', `“${name}” is not an image that can be shown. It is left out.`));
  for (const id of new Set([...publication.assets, ...imagesOfMarks(design)])) {
    const asset = source(id);
    if (!asset || asset.mediaType.startsWith('video/') || asset.mediaType.startsWith('audio/')) continue;
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
  const codes = new Map<string, Uint8Array>();
  const codeOf = (address: string): string => {
    const path = `/codes/${codes.size}.svg`;
    codes.set(path, qrImage(address));
    return path;
  };
  const sizeOf = (id: string): { width: number; height: number } | undefined => {
    const { width, height } = source(id) ?? {};
    return width === undefined || height === undefined ? undefined : { width, height };
  };
  const attempt = <Made>(act: (document: PrintDocument, images: ReadonlyMap<string, Uint8Array>) => Made): Made => {
    const built = buildPrintDocument(publication, { path: pathOf, size: sizeOf, code: codeOf }, sheet, part?.traced);
    const { data, images: marks } = designData({ sheet, plan }, publication.locale, built.document.dir === 'rtl', pathOf);
    const whole = { ...built.document, design: data };
    const made = act(part ? part.narrow(whole) : whole, new Map([...images, ...codes, ...marks]));
    problems.push(...built.problems);
    return made;
  };
  return {
    problems,
    run(act) {
      try {
        return attempt(act);
      } catch (failure) {
        if (!(failure instanceof PrintFailure)) throw failure;
        const bad = [...images].filter(([path, bytes]) => !engine.canDraw(path, bytes)).map(([path]) => path);
        if (bad.length === 0) throw failure;
        for (const path of bad) {
          images.delete(path);
          refuse(names.get(path) ?? path);
        }
        return attempt(act);
      }
    },
  };
}

const imagesOfMarks = ({ sheet }: PrintDesign): string[] => Object.values(sheet.marks).flatMap(({ icon }) => (icon.startsWith('asset:') ? [icon.slice('asset:'.length)] : []));

/** What the page engine warns of, as problems: `print.not-accessible`, `print.font`. */
export function problemsOf(warnings: readonly string[]): Problem[] {
  const refusal = 'accessible PDF refused';
  return warnings.map((warning) =>
    warning.startsWith(refusal)
      ? problem('warning', 'print.not-accessible', `The PDF is not marked as accessible: ${warning.slice(refusal.length + 2)}`)
      : problem('warning', 'print.font', `The page engine says: ${warning}`),
  );
}
export const failed = (failure: PrintFailure): Problem => problem('error', 'print.failed', `The pages could not be set: ${failure.message}`);
