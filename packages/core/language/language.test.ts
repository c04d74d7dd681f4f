import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { literally, wordsOf } from './index.ts';

/** Unicode UAX #29 as ICU has it. */
const segmented = (text: string, locale?: string): string[] =>
  [...new Intl.Segmenter(locale, { granularity: 'word' }).segment(text)]
    .filter((one) => one.isWordLike)
    .map((one) => one.segment);

describe('words', () => {
  it.each([
    ['Hang the bracket on 2 studs, M12 × 110; don’t tighten them yet.', 'en'],
    ['Die Wände müssen trocken sein – größer als 5 mm.', 'de'],
    ['Le câble de l’antenne n’est pas branché.', 'fr'],
    ['Καλώδιο γείωσης, 4 mm².', 'el'],
    ['Заземлить шкаф до включения.', 'ru'],
    ['قم بتوصيل كابل التأريض', 'ar'],
    ['e\u0301tage', 'fr'],
    ['潮位計を取り付ける', 'ja'],
  ])('of “%s” are those of the Unicode segmenter', (text, locale) => {
    expect(wordsOf(text, locale)).toEqual(segmented(text, locale));
  });
  it('are none in a text of signs', () => {
    expect(wordsOf(' – … ( ) ')).toEqual([]);
  });
});

it('a literal part of a pattern matches its text and nothing else, whatever signs it has', () =>
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), fc.string({ unit: 'grapheme' }), (text, other) => {
      const pattern = new RegExp(`^${literally(text)}$`, 'u');
      expect(pattern.test(text)).toBe(true);
      expect(pattern.test(other)).toBe(other === text);
    }),
    { examples: [['e-mail', 'email']] },
  ));
