import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  atNight,
  checkPlan,
  checkSheet,
  contrast,
  icons,
  styleLineage,
  noteRules,
  numberForms,
  pageGeometry,
  papers,
  paperSize,
  styleRoles,
  screenRules,
  shippedPlans,
  shippedSheets,
  propertySource,
  toMillimetres,
  toPoints,
  valuesOf,
  withStyle,
  withValue,
  teamStyle,
  writtenNumber,
  type PagePlan,
  type StyleSheet,
} from './index.ts';

const workshop = shippedSheets['workshop']!;
const plan = shippedPlans['a4-margin']!;
const styled = (styles: StyleSheet['styles']): StyleSheet => ({ ...workshop, styles });

describe('lengths', () => {
  it('are exact: the point of PDF is a 72nd of an inch of 25.4 mm (ISO 32000-1, 8.3.2.3)', () => {
    expect([toPoints('1in'), toPoints('25.4mm'), toPoints('1.5em', 10), toPoints('9.6pt')]).toEqual(
      [72, 72, 15, 9.6],
    );
    expect(toPoints('2.54cm')).toBeCloseTo(72, 10);
    expect(toMillimetres('72pt')).toBeCloseTo(25.4, 10);
  });
});

describe('numbers', () => {
  it('are written in every form', () => {
    expect(
      numberForms.map((form) => [1, 4, 27, 1999].map((count) => writtenNumber(form, count))),
    ).toEqual([
      ['1', '4', '27', '1999'],
      ['01', '04', '27', '1999'],
      ['A', 'D', 'AA', 'BXW'],
      ['a', 'd', 'aa', 'bxw'],
      ['I', 'IV', 'XXVII', 'MCMXCIX'],
      ['i', 'iv', 'xxvii', 'mcmxcix'],
      ['一', '四', '二十七', '千九百九十九'],
      ['١', '٤', '٢٧', '١٩٩٩'],
      [undefined, undefined, undefined, undefined],
    ]);
  });
});

describe('papers', () => {
  it('of the A and B series halve the next larger one, and have its proportion (ISO 216)', () => {
    const pairs: [keyof typeof papers, keyof typeof papers][] = [
      ['A3', 'A4'],
      ['A4', 'A5'],
      ['A5', 'A6'],
      ['B4', 'B5'],
      ['B5', 'B6'],
    ];
    for (const [larger, smaller] of pairs) {
      expect(papers[smaller][1]).toBe(papers[larger][0]);
      expect(papers[smaller][0]).toBe(Math.floor(papers[larger][1] / 2));
      expect(papers[smaller][1] / papers[smaller][0]).toBeCloseTo(Math.SQRT2, 1);
    }
    expect(paperSize({ paper: 'Letter', lies: 'on its side' })).toEqual({
      width: 279.4,
      height: 215.9,
    });
  });
});

const sheet = styled({
  text: { all: { size: '10pt', colour: 'ink' } },
  base: { label: 'Base', all: { weight: 'bold', above: '4pt' }, screen: { above: '1em' } },
  own: { label: 'Own', base: 'base', all: { slant: 'italic' }, print: { above: '9pt' } },
});

describe('a style', () => {
  it('is based on others, nearest first, and all on the base, without repeating it', () => {
    expect(styleLineage(sheet, 'own')).toEqual(['own', 'base', 'text']);
    expect(valuesOf(sheet, 'own', 'print')).toEqual({
      weight: 'bold',
      above: '9pt',
      slant: 'italic',
    });
    expect(valuesOf(sheet, 'own', 'screen')).toEqual({
      weight: 'bold',
      above: '1em',
      slant: 'italic',
    });
    expect(styleLineage(sheet, 'note-danger')).toEqual(['note-danger', 'note', 'text']);
  });
  it('says of each property where it comes from', () => {
    expect(propertySource(sheet, 'own', 'above', 'print')).toEqual({
      value: '9pt',
      from: 'own',
      isOwn: true,
    });
    expect(propertySource(sheet, 'own', 'above', 'screen')).toEqual({
      value: '1em',
      from: 'base',
      isOwn: true,
    });
    expect(propertySource(sheet, 'own', 'size', 'print')).toEqual({
      value: '10pt',
      from: 'text',
      isOwn: false,
    });
    expect(propertySource(sheet, 'own', 'mark', 'print')).toBeUndefined();
  });
  it('is said for both media or one; the other one stays what it was', () => {
    const apart = withValue(sheet, 'base', { name: 'weight', medium: 'print', value: 'regular' });
    expect([
      valuesOf(apart, 'base', 'print').weight,
      valuesOf(apart, 'base', 'screen').weight,
    ]).toEqual(['regular', 'bold']);
    const again = withValue(apart, 'base', { name: 'weight', medium: 'screen', value: 'regular' });
    expect(again.styles['base']).toMatchObject({ all: { weight: 'regular' } });
    expect(
      withValue(again, 'base', { name: 'weight', medium: 'both', value: undefined }).styles['base']!
        .all,
    ).toEqual({
      above: '4pt',
    });
  });
  it('keeps in the other medium what it came to there, whatever was said before (property)', () => {
    const value = fc.constantFrom('regular', 'semibold', 'bold', undefined);
    const change = fc.record({
      id: fc.constantFrom('base', 'own', 'text'),
      medium: fc.constantFrom('both' as const, 'print' as const, 'screen' as const),
      value,
    });
    fc.assert(
      fc.property(
        fc.array(change, { maxLength: 8 }),
        change,
        (before, { id, medium, value: said }) => {
          const start = before.reduce(
            (made, one) =>
              withValue(made, one.id, { name: 'weight', medium: one.medium, value: one.value }),
            sheet,
          );
          const changed = withValue(start, id, { name: 'weight', medium, value: said });
          for (const one of ['print', 'screen'] as const) {
            if (medium !== 'both' && medium !== one)
              expect(valuesOf(changed, id, one).weight).toBe(valuesOf(start, id, one).weight);
            else if (said !== undefined) expect(valuesOf(changed, id, one).weight).toBe(said);
          }
        },
      ),
    );
  });
});

describe('a style', () => {
  it('applies to what it names; the one that names most of it wins', () => {
    const sheet = styled({
      a: { label: 'A', appliesTo: { element: 'p' } },
      b: { label: 'B', appliesTo: { element: 'p', outputclass: 'wide' } },
      c: { label: 'C', appliesTo: { within: 'note' } },
    });
    expect(teamStyle(sheet, 'p', [], undefined)).toBe('a');
    expect(teamStyle(sheet, 'p', ['note'], 'x wide')).toBe('b');
    expect(teamStyle(sheet, 'ul', ['section', 'note'], undefined)).toBe('c');
    expect(teamStyle(sheet, 'ul', ['section'], 'wide')).toBeUndefined();
  });
});

describe('what is wrong with a style sheet', () => {
  const codes = (sheet: StyleSheet): string[] => checkSheet(sheet).map(({ code }) => code);
  it('is named with the style: a loop, a base that is not there, a value that says nothing', () => {
    const loop = styled({ a: { label: 'A', base: 'b' }, b: { label: 'B', base: 'a' } });
    expect(codes(loop)).toEqual(['styles.loop', 'styles.loop']);
    expect(styleLineage(loop, 'a')).toEqual(['a', 'b']);
    expect(checkSheet(styled({ paragraph: { base: 'paragraph' } }))[0]!.message).toBe(
      '“Paragraph” is based on itself, through “Paragraph”.',
    );
    expect(codes(styled({ a: { label: 'A', base: 'gone' } }))).toEqual(['styles.base']);
    expect(codes(styled({ a: {} }))).toEqual(['styles.unknown']);
    for (const all of [
      { size: 'large' },
      { size: '9px' },
      { colour: 'nocolour' },
      { weight: 'heavy' },
      { lineHeight: 9 },
      { ruleAbove: '2pt' },
      { keepNext: 'yes' },
    ])
      expect(codes(styled({ paragraph: { all } })), JSON.stringify(all)).toEqual(['styles.value']);
    expect(
      codes(
        withStyle(workshop, 'paragraph', {
          all: {
            size: '9pt',
            colour: '#102030',
            ruleAbove: '1pt accent',
            keepNext: false,
            prefix: { en: 'x' },
          },
        }),
      ),
    ).toEqual([]);
  });
});

describe('the sheets and plans that ship', () => {
  it('are free of problems, cover every role, and name marks that exist', () => {
    for (const sheet of Object.values(shippedSheets)) {
      expect(checkSheet(sheet), sheet.name).toEqual([]);
      expect(
        Object.keys(sheet.styles).filter((id) => !styleRoles.some((role) => role.id === id)),
      ).toEqual([]);
      for (const mark of Object.values(sheet.marks))
        expect(Object.keys(icons)).toContain(mark.icon);
    }
    for (const one of Object.values(shippedPlans)) expect(checkPlan(one), one.name).toEqual([]);
  });
  it('can be read by day and by night (WCAG 2.2, 1.4.3)', () => {
    for (const sheet of Object.values(shippedSheets))
      for (const name of ['ink', 'quiet', 'accent', 'danger', 'caution']) {
        expect(
          contrast(sheet.colours[name]!, '#fffdf8'),
          `${sheet.name} ${name}`,
        ).toBeGreaterThanOrEqual(4.5);
        expect(
          contrast(atNight(sheet.colours[name]!), '#171b26'),
          `${sheet.name} ${name}`,
        ).toBeGreaterThanOrEqual(4.5);
      }
  });
});

describe('a page plan', () => {
  it('mirrors text and margin column on left and right pages, for any margins (property)', () => {
    const mm = (most: number) => fc.integer({ min: 5, max: most }).map((value) => `${value}mm`);
    const side = fc.constantFrom('outer' as const, 'inner' as const);
    fc.assert(
      fc.property(
        fc.record({
          inner: mm(40),
          outer: mm(40),
          width: mm(40),
          gap: mm(8),
          where: side,
          mirrored: fc.boolean(),
        }),
        ({ inner, outer, width, gap, where, mirrored }) => {
          const made: PagePlan = {
            ...plan,
            mirrored,
            margins: { ...plan.margins, inner, outer },
            marginColumn: { width, gap, side: where },
          };
          const { text, column, width: page } = pageGeometry(made);
          const [left, right] = [text.left, text.right];
          expect(
            text.width + toMillimetres(inner) + toMillimetres(outer) + column!.width + column!.gap,
          ).toBeCloseTo(page, 9);
          if (mirrored) expect(left).toBeCloseTo(page - right - text.width, 9);
          else expect(left).toBe(right);
          for (const which of ['right', 'left'] as const) {
            const apart =
              column![which] < text[which]
                ? text[which] - column![which] - column!.width
                : column![which] - text[which] - text.width;
            expect(apart).toBeCloseTo(column!.gap, 9);
            // Outer is right on right pages, left on left ones; without mirroring it is right
            // throughout.
            expect(column![which] > text[which]).toBe(
              (where === 'outer') === (which === 'right' || !mirrored),
            );
          }
        },
      ),
    );
  });
  it('without room, or with a margin column wider than the page, is a problem', () => {
    const codes = (change: Partial<PagePlan>): string[] =>
      checkPlan({ ...plan, ...change }).map(({ code }) => code);
    expect(codes({ margins: { ...plan.margins, inner: '150mm' } })).toEqual(['plan.no-room']);
    expect(codes({ margins: { ...plan.margins, top: '290mm' } })).toEqual(['plan.no-room']);
    expect(codes({ marginColumn: { width: '300mm', gap: '6mm', side: 'outer' } })).toEqual([
      'plan.margin-column',
    ]);
    expect(codes({ columns: 4, columnGap: '20mm' })).toEqual(['plan.columns']);
    for (const [step, found] of [
      ['13pt', []],
      ['1pt', ['plan.baseline']],
      ['-4mm', ['plan.baseline']],
      ['3cm', ['plan.baseline']],
    ] as const)
      expect(codes({ baseline: step }), step).toEqual(found);
  });
});

describe('rules for screens', () => {
  it('say of each type of note its colour, its mark and which lines meet', () => {
    const rules = noteRules(
      {
        ...workshop,
        marks: {
          danger: { icon: 'hazard', size: '12pt', place: 'above', meets: 'top' },
          tip: { icon: 'tick', size: '6mm', place: 'above', meets: 'baseline' },
          note: { icon: 'circle', size: '6mm', place: 'none', meets: 'top' },
        },
      },
      (kind) => `.${kind}`,
    );
    const of = (kind: string): string =>
      rules.split('\n').find((rule) => rule.startsWith(`.${kind} {`))!;
    expect(of('danger')).toContain(`--note: light-dark(${workshop.colours['danger']!},`);
    expect(of('danger')).toContain('--mark-size: 1rem; --mark-drop: calc(1cap - 1rem)');
    expect(of('tip')).toContain('--mark-size: 6mm; --mark-drop: 0px');
    expect(of('tip')).toContain(
      encodeURIComponent(icons['tick']!.replaceAll('currentColor', workshop.colours['accent']!)),
    );
    // Nothing is shown where none is wanted, or none is said.
    for (const kind of ['note', 'warning']) expect(of(kind)).not.toContain('--mark');
  });
  it('gives sizes relative to the reader’s, and escapes words in generated content', () => {
    const sheet = withStyle(workshop, 'paragraph', {
      all: {
        size: '12pt',
        weight: 'bold',
        colour: '#102030',
        above: '4mm',
        prefix: { en: `'; } body { display: none` },
      },
    });
    const rules = screenRules(sheet, { paragraph: 'p' }, 'en');
    expect(rules).toContain(
      'p { font-size: 1rem; font-weight: 700; color: #102030; color: light-dark(#102030,',
    );
    expect(rules).toContain('margin-block-start: 4mm');
    expect(rules).toContain(`content: '\\27 ; } body { display: none'`);
    expect(screenRules(styled({}), { paragraph: 'p' }, 'en')).toBe('');
  });
});
