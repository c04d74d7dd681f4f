import { composeTexts, concept } from '@ukiyo/core/testing';
import { shippedPlans, shippedSheets, withValue, type PagePlan } from '@ukiyo/core/styles';
import { describe, expect, it } from 'vitest';
import { printer } from '../testing/printed.ts';
import { onBaseline } from './baseline.ts';
import { createPrintEngine, layoutOf } from './index.ts';

/** Where lines stand is read from the PDF itself, by poppler-utils of Debian. */
const engine = createPrintEngine();
const { printed } = printer(engine);
const step = 13;
const plan: PagePlan = { ...shippedPlans['a4-margin']!, cover: 'none', baseline: `${step}pt` };

const image =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 77" width="200" height="77">' +
  '<rect width="200" height="77" fill="#ccc"/></svg>';
const source = () => ({
  id: 'quay',
  name: 'quay.svg',
  mediaType: 'image/svg+xml',
  width: 200,
  height: 77,
  bytes: new TextEncoder().encode(image),
});
const said =
  'Nobody leaves the quay before the tide has turned and the well is closed again, whatever ' +
  'the clock in the office says of it.';
const filler = 'Sand, weed and a small crab under the lid. ';
const paragraph = `<p>${said} ${said}</p>`;
const table = (rows: number): string =>
  '<table><title>What was left</title><tgroup cols="2"><thead><row><entry>Well</entry>' +
  '<entry>Found</entry></row></thead>' +
  '<tbody>' +
  Array.from(
    { length: rows },
    (_, at) => `<row><entry>${at}</entry><entry>${filler.repeat(1 + (at % 3))}</entry></row>`,
  ).join('') +
  '</tbody>' +
  '</tgroup></table>';
const between: Readonly<Record<string, string>> = {
  heading: '</section><section><title>A heading inside</title>',
  note: '<note type="warning">Wear a line.</note>',
  list: '<ul><li>Rope</li><li>Lamp<ul><li>its oil</li></ul></li></ul>',
  steps:
    '<ol><li>Open the lid.<fig><title>Lid</title><image href="asset:quay"/></fig></li><li>' +
    '<note>It is heavy.</note></li></ol>',
  terms: '<dl><dlentry><dt>Slack</dt><dd>When the water rests.</dd></dlentry></dl>',
  code: '<codeblock>level 1\nlevel 2\nlevel 3</codeblock>',
  figure: '<fig><title>The quay</title><image href="asset:quay"/></fig>',
  table: table(3),
  'a table over several pages': table(60),
};
const book = (body: string) =>
  composeTexts(
    [
      '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
        '<chapter href="topic:a"><topicref href="topic:b"/></chapter></bookmap>',
      concept('a', `<section>${paragraph}${body}</section>`),
      concept('b', `<section>${paragraph}</section>`),
    ],
    {
      assets: [
        { id: 'quay', name: 'quay.svg', mediaType: 'image/svg+xml', width: 200, height: 77 },
      ],
    },
  );
/** How far above the next line of the grid something stands, with room for how poppler rounds. */
const over = (y: number): number => Math.round(((((y - 85.04) % step) + step) % step) * 10) / 10;

describe('a baseline grid', () => {
  it.each(Object.entries(between))('goes on after %s', async (_name, body) => {
    const { pages, problems } = await printed(
      book(`${body}${paragraph}${body}${paragraph}`),
      { sheet: shippedSheets['workshop']!, plan },
      source,
    );
    expect(problems).toEqual([]);
    const lines = pages.flatMap(({ words }) =>
      words
        .filter(({ text }) => /^(?:Nobody|tide|office|clock)$/u.test(text))
        .map(({ y }) => over(y)),
    );
    expect(lines.length).toBeGreaterThan(12);
    expect(new Set(lines).size, lines.join(' ')).toBe(1);
  });
  it('is there with every sheet that ships, and headings of every size stand on it', () => {
    const publication = book(Object.values(between).join(paragraph));
    for (const sheet of Object.values(shippedSheets)) {
      const sized = withValue(sheet, 'heading-2', { name: 'size', medium: 'print', value: '23pt' });
      const headings = [sheet, sized].map(
        (one) =>
          layoutOf({ publication, asset: source, engine, design: { sheet: one, plan } }).find(
            ({ id }) => id === 'b',
          )!.y,
      );
      expect(
        new Set(headings.map((y) => over(y))).size,
        `${sheet.name}: ${headings.join(' ')}`,
      ).toBe(1);
    }
  });
  it('leaves what stands apart from the text, and moves lines that would touch', () => {
    const styles = onBaseline(
      {
        text: { size: { pt: 10 }, leading: { em: 0.3 } },
        'heading-1': { size: { pt: 24 }, leading: { em: 0 } },
        footnote: { above: 3 },
      },
      12,
    );
    expect(styles['text']).toMatchObject({ leading: { pt: 2 }, above: 2, below: 2 });
    expect(styles['heading-1']!.leading).toEqual({ pt: 14 });
    expect(styles['footnote']).toEqual({ above: 3, ownLines: true });
  });
});
