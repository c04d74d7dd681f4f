import type { Publication } from '@ukiyo/core/compose';
import { problem, type Problem } from '@ukiyo/core/problems';
import { checkPlan, checkSheet, type PagePlan } from '@ukiyo/core/styles';
import {
  assetFileName,
  dayOf,
  isImage,
  printable,
  qrImage,
  type AssetSource,
  textOfFile,
  withDrawings,
} from '../shared/index.ts';
import { onBaseline } from './baseline.ts';
import { buildPrintDocument } from './build.ts';
import type { PrintAssets } from './context.ts';
import { designData, usualDesign, type PrintDesign } from './design.ts';
import type { PrintDocument } from './document.ts';
import { PrintFailure, refusal, type PrintEngine } from './engine.ts';
import { missingSigns } from './glyphs.ts';
import type { FieldValues } from './plan.ts';

/** A publication that is to be set: its images, its design, and the engine that sets it. */
export interface Printable {
  readonly publication: Publication;
  readonly asset: AssetSource;
  readonly design: PrintDesign;
  readonly engine: PrintEngine;
}

/** What the page engine is given, and what was found on the way. */
export interface PrintJob {
  readonly problems: Problem[];
  /** With which it is set: one that is usable. */
  readonly plan: PagePlan;
  /**
   * Sets the document; images that the engine cannot draw are left out and said. Throws
   * `PrintFailure`.
   */
  run<Made>(act: Act<Made>): Made;
}

/** A part of a document. */
export interface Part {
  /** The topic whose elements are traced in it. */
  readonly traced: string | undefined;
  /** The anchor of the one place of which the content is wanted. */
  readonly only?: string;
  narrow(document: PrintDocument): PrintDocument;
}

type Images = ReadonlyMap<string, Uint8Array>;
type Act<Made> = (document: PrintDocument, images: Images) => Made;

/** Images as the engine finds them: by paths, each fetched when something shows it. */
class Workspace implements PrintAssets {
  readonly images = new Map<string, Uint8Array>();
  readonly codes = new Map<string, Uint8Array>();
  readonly #names = new Map<string, string>();
  readonly #paths = new Map<string, string | undefined>();
  readonly #asset: AssetSource;
  readonly #problems: Problem[];

  constructor(asset: AssetSource, problems: Problem[]) {
    this.#asset = asset;
    this.#problems = problems;
  }

  readonly path = (id: string): string | undefined => {
    if (!this.#paths.has(id)) this.#paths.set(id, this.#fetch(id));
    const path = this.#paths.get(id);
    return path !== undefined && this.images.has(path) ? path : undefined;
  };

  readonly text = (id: string): string | undefined => {
    const file = this.#asset(id);
    return file && textOfFile(file);
  };

  readonly code = (address: string): string => {
    const path = `/codes/${this.codes.size}.svg`;
    this.codes.set(path, qrImage(address));
    return path;
  };

  readonly size = (id: string): { width: number; height: number } | undefined => {
    const { width, height } = this.#asset(id) ?? {};
    return width === undefined || height === undefined ? undefined : { width, height };
  };

  /** Leaves out images that the engine cannot draw; false where it can draw all of them. */
  removeUndrawable(engine: PrintEngine): boolean {
    const bad = [...this.images].filter(([path, bytes]) => !engine.canDraw(path, bytes));
    for (const [path] of bad) {
      this.images.delete(path);
      this.#refuse(this.#names.get(path) ?? path);
    }
    return bad.length > 0;
  }

  #fetch(id: string): string | undefined {
    const asset = this.#asset(id);
    if (!asset || asset.mediaType.startsWith('video/') || asset.mediaType.startsWith('audio/'))
      return undefined;
    if (!isImage(asset)) {
      this.#refuse(asset.name);
      return undefined;
    }
    const path = `/assets/${assetFileName(asset)}`;
    this.#names.set(path, asset.name);
    this.images.set(path, asset.bytes);
    return path;
  }

  #refuse(name: string): void {
    const message = `“${name}” is not an image that can be shown. It is left out.`;
    this.#problems.push(problem('error', 'image.unreadable', message));
  }
}

/**
 * A publication and a design as a document of the page engine.
 * Problems: those of style sheet and page plan, `print.glyph`, `image.unreadable` (the image is
 * left out), and those of the document.
 * @param part of the document, where not all of it is wanted
 */
export function settingOf(
  { publication, asset, engine, design }: Printable,
  part?: Part,
): PrintJob {
  const unusable = checkPlan(design.plan);
  const { sheet, plan } = unusable.length > 0 ? { ...design, plan: usualDesign.plan } : design;
  const problems: Problem[] = [...unusable, ...checkSheet(sheet), ...missingSigns(publication)];
  const workspace = new Workspace(withDrawings(publication, asset), problems);
  const values: FieldValues = {
    variables: publication.variables,
    date: writtenDate(publication.facts.date, publication.locale),
    colour: (name) => sheet.colours[name],
  };
  function attempt<Made>(act: Act<Made>): Made {
    const built = buildPrintDocument(publication, workspace, sheet, part);
    const isRtl = built.document.dir === 'rtl';
    const { locale } = publication;
    const design = { sheet, plan };
    const made = designData(design, { locale, isRtl, values }, workspace.path);
    const { data, images: marks } = made;
    const step = data.plan.baseline;
    const whole = {
      ...built.document,
      design: step > 0 ? { ...data, styles: onBaseline(data.styles, step) } : data,
    };
    const images = new Map([...workspace.images, ...workspace.codes, ...marks]);
    const done = act(part ? part.narrow(whole) : whole, images);
    problems.push(...built.problems);
    return done;
  }
  return {
    problems,
    plan,
    run(act) {
      try {
        return attempt(act);
      } catch (failure) {
        if (!(failure instanceof PrintFailure) || !workspace.removeUndrawable(engine))
          throw failure;
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
