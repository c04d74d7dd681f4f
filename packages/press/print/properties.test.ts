import { composeTexts, concept } from '@ukiyo/core/testing';
import {
  propertyNames,
  shippedPlans,
  shippedSheets,
  withStyle,
  withValue,
  type PagePlan,
  type PropertyName,
  type StyleSheet,
  type Value,
} from '@ukiyo/core/styles';
import { describe, expect, it } from 'vitest';
import { printer } from '../testing/printed.ts';
import { createPrintEngine, proofPublication, specimen } from './index.ts';

const engine = createPrintEngine();
const { printed } = printer(engine);
const workshop = shippedSheets['workshop']!;
const plan: PagePlan = { ...shippedPlans['a4-margin']!, cover: 'none' };

/** A style of the specimen, and something that it does not say of this property as it ships. */
const otherwise: Readonly<
  Record<Exclude<PropertyName, 'keepNext' | 'keepTogether'>, readonly [style: string, value: Value]>
> = {
  font: ['paragraph', 'code'],
  size: ['paragraph', '13pt'],
  weight: ['paragraph', 'bold'],
  slant: ['paragraph', 'italic'],
  colour: ['paragraph', 'danger'],
  case: ['paragraph', 'capitals'],
  spacing: ['paragraph', '1pt'],
  figures: ['table-cell', 'old style'],
  line: ['paragraph', 'under'],
  align: ['paragraph', 'end'],
  lineHeight: ['paragraph', 2],
  hyphenate: ['text', false],
  firstLine: ['paragraph', '12pt'],
  above: ['heading-2', '70pt'],
  below: ['heading-2', '70pt'],
  indentStart: ['paragraph', '20pt'],
  indentEnd: ['paragraph', '60pt'],
  between: ['bullet-list', '20pt'],
  tab: ['bullet-list', '30pt'],
  ruleAbove: ['paragraph', '2pt danger'],
  ruleBelow: ['paragraph', '2pt danger'],
  ruleStart: ['paragraph', '2pt danger'],
  ruleEnd: ['paragraph', '2pt danger'],
  background: ['paragraph', 'tint'],
  padding: ['code-block', '16pt'],
  corner: ['code-block', '9pt'],
  prefix: ['paragraph', { en: 'Mind: ' }],
  suffix: ['paragraph', { en: ' Done.' }],
  mark: ['bullet-list', '▸'],
  numbers: ['numbered-list', 'A'],
  column: ['lead', 'in the margin column'],
  stands: ['expandable', 'in brackets'],
  columns: ['bullet-list', 2],
  breakBefore: ['heading-2', 'on a new page'],
};

describe('every property of a style', () => {
  const drawn = (sheet: StyleSheet): string =>
    JSON.stringify(
      proofPublication({
        publication: specimen('en'),
        asset: () => undefined,
        engine,
        design: { sheet, plan: narrow },
      }).pages,
    );
  // A ground and narrow lines, so that corners and hyphens have something to show themselves on.
  const narrow: PagePlan = { ...plan, margins: { ...plan.margins, inner: '75mm' } };
  const base = withValue(
    withValue(workshop, 'code-block', { name: 'background', medium: 'print', value: 'tint' }),
    'text',
    { name: 'hyphenate', medium: 'print', value: true },
  );
  const before = drawn(base);
  it.each(Object.entries(otherwise))('%s is seen on paper', (name, [style, value]) => {
    expect(
      drawn(withValue(base, style, { name: name as PropertyName, medium: 'print', value })),
    ).not.toBe(before);
  });
  it('is tried here or below', () => {
    expect([...Object.keys(otherwise), 'keepNext', 'keepTogether'].sort()).toEqual(
      [...propertyNames].sort(),
    );
  });
});

describe('what stays together', () => {
  const chapters = 60;
  const line = 'Hold the rail.';
  const topics = Array.from({ length: chapters }, (_, at) =>
    concept(
      `t${at}`,
      `${`<p>${line}</p>`.repeat(at)}<p outputclass="kept">${'KEPT '.repeat(90)}</p><p>AFTER</p>`,
    ),
  );
  const publication = composeTexts([
    '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle>' +
      `</booktitle>${topics.map((_, at) => `<chapter href="topic:t${at}"/>`).join('')}</bookmap>`,
    ...topics,
  ]);
  /**
   * In how many chapters the kept words are on several pages, and in how many what follows begins
   * on another.
   */
  async function apart(
    print: Readonly<Partial<Record<PropertyName, Value>>>,
  ): Promise<{ divided: number; parted: number }> {
    const sheet = withStyle(workshop, 'kept', {
      label: 'Kept',
      base: 'paragraph',
      appliesTo: { element: 'p', outputclass: 'kept' },
      print,
    });
    const { pages } = await printed(publication, {
      sheet,
      plan: { ...plan, chaptersBegin: 'on a new page' },
    });
    let [divided, parted] = [0, 0];
    for (const [at, page] of pages.entries()) {
      const has = (one: (typeof pages)[number] | undefined, word: string): boolean =>
        one?.words.some(({ text }) => text === word) === true;
      if (!has(page, 'KEPT')) continue;
      if (has(pages[at + 1], 'KEPT') && !has(page, 'AFTER')) divided += 1;
      else if (!has(page, 'AFTER')) parted += 1;
    }
    return { divided, parted };
  }
  it('lines of one block, and a block with the next', async () => {
    const usual = await apart({});
    expect(usual.divided).toBeGreaterThan(1);
    const together = await apart({ keepTogether: true });
    expect(together.divided).toBe(0);
    expect(together.parted).toBeGreaterThan(0);
    expect(await apart({ keepTogether: true, keepNext: true })).toEqual({ divided: 0, parted: 0 });
  });
});
