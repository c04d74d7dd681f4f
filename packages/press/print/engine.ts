import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { NodeCompiler, type NodeTypstDocument } from '@myriaddreamin/typst-ts-node-compiler';
import type { PrintDocument } from './document.ts';

/** A manual of more is not set again quickly, but within the memory of its process. */
const manyPages = 600;

const require = createRequire(import.meta.url);
const workspace = '/press';

/** The faces that ship, as static TrueType files: the engine reads no other kind. */
const faces: Record<string, readonly string[]> = {
  'source-serif-4': ['400Regular', '400Regular_Italic', '600SemiBold', '700Bold', '700Bold_Italic'],
  'source-sans-3': ['400Regular', '400Regular_Italic', '600SemiBold', '700Bold'],
  'source-code-pro': ['400Regular', '600SemiBold'],
};

function fontFolders(): string[] {
  return Object.entries(faces).flatMap(([family, weights]) => {
    const folder = dirname(require.resolve(`@expo-google-fonts/${family}/package.json`));
    return weights.map((weight) => join(folder, weight)).filter((path) => readdirSync(path).some((name) => name.endsWith('.ttf')));
  });
}

/** The template beside this file; the compiled server finds it beside its sources. */
function template(): string {
  const here = dirname(fileURLToPath(import.meta.url));
  return readFileSync(here.includes(join('press', 'dist')) ? join(here, '../../print/manual.typ') : join(here, 'manual.typ'), 'utf8');
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
  readonly pageCount: number;
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

/** Pages as one image, one below the other. */
interface Drawn {
  readonly svg: string;
  readonly traces: readonly Traced[];
  readonly pages: readonly Located[];
  readonly pageCount: number;
  readonly warnings: readonly string[];
  readonly milliseconds: number;
}

export class PrintFailure extends Error {}

/** A warm compiler. It grows with each document: run it in a child process and end that process now and then. */
export interface PrintEngine {
  /** Throws `PrintFailure` with the engine's own words when the document cannot be set. */
  compile(document: PrintDocument, images: ReadonlyMap<string, Uint8Array>): Compiled;
  /** The same without a PDF: as an image of all pages, and where things stand. Throws `PrintFailure`. */
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
  const compiler = NodeCompiler.create({ workspace, fontArgs: [{ fontPaths: fontFolders() }] });
  const source = template();
  const main = `${workspace}/main.typ`;
  const shadow = (path: string, bytes: Uint8Array): void => compiler.mapShadow(`${workspace}${path}`, Buffer.from(bytes));

  const lookUp = (result: NodeTypstDocument): readonly Located[] => (compiler.query(result, { selector: '<pages>', field: 'value' }) as Located[][])[0] ?? [];
  /** Sets the document; what it warns of comes with it. */
  const set = (document: PrintDocument, images: ReadonlyMap<string, Uint8Array>): { readonly result: NodeTypstDocument; readonly warnings: string[] } => {
    compiler.resetShadow();
    compiler.addSource(main, source);
    shadow('/doc.json', Buffer.from(JSON.stringify(document)));
    for (const [path, bytes] of images) shadow(path, bytes);
    const outcome = compiler.compile({ mainFilePath: main });
    if (!outcome.result) {
      const diagnostics = outcome.takeDiagnostics();
      const found = diagnostics ? (compiler.fetchDiagnostics(diagnostics) as Diagnostic[]) : [];
      throw new PrintFailure(found.map(({ message }) => message).join('; ') || 'The page engine gave no reason.');
    }
    const taken = outcome.takeWarnings();
    return { result: outcome.result, warnings: taken ? (compiler.fetchDiagnostics(taken) as Diagnostic[]).map(({ message }) => message) : [] };
  };

  return {
    compile(document, images) {
      const started = performance.now();
      const { result, warnings } = set(document, images);
      const pages = lookUp(result);
      // What is remembered for the next time would stand in memory beside the file that is being made: of so many pages that is too much.
      if (result.numOfPages > manyPages) compiler.evictCache(0);
      let pdf: Uint8Array;
      try {
        pdf = compiler.pdf(result, { pdfStandard: 'ua-1' });
      } catch (error) {
        warnings.push(`accessible PDF refused: ${String(error)}`);
        pdf = compiler.pdf(result);
      }
      compiler.evictCache(20);
      return { pdf, pages, pageCount: result.numOfPages, warnings, milliseconds: performance.now() - started };
    },
    draw(document, images) {
      const started = performance.now();
      const { result, warnings } = set(document, images);
      const svg = compiler.plainSvg(result);
      compiler.evictCache(20);
      const traces = (compiler.query(result, { selector: '<places>', field: 'value' }) as Traced[][])[0] ?? [];
      return { svg, traces, pages: lookUp(result), pageCount: result.numOfPages, warnings, milliseconds: performance.now() - started };
    },
    locate(document, images) {
      const pages = lookUp(set(document, images).result);
      compiler.evictCache(20);
      return pages;
    },
    canDraw(path, bytes) {
      compiler.addSource(main, `#image("${path}")`);
      shadow(path, bytes);
      return compiler.compile({ mainFilePath: main }).result !== null;
    },
  };
}
