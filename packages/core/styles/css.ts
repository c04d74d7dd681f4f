import { atNight, groundAtNight } from './colour.ts';
import { readLength, type Length } from './length.ts';
import { readRule, propertyText, type Values } from './properties.ts';
import { iconImage } from './icons.ts';
import { noteKinds, type NoteKind } from './roles.ts';
import { colourOf, noteColour, valuesOf, type StyleSheet } from './sheet.ts';

/**
 * 16 px, which browsers take as the size of letters unless a reader wants another, answer to 12 pt.
 */
const pointsOfRem = 12;
const fallbacks = {
  reading: 'Georgia, serif',
  finding: 'system-ui, sans-serif',
  code: 'ui-monospace, monospace',
} as const;
const weights: Readonly<Record<string, number>> = { regular: 400, semibold: 600, bold: 700 };
const aligned: Readonly<Record<string, string>> = {
  start: 'start',
  centre: 'center',
  end: 'end',
  both: 'justify',
};
const figures: Readonly<Record<string, string>> = {
  'old style': 'oldstyle-nums',
  lining: 'lining-nums',
  'lining in columns': 'lining-nums tabular-nums',
};
const lines: Readonly<Record<string, string>> = {
  none: 'none',
  under: 'underline',
  through: 'line-through',
};

/** Letters follow the size that readers set: points become shares of it. */
function lengthOf(length: Length): string {
  const measured = readLength(length);
  if (!measured) return '0';
  return measured.unit === 'pt'
    ? `${Math.round((measured.value / pointsOfRem) * 10_000) / 10_000}rem`
    : `${measured.value}${measured.unit}`;
}
const inkOf = (hex: string): string => `light-dark(${hex}, ${atNight(hex)})`;

/** The declarations of one style. */
function declarations(sheet: StyleSheet, values: Values): string[] {
  const out: string[] = [];
  const say = (property: string, value: string | undefined): void =>
    void (value !== undefined && out.push(`${property}: ${value}`));
  const text = (name: keyof Values): string | undefined => propertyText(values, name);
  const length = (name: keyof Values): string | undefined =>
    values[name] === undefined ? undefined : lengthOf(propertyText(values, name)!);
  const colour = (name: 'colour' | 'background'): string | undefined =>
    values[name] === undefined ? undefined : colourOf(sheet, propertyText(values, name)!);
  const font = values.font as keyof StyleSheet['fonts'] | undefined;
  say(
    'font-family',
    font && `'${sheet.fonts[font]}', '${sheet.fonts[font]} Variable', ${fallbacks[font]}`,
  );
  say('font-size', length('size'));
  say('font-weight', text('weight') && String(weights[propertyText(values, 'weight')!]));
  say('font-style', text('slant') && (values.slant === 'italic' ? 'italic' : 'normal'));
  const ink = colour('colour');
  say('color', ink);
  say('color', ink && inkOf(ink));
  if (values.case !== undefined) {
    say('text-transform', values.case === 'capitals' ? 'uppercase' : 'none');
    say('font-variant-caps', values.case === 'small capitals' ? 'small-caps' : 'normal');
  }
  say('letter-spacing', length('spacing'));
  say(
    'font-variant-numeric',
    values.figures === undefined ? undefined : figures[propertyText(values, 'figures')!],
  );
  say(
    'text-decoration-line',
    values.line === undefined ? undefined : lines[propertyText(values, 'line')!],
  );
  say(
    'text-align',
    values.align === undefined ? undefined : aligned[propertyText(values, 'align')!],
  );
  say('line-height', text('lineHeight'));
  say(
    'hyphens',
    values.hyphenate === undefined ? undefined : values.hyphenate === true ? 'auto' : 'manual',
  );
  say('text-indent', length('firstLine'));
  say('margin-block-start', length('above'));
  say('margin-block-end', length('below'));
  say('margin-inline-start', length('indentStart'));
  say('margin-inline-end', length('indentEnd'));
  for (const [name, edge] of [
    ['ruleAbove', 'block-start'],
    ['ruleBelow', 'block-end'],
    ['ruleStart', 'inline-start'],
    ['ruleEnd', 'inline-end'],
  ] as const) {
    const rule = values[name] === undefined ? undefined : readRule(propertyText(values, name)!);
    const hex = rule && colourOf(sheet, rule.colour);
    say(
      `border-${edge}`,
      rule && hex
        ? `max(1px, ${lengthOf(rule.width)}) solid ${inkOf(hex)}`
        : values[name] === undefined
          ? undefined
          : 'none',
    );
  }
  const ground = colour('background');
  say(
    'background',
    ground === undefined ? (values.background === 'none' ? 'none' : undefined) : ground,
  );
  say('background', ground && `light-dark(${ground}, ${groundAtNight(ground)})`);
  say('padding', length('padding'));
  say('border-radius', length('corner'));
  return out;
}

/**
 * Text of a style sheet rule cannot hold what would end it: only the words of a person come here.
 */
const quoted = (words: string): string =>
  `'${words.replace(/[\\'\n\r<>]/gu, (sign) => `\\${sign.codePointAt(0)!.toString(16)} `)}'`;

/**
 * Rules for a screen, one for each style that says something there.
 * @param selectors where each style applies; styles that are not named are left out
 * @param locale whose words stand before and after
 */
export function screenRules(
  sheet: StyleSheet,
  selectors: Readonly<Record<string, string>>,
  locale: string,
): string {
  return Object.entries(selectors)
    .flatMap(([id, selector]) => {
      const values = valuesOf(sheet, id, 'screen');
      const declared = declarations(sheet, values);
      const rules = declared.length === 0 ? [] : [`${selector} { ${declared.join('; ')}; }`];
      for (const [name, edge] of [
        ['prefix', 'before'],
        ['suffix', 'after'],
      ] as const) {
        const words = wordsByLanguage(values[name], locale);
        if (words !== '') rules.push(`${selector}::${edge} { content: ${quoted(words)}; }`);
      }
      return rules;
    })
    .join('\n');
}

/**
 * The mark and colour of each type of note, as variables that its rules use: `--note` (colour),
 * `--mark` (image), `--mark-size`, and `--mark-drop`, the margin below a mark that stands on the
 * first baseline so that what is to meet meets.
 * @param selectorOf where a type of note applies
 */
export function noteRules(sheet: StyleSheet, selectorOf: (kind: NoteKind) => string): string {
  return noteKinds
    .map((kind) => {
      const mark = sheet.marks[kind];
      const colour = noteColour(sheet, kind, 'screen');
      const drawn = mark && mark.place !== 'none' ? iconImage(mark.icon, colour) : undefined;
      const rules = [`--note: ${inkOf(colour)}`];
      if (mark && drawn !== undefined) {
        const size = lengthOf(mark.size);
        const drop = mark.meets === 'top' ? `calc(1cap - ${size})` : '0px';
        rules.push(
          `--mark: url("data:image/svg+xml,${encodeURIComponent(drawn)}")`,
          `--mark-size: ${size}`,
          `--mark-drop: ${drop}`,
        );
      }
      return `${selectorOf(kind)} { ${rules.join('; ')}; }`;
    })
    .join('\n');
}

/** Words said by language: those of the locale, else of its language, else the first. */
export function wordsByLanguage(value: Values['prefix'], locale: string): string {
  if (typeof value !== 'object') return '';
  return value[locale] ?? value[locale.split('-')[0]!] ?? Object.values(value)[0] ?? '';
}
