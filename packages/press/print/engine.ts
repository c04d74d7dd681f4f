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
  readonly sheets: readonly PrintedSheet[];
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
export interface PrintedSheet {
  readonly width: number;
  readonly height: number;
}

interface Drawn {
  readonly drawings: Drawings;
  readonly traces: readonly Traced[];
  readonly pages: readonly Located[];
  readonly sheets: readonly PrintedSheet[];
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
type Images = ReadonlyMap<string, Uint8Array>;

/** The compiler with the files of the template and of one document at a time. */
class Compiler {
  readonly #compiler = NodeCompiler.create({
    workspace,
    fontArgs: [{ fontPaths: [...faceFolders()] }],
  });
  readonly #template = template();

  /** Sets the document; what it warns of comes with it. @throws PrintFailure */
  set(
    document: PrintDocument,
    images: Images,
  ): { readonly result: NodeTypstDocument; readonly warnings: string[] } {
    this.#compiler.resetShadow();
    for (const [name, source] of this.#template)
      this.#compiler.addSource(`${workspace}/${name}`, source);
    this.#shadow('/doc.json', Buffer.from(JSON.stringify(document)));
    for (const [path, bytes] of images) this.#shadow(path, bytes);
    const outcome = this.#compiler.compile({ mainFilePath: `${workspace}/manual.typ` });
    const messages = (taken: Parameters<NodeCompiler['fetchDiagnostics']>[0] | null): string[] =>
      taken
        ? (this.#compiler.fetchDiagnostics(taken) as Diagnostic[]).map(({ message }) => message)
        : [];
    if (!outcome.result)
      throw new PrintFailure(
        messages(outcome.takeDiagnostics()).join('; ') || 'The page engine gave no reason.',
      );
    return { result: outcome.result, warnings: messages(outcome.takeWarnings()) };
  }

  pages(result: NodeTypstDocument): readonly Located[] {
    return (this.#query(result, '<pages>') as readonly Located[] | undefined) ?? [];
  }
  traces(result: NodeTypstDocument): readonly Traced[] {
    return (this.#query(result, '<places>') as readonly Traced[] | undefined) ?? [];
  }
  sheets(result: NodeTypstDocument, { design: { plan } }: PrintDocument): PrintedSheet[] {
    const turned = new Set(this.#query(result, '<lying>') as readonly number[] | undefined);
    const [width, height] = [plan.width + 2 * plan.slug, plan.height + 2 * plan.slug];
    return Array.from({ length: result.numOfPages }, (_, at) =>
      turned.has(at + 1) ? { width: height, height: width } : { width, height },
    );
  }

  /** The file; what keeps it from the standard is one more warning. */
  pdf(result: NodeTypstDocument, standard: Standard, warnings: string[]): Uint8Array {
    try {
      return this.#compiler.pdf(
        result,
        standard === 'none' ? { pdfTags: false } : { pdfStandard: standards[standard] },
      );
    } catch (error) {
      warnings.push(`${refusal}${String(error)}`);
      return this.#compiler.pdf(result);
    }
  }
  svg(result: NodeTypstDocument): string {
    return this.#compiler.plainSvg(result);
  }

  /** Forgets what was not used in the last so many documents. */
  forget(age: number): void {
    this.#compiler.evictCache(age);
  }

  canDraw(path: string, bytes: Uint8Array): boolean {
    const probe = `${workspace}/probe.typ`;
    this.#compiler.addSource(probe, `#image("${path}")`);
    this.#shadow(path, bytes);
    return this.#compiler.compile({ mainFilePath: probe }).result !== null;
  }

  #shadow(path: string, bytes: Uint8Array): void {
    this.#compiler.mapShadow(`${workspace}${path}`, Buffer.from(bytes));
  }
  #query(result: NodeTypstDocument, selector: string): unknown {
    return (this.#compiler.query(result, { selector, field: 'value' }) as unknown[])[0];
  }
}

/** So many documents later, what was not used again is forgotten. */
const usualAge = 20;

export function createPrintEngine(): PrintEngine {
  const compiler = new Compiler();
  return {
    compile(document, images, standard) {
      const started = performance.now();
      const { result, warnings } = compiler.set(document, images);
      const pages = compiler.pages(result);
      // What is remembered for the next time would stand in memory beside the file that is being
      // made: of so many pages that is too much.
      if (result.numOfPages > manyPages) compiler.forget(0);
      const pdf = compiler.pdf(result, standard, warnings);
      compiler.forget(usualAge);
      return {
        pdf,
        pages,
        traces: compiler.traces(result),
        sheets: compiler.sheets(result, document),
        warnings,
        milliseconds: performance.now() - started,
      };
    },
    draw(document, images) {
      const started = performance.now();
      const { result, warnings } = compiler.set(document, images);
      const sheets = compiler.sheets(result, document);
      const drawings = drawingsOf(compiler.svg(result));
      compiler.forget(usualAge);
      return {
        drawings,
        traces: compiler.traces(result),
        pages: compiler.pages(result),
        sheets,
        warnings,
        milliseconds: performance.now() - started,
      };
    },
    locate(document, images) {
      const pages = compiler.pages(compiler.set(document, images).result);
      compiler.forget(usualAge);
      return pages;
    },
    canDraw: (path, bytes) => compiler.canDraw(path, bytes),
  };
}
