/** How a number is written. */
export const numberForms = ['1', '01', 'A', 'a', 'I', 'i', 'none'] as const;
export type NumberForm = (typeof numberForms)[number];

/** How headings, figures and tables are counted, and how their numbers are written. */
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
  /** Figures and tables: with the number of their chapter and beginning with 1 in each, or throughout the book. */
  readonly captions: 'by chapter' | 'throughout';
  readonly captionForm: NumberForm;
  readonly captionSign: '.' | '-' | '–';
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
  return value <= 26 ? String.fromCharCode(64 + value) : letters(Math.floor((value - 1) / 26)) + letters(((value - 1) % 26) + 1);
}

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
    case 'none':
      return undefined;
  }
}
