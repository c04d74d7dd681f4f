/** How a number is written. */
export const numberForms = ['1', '01', 'A', 'a', 'I', 'i', '一', '١', 'none'] as const;
export type NumberForm = (typeof numberForms)[number];

/** How headings, figures, tables and examples are counted, and how their numbers are written. */
export interface Numbering {
  readonly parts: NumberForm;
  readonly chapters: NumberForm;
  readonly appendices: NumberForm;
  readonly sections: NumberForm;
  /** How many levels of headings have numbers; chapters are the first. */
  readonly depth: number;
  /** Between the numbers of a chapter and its sections. */
  readonly sign: '.' | '-' | '–';
  /** Whether chapters begin with 1 again in each part. */
  readonly chaptersByPart: boolean;
  /**
   * Figures and tables: with the number of their chapter and beginning with 1 in each, or
   * throughout the book.
   */
  readonly captions: 'by chapter' | 'throughout';
  readonly captionForm: NumberForm;
  readonly captionSign: '.' | '-' | '–';
  /** Whether examples with a title are counted as figures are. */
  readonly examples: boolean;
  /** What is otherwise in a language, by its code (BCP 47). */
  readonly byLanguage: Readonly<Record<string, OwnNumbering>>;
}
/** What can be otherwise in one language. */
export type OwnNumbering = Partial<Omit<Numbering, 'byLanguage'>>;

/** The numbering of one language: what is said of its region goes before what is said of it. */
export function numberingFor(numbering: Numbering, locale: string): Numbering {
  const { language } = new Intl.Locale(locale);
  return { ...numbering, ...numbering.byLanguage[language], ...numbering.byLanguage[locale] };
}

export const usualNumbering: Numbering = {
  parts: 'I',
  chapters: '1',
  appendices: 'A',
  sections: '1',
  depth: 3,
  sign: '.',
  chaptersByPart: false,
  captions: 'by chapter',
  captionForm: '1',
  captionSign: '-',
  examples: false,
  byLanguage: {},
};

function roman(value: number): string {
  const signs: [number, string][] = [
    [1000, 'M'],
    [900, 'CM'],
    [500, 'D'],
    [400, 'CD'],
    [100, 'C'],
    [90, 'XC'],
    [50, 'L'],
    [40, 'XL'],
    [10, 'X'],
    [9, 'IX'],
    [5, 'V'],
    [4, 'IV'],
    [1, 'I'],
  ];
  let rest = value;
  let text = '';
  for (const [size, sign] of signs) for (; rest >= size; rest -= size) text += sign;
  return text;
}

/** 1 → A, 26 → Z, 27 → AA. */
function letters(value: number): string {
  return value <= 26
    ? String.fromCharCode(64 + value)
    : letters(Math.floor((value - 1) / 26)) + letters(((value - 1) % 26) + 1);
}

/** 12 → 十二, 120 → 百二十; up to 9,999. */
function kanji(value: number): string {
  const digits = Array.from('〇一二三四五六七八九');
  const powers: [number, string][] = [
    [1000, '千'],
    [100, '百'],
    [10, '十'],
  ];
  let rest = value;
  let text = '';
  for (const [size, sign] of powers) {
    const count = Math.floor(rest / size);
    if (count > 0) text += (count > 1 ? digits[count]! : '') + sign;
    rest %= size;
  }
  return rest > 0 || value === 0 ? text + digits[rest]! : text;
}

/** Arabic-Indic digits, U+0660 and on. `Intl.NumberFormat` takes 30 ms before its first number. */
const arabicIndic = (count: number): string =>
  String(count).replace(/\d/gu, (digit) => String.fromCodePoint(0x0660 + Number(digit)));

/** A count as it is written; undefined where it is not. */
export function writtenNumber(form: NumberForm, count: number): string | undefined {
  switch (form) {
    case '1':
      return String(count);
    case '01':
      return String(count).padStart(2, '0');
    case 'A':
      return letters(count);
    case 'a':
      return letters(count).toLowerCase();
    case 'I':
      return roman(count);
    case 'i':
      return roman(count).toLowerCase();
    case '一':
      return count < 10_000 ? kanji(count) : String(count);
    case '١':
      return arabicIndic(count);
    case 'none':
      return undefined;
  }
}
