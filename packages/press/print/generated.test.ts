import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Publication } from '@ukiyo/core/compose';
import { element, lineOf } from '@ukiyo/core/markup';
import { shippedPlans, shippedSheets } from '@ukiyo/core/styles';
import { composeTexts } from '@ukiyo/core/testing';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createPrintEngine, printPublication, type PrintDesign } from './index.ts';

/**
 * Manuals made at random, each checked against its own PDF by poppler-utils: whatever names a page
 * names that on which its target stands.
 */
const engine = createPrintEngine();
const folder = mkdtempSync(join(tmpdir(), 'ukiyo-generated-'));
const flat = (text: string): string => text.replace(/\s+/gu, ' ').trim();
const filler = 'The tide comes in slowly along the wall and the ladder stays wet until noon. ';

interface Topic {
  readonly id: string;
  readonly paragraphs: number;
  readonly hasFigure: boolean;
  readonly hasTable: boolean;
  /** Indexes of topics it leads to. */
  readonly links: readonly number[];
  readonly term: number;
}
interface Manual {
  readonly chapters: readonly (readonly Topic[])[];
  readonly sheet: string;
  readonly plan: string;
}

const topic = fc.record({
  paragraphs: fc.nat(14),
  hasFigure: fc.boolean(),
  hasTable: fc.boolean(),
  links: fc.array(fc.nat(30), { maxLength: 3 }),
  term: fc.nat(8),
});
const manual: fc.Arbitrary<Manual> = fc
  .record({
    chapters: fc.array(fc.array(topic, { minLength: 1, maxLength: 4 }), {
      minLength: 2,
      maxLength: 5,
    }),
    sheet: fc.constantFrom(...Object.keys(shippedSheets)),
    plan: fc.constantFrom(...Object.keys(shippedPlans)),
  })
  .map((made) => {
    let count = 0;
    return {
      ...made,
      chapters: made.chapters.map((topics) =>
        topics.map((one) => ({ ...one, id: `zt${(count += 1)}` })),
      ),
    };
  });

const titleOf = (id: string): string => id.replace('zt', 'Zt');

function composed({ chapters, plan: _plan, sheet }: Manual): {
  publication: Publication;
  topics: Topic[];
} {
  const topics = chapters.flat();
  const body = (one: Topic): string => {
    const links = one.links
      .map((to) => topics[to % topics.length]!.id)
      .map((to) => `<p>go ${one.id} to ${to}: <xref href="topic:${to}"/>.</p>`);
    const figure = one.hasFigure
      ? `<fig id="f"><title>Figure of ${one.id}</title><p>drawn</p></fig>`
      : '';
    const table = one.hasTable
      ? `<table id="t"><title>Table of ${one.id}</title><tgroup cols="2"><tbody><row>` +
        '<entry>a</entry><entry>b</entry></row></tbody></tgroup></table>'
      : '';
    return (
      '<p><indexterm>Term ' +
      `${one.term}</indexterm>Begin.</p>${links.join('')}` +
      `${`<p>${filler.repeat(4)}</p>`.repeat(one.paragraphs)}<section>${figure}${table}` +
      '<p>End.</p>' +
      '</section>'
    );
  };
  const text = (one: Topic): string =>
    `<concept id="${one.id}"><title>${titleOf(one.id)}</title><conbody>${body(one)}</conbody>` +
    '</concept>';
  const entry = ([first, ...rest]: readonly Topic[]): string =>
    `<chapter href="topic:${first!.id}">` +
    `${rest.map(({ id }) => `<topicref href="topic:${id}"/>`).join('')}</chapter>`;
  const lists = '<frontmatter><booklists><toc/><figurelist/><tablelist/></booklists></frontmatter>';
  const map =
    '<bookmap id="m"><booktitle><mainbooktitle>Made</mainbooktitle>' +
    `</booktitle>${lists}${chapters.map(entry).join('')}<backmatter><booklists><indexlist/>` +
    '</booklists></backmatter></bookmap>';
  return {
    publication: composeTexts([map, ...topics.map(text)], {
      numbering: shippedSheets[sheet]!.numbering,
    }),
    topics,
  };
}

describe('fifty generated manuals', () => {
  const manuals = fc.sample(manual, { numRuns: 50, seed: 2031 });
  it.each(manuals.map((made, index) => [index + 1, made] as const))(
    'no. %i names the right page everywhere',
    async (number, made) => {
      const { publication, topics } = composed(made);
      const design: PrintDesign = {
        sheet: shippedSheets[made.sheet]!,
        plan: shippedPlans[made.plan]!,
      };
      const { pdf, pages, problems } = await printPublication(
        publication,
        () => undefined,
        engine,
        design,
      );
      expect([...publication.problems, ...problems]).toEqual([]);
      const file = join(folder, `${number}.pdf`);
      writeFileSync(file, pdf!);
      const sheets = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
        .split('\f')
        .map(flat);
      const at = new Map(pages.map((page) => [page.id, page]));
      const page = (id: string): { sheet: number; shown: string } => at.get(id)!;
      const begins = (role: string): number =>
        page(publication.places.find((place) => place.role === role)!.anchor).sheet;
      const listed = (from: string, to: number): string =>
        sheets.slice(begins(from) - 1, to - 1).join(' ');
      const first = page(topics[0]!.id).sheet;
      const contents = listed('toc', begins('figurelist'));
      for (const { id } of topics) {
        expect(sheets[page(id).sheet - 1], id).toContain(titleOf(id));
        expect(contents, id).toMatch(
          new RegExp(`${titleOf(id)}( [ .]*| )${page(id).shown}( |$)`, 'u'),
        );
      }
      // What is led to, and from where it is read.
      for (const one of topics)
        for (const to of one.links.map((link) => topics[link % topics.length]!.id)) {
          const words = `go ${one.id} to ${to}: “${titleOf(to)}”`;
          const from = sheets.findIndex((text) => text.includes(words)) + 1;
          expect(from, words).toBeGreaterThan(0);
          const away = page(to).sheet - from;
          const said =
            away === 0 ? '.' : away === 1 ? ' on the next page.' : ` on page ${page(to).shown}.`;
          expect(sheets[from - 1], words).toContain(words + said);
        }
      // Lists of figures and tables.
      const captions = [
        [publication.figures, listed('figurelist', begins('tablelist')), 'Figure'],
        [publication.tables, listed('tablelist', first), 'Table'],
      ] as const;
      for (const [captioned, list, word] of captions)
        for (const { anchor, number: shown, title } of captioned) {
          expect(list, anchor).toMatch(
            new RegExp(
              `${shown} ${lineOf(element('title', {}, title))} [ .]*${page(anchor).shown}( |$)`,
              'u',
            ),
          );
          expect(sheets[page(anchor).sheet - 1], anchor).toContain(`${word} ${shown}`);
        }
      // The index: pages in their order, each once.
      const index = sheets.slice(begins('indexlist') - 1).join(' ');
      for (const { term, locators } of publication.index.flatMap(({ entries }) => entries)) {
        const found = locators
          .map(({ anchor }) => page(anchor))
          .toSorted((a, b) => a.sheet - b.sheet);
        const shown = [...new Map(found.map((one) => [one.sheet, one.shown])).values()];
        expect(index, term).toContain(`${term}, ${shown.join(', ')}`);
      }
    },
  );
});
