import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { NodeCompiler, type NodeTypstDocument } from '@myriaddreamin/typst-ts-node-compiler';
import type { PagePlan } from '@ukiyo/core/styles';
import type { PrintDocument } from './document.ts';
import { drawingsOf, type Drawings } from './drawings.ts';
import { faceFolders } from './faces.ts';

/** A manual of more is not set again quickly, but within the memory of its process. */
const manyPages = 600;

type Standard = PagePlan['file']['standard'] | 'none';
const standards = { accessible: 'ua-1', 'for the archive': 'a-2a' } as const satisfies Record<
  PagePlan['file']['standard'],
  string
>;
/** A warning that the file does not keep to its standard begins with this. */
export const refusal = 'standard refused: ';

const workspace = '/press';

/**
 * The template beside this file, by the names of its parts; the compiled server finds it beside its
 * sources.
 */
function template(): ReadonlyMap<string, string> {
  const here = dirname(fileURLToPath(import.meta.url));
  const folder = here.includes(join('press', 'dist'))
    ? join(here, '../../print/template')
    : join(here, 'template');
  return new Map(
    readdirSync(folder).map((name) => [name, readFileSync(join(folder, name), 'utf8')]),
  );
}

export interface Located {
  readonly id: string;
  /** 1 is the cover. */
  readonly sheet: number;
  /** The number printed on the page. */
  readonly shown: string;
  /** From the upper edge of the page, in points. */
  readonly y: number;
}

interface Compiled {
  readonly pdf: Uint8Array;
  readonly pages: readonly Located[];
  readonly traces: readonly Traced[];
  readonly sheets: readonly Sheet[];
  readonly warnings: readonly string[];
  /** Milliseconds that the engine itself took. */
  readonly milliseconds: number;
}

/** Where an element of the traced topic begins: `path` as `1.0.2`, the rest as in `Located`. */
export interface Traced {
  readonly path: string;
  readonly sheet: number;
  readonly y: number;
}

/** A page, in millimetres. */
export interface Sheet {
  readonly width: number;
  readonly height: number;
}

interface Drawn {
  readonly drawings: Drawings;
  readonly traces: readonly Traced[];
  readonly pages: readonly Located[];
  readonly sheets: readonly Sheet[];
  readonly warnings: readonly string[];
  readonly milliseconds: number;
}

export class PrintFailure extends Error {}

/**
 * A warm compiler. It grows with each document: run it in a child process and end that process now
 * and then.
 */
export interface PrintEngine {
  /**
   * Throws `PrintFailure` with the engine's own words when the document cannot be set. Without a
   * standard it is only to be looked at.
   */
  compile(
    document: PrintDocument,
    images: ReadonlyMap<string, Uint8Array>,
    standard: Standard,
  ): Compiled;
  /**
   * The same without a PDF: as drawings of the pages, and where things stand. Throws
   * `PrintFailure`.
   */
  draw(document: PrintDocument, images: ReadonlyMap<string, Uint8Array>): Drawn;
  /** Only where things stand. Throws `PrintFailure`. */
  locate(document: PrintDocument, images: ReadonlyMap<string, Uint8Array>): readonly Located[];
  /** Whether the engine can draw an image. */
  canDraw(path: string, bytes: Uint8Array): boolean;
}

interface Diagnostic {
  readonly message: string;
}

export function createPrintEngine(): PrintEngine {
  const compiler = NodeCompiler.create({
    workspace,
    fontArgs: [{ fontPaths: [...faceFolders()] }],
  });
  const parts = template();
  const main = `${workspace}/manual.typ`;
  const probe = `${workspace}/probe.typ`;
  const shadow = (path: string, bytes: Uint8Array): void =>
    compiler.mapShadow(`${workspace}${path}`, Buffer.from(bytes));

  const lookUp = (result: NodeTypstDocument): readonly Located[] =>
    (compiler.query(result, { selector: '<pages>', field: 'value' }) as Located[][])[0] ?? [];
  const tracesOf = (result: NodeTypstDocument): readonly Traced[] =>
    (compiler.query(result, { selector: '<places>', field: 'value' }) as Traced[][])[0] ?? [];
  const sheetsOf = (result: NodeTypstDocument, { design: { plan } }: PrintDocument): Sheet[] => {
    const turned = new Set(
      (compiler.query(result, { selector: '<lying>', field: 'value' }) as number[][])[0],
    );
    const [width, height] = [plan.width + 2 * plan.around, plan.height + 2 * plan.around];
    return Array.from({ length: result.numOfPages }, (_, at) =>
      turned.has(at + 1) ? { width: height, height: width } : { width, height },
    );
  };
  /** Sets the document; what it warns of comes with it. */
  const set = (
    document: PrintDocument,
    images: ReadonlyMap<string, Uint8Array>,
  ): { readonly result: NodeTypstDocument; readonly warnings: string[] } => {
    compiler.resetShadow();
    for (const [name, source] of parts) compiler.addSource(`${workspace}/${name}`, source);
    shadow('/doc.json', Buffer.from(JSON.stringify(document)));
    for (const [path, bytes] of images) shadow(path, bytes);
    const outcome = compiler.compile({ mainFilePath: main });
    if (!outcome.result) {
      const diagnostics = outcome.takeDiagnostics();
      const found = diagnostics ? (compiler.fetchDiagnostics(diagnostics) as Diagnostic[]) : [];
      throw new PrintFailure(
        found.map(({ message }) => message).join('; ') || 'The page engine gave no reason.',
      );
    }
    const taken = outcome.takeWarnings();
    return {
      result: outcome.result,
      warnings: taken
        ? (compiler.fetchDiagnostics(taken) as Diagnostic[]).map(({ message }) => message)
        : [],
    };
  };

  return {
    compile(document, images, standard) {
      const started = performance.now();
      const { result, warnings } = set(document, images);
      const pages = lookUp(result);
      // What is remembered for the next time would stand in memory beside the file that is being
      // made: of so many pages that is too much.
      if (result.numOfPages > manyPages) compiler.evictCache(0);
      let pdf: Uint8Array;
      try {
        pdf = compiler.pdf(
          result,
          standard === 'none' ? { pdfTags: false } : { pdfStandard: standards[standard] },
        );
      } catch (error) {
        warnings.push(`${refusal}${String(error)}`);
        pdf = compiler.pdf(result);
      }
      compiler.evictCache(20);
      return {
        pdf,
        pages,
        traces: tracesOf(result),
        sheets: sheetsOf(result, document),
        warnings,
        milliseconds: performance.now() - started,
      };
    },
    draw(document, images) {
      const started = performance.now();
      const { result, warnings } = set(document, images);
      const sheets = sheetsOf(result, document);
      const drawings = drawingsOf(compiler.plainSvg(result));
      compiler.evictCache(20);
      return {
        drawings,
        traces: tracesOf(result),
        pages: lookUp(result),
        sheets,
        warnings,
        milliseconds: performance.now() - started,
      };
    },
    locate(document, images) {
      const pages = lookUp(set(document, images).result);
      compiler.evictCache(20);
      return pages;
    },
    canDraw(path, bytes) {
      compiler.addSource(probe, `#image("${path}")`);
      shadow(path, bytes);
      return compiler.compile({ mainFilePath: probe }).result !== null;
    },
  };
}
