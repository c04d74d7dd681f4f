import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Publication } from '@ukiyo/core/compose';
import { printPublication, type PrintDesign, type PrintEngine } from '../print/index.ts';
import type { AssetSource } from '../shared/index.ts';
import { demoAssets } from './demo.ts';

export interface Word {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly end: number;
}
export interface Page {
  readonly width: number;
  readonly height: number;
  readonly words: readonly Word[];
}
export interface Printed {
  readonly file: string;
  readonly pages: readonly Page[];
  readonly problems: readonly { readonly code: string; readonly message: string }[];
}

/**
 * Prints publications, and reads from each PDF where its words stand, in points, by poppler-utils
 * of Debian.
 */
export function printer(engine: PrintEngine): {
  printed(publication: Publication, design: PrintDesign, source?: AssetSource): Promise<Printed>;
  folder: string;
} {
  const folder = mkdtempSync(join(tmpdir(), 'ukiyo-printed-'));
  let files = 0;
  return {
    folder,
    async printed(publication, design, source = demoAssets) {
      const { pdf, problems } = await printPublication(publication, source, engine, design);
      if (!pdf) throw new Error(problems.map(({ message }) => message).join('; '));
      const file = join(folder, `${(files += 1)}.pdf`);
      writeFileSync(file, pdf);
      const boxes = execFileSync('pdftotext', ['-bbox', file, '-'], {
        encoding: 'utf8',
        maxBuffer: 64 * 1024 * 1024,
      });
      const number = (text: string, name: string): number =>
        Number(new RegExp(`${name}="([\\d.]+)"`, 'u').exec(text)?.[1]);
      const pages = [...boxes.matchAll(/<page ([^>]*)>(.*?)<\/page>/gsu)].map(([, head, body]) => ({
        width: number(head!, 'width'),
        height: number(head!, 'height'),
        words: [...body!.matchAll(/<word ([^>]*)>([^<]*)<\/word>/gu)].map(([, box, text]) => ({
          text: text!,
          x: number(box!, 'xMin'),
          y: number(box!, 'yMin'),
          end: number(box!, 'xMax'),
        })),
      }));
      return { file, pages, problems };
    },
  };
}
