import type { Publication } from '@ukiyo/core/compose';
import { problem, type Problem } from '@ukiyo/core/problems';
import { checkPlan, checkSheet, type PagePlan } from '@ukiyo/core/styles';
import { assetFileName, isImage, type AssetSource } from '../shared/assets.ts';
import { qrImage } from '../shared/qr.ts';
import { dayOf, printable } from '../shared/text.ts';
import { onBaseline } from './baseline.ts';
import { buildPrintDocument } from './build.ts';
import { designData, usualDesign, type PrintDesign } from './design.ts';
import type { PrintDocument } from './document.ts';
import { PrintFailure, refusal, type PrintEngine } from './engine.ts';
import { missingSigns } from './glyphs.ts';
import type { Told } from './plan.ts';

/** What the page engine is given, and what was found on the way. */
export interface Setting {
  readonly problems: Problem[];
  /** With which it is set: one that is usable. */
  readonly plan: PagePlan;
  /**
   * Sets the document; images that the engine cannot draw are left out and said. Throws
   * `PrintFailure`.
   */
  run<Made>(act: (document: PrintDocument, images: ReadonlyMap<string, Uint8Array>) => Made): Made;
}

/** A part of a document. */
export interface Part {
  /** The topic whose elements are traced in it. */
  readonly traced: string | undefined;
  /** The anchor of the one place of which the content is wanted. */
  readonly only?: string;
  narrow(document: PrintDocument): PrintDocument;
}

/**
 * A publication and a design as a document of the page engine.
 * Problems: those of style sheet and page plan, `print.glyph`, `image.unreadable` (the image is
 * left out), and those of the document.
 * @param part of the document, where not all of it is wanted
 */
export function settingOf(
  publication: Publication,
  source: AssetSource,
  engine: PrintEngine,
  design: PrintDesign,
  part?: Part,
): Setting {
  const unusable = checkPlan(design.plan);
  const { sheet, plan } = unusable.length > 0 ? { ...design, plan: usualDesign.plan } : design;
  const problems: Problem[] = [...unusable, ...checkSheet(sheet), ...missingSigns(publication)];
  const images = new Map<string, Uint8Array>();
  const names = new Map<string, string>();
  const refuse = (name: string): void =>
    void problems.push(
      problem(
        'error',
        'image.unreadable',
        `“${name}” is not an image that can be shown. It is left out.`,
      ),
    );
  const paths = new Map<string, string | undefined>();
  /** An image is fetched when something shows it. */
  const fetched = (id: string): string | undefined => {
    const asset = source(id);
    if (!asset || asset.mediaType.startsWith('video/') || asset.mediaType.startsWith('audio/'))
      return undefined;
    if (!isImage(asset)) {
      refuse(asset.name);
      return undefined;
    }
    const path = `/assets/${assetFileName(asset)}`;
    names.set(path, asset.name);
    images.set(path, asset.bytes);
    return path;
  };
  const pathOf = (id: string): string | undefined => {
    if (!paths.has(id)) paths.set(id, fetched(id));
    const path = paths.get(id);
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
  const told: Told = {
    variables: publication.variables,
    date: writtenDate(publication.facts.date, publication.locale),
    colour: (name) => sheet.colours[name],
  };
  const attempt = <Made>(
    act: (document: PrintDocument, images: ReadonlyMap<string, Uint8Array>) => Made,
  ): Made => {
    const built = buildPrintDocument(
      publication,
      { path: pathOf, size: sizeOf, code: codeOf },
      sheet,
      part,
    );
    const { data, images: marks } = designData(
      { sheet, plan },
      publication.locale,
      built.document.dir === 'rtl',
      told,
      pathOf,
    );
    const step = data.plan.baseline;
    const whole = {
      ...built.document,
      design: step > 0 ? { ...data, styles: onBaseline(data.styles, step) } : data,
    };
    const made = act(part ? part.narrow(whole) : whole, new Map([...images, ...codes, ...marks]));
    problems.push(...built.problems);
    return made;
  };
  return {
    problems,
    plan,
    run(act) {
      try {
        return attempt(act);
      } catch (failure) {
        if (!(failure instanceof PrintFailure)) throw failure;
        const bad = [...images]
          .filter(([path, bytes]) => !engine.canDraw(path, bytes))
          .map(([path]) => path);
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

/** A date in the words of the language; as it is written where it is none of the calendar. */
function writtenDate(date: string, locale: string): string {
  const day = dayOf(date);
  return day
    ? new Intl.DateTimeFormat(locale, { dateStyle: 'long', timeZone: 'UTC' }).format(day)
    : printable(date);
}

/** What the page engine warns of, as problems: `print.standard`, `print.font`. */
export function problemsOf(warnings: readonly string[]): Problem[] {
  return warnings.map((warning) =>
    warning.startsWith(refusal)
      ? problem(
          'warning',
          'print.standard',
          'The file does not keep to the standard that its page plan asks for: ' +
            (/message: "([^"]*)"/u.exec(warning)?.[1] ?? warning.slice(refusal.length)),
        )
      : problem('warning', 'print.font', `The page engine says: ${warning}`),
  );
}
export const failed = (failure: PrintFailure): Problem =>
  problem('error', 'print.failed', `The pages could not be set: ${failure.message}`);
