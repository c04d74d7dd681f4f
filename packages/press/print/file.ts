import type { PDFArray } from '@cantoo/pdf-lib';
import { PDFDocument, PDFName, type PDFPage } from '@cantoo/pdf-lib';
import type { PagePlan } from '@ukiyo/core/styles';
import { aroundSheet } from './plan.ts';

const points = 72 / 25.4;
const views: Readonly<Record<PagePlan['file']['opens'], readonly (readonly [string, string])[]>> = {
  'as the reader likes': [],
  'with bookmarks': [['PageMode', 'UseOutlines']],
  'two pages side by side': [['PageLayout', 'TwoPageRight']],
};

/**
 * What the page engine cannot say in a file: where the sheet is cut and how far its grounds run
 * over (ISO 32000-2, 14.11.2 “Page boundaries”), and how it opens (7.7.2 “Document catalog
 * dictionary”). Nothing else in the file changes.
 */
export async function finished(pdf: Uint8Array, plan: PagePlan): Promise<Uint8Array> {
  const { bleed, slug } = aroundSheet(plan);
  const view = views[plan.file.opens];
  if (slug === 0 && view.length === 0) return pdf;
  const document = await PDFDocument.load(pdf, { updateMetadata: false });
  for (const [name, value] of view) document.catalog.set(PDFName.of(name), PDFName.of(value));
  if (slug > 0) for (const page of document.getPages()) bound(page, bleed, slug);
  return document.save({ updateFieldAppearances: false });
}

function bound(page: PDFPage, bleed: number, slug: number): void {
  const { width, height } = page.getSize();
  const box = (inside: number): PDFArray =>
    page.doc.context.obj(
      [inside, inside, width - inside, height - inside].map(
        (value) => Math.round(value * 1000) / 1000,
      ),
    );
  page.node.set(PDFName.TrimBox, box(slug * points));
  page.node.set(PDFName.of('BleedBox'), box((slug - bleed) * points));
}
