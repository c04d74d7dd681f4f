import { describe, expect, it } from 'vitest';
import { assetFileName, isImage } from './assets.ts';
import { stemmer, searchWords } from './terms.ts';
import { printable } from './text.ts';

describe('files of images', () => {
  const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
  it('are what they say, as far as the beginning tells', () => {
    expect(
      isImage({
        mediaType: 'image/svg+xml',
        bytes: bytes('<svg xmlns="http://www.w3.org/2000/svg"/>'),
      }),
    ).toBe(true);
    expect(isImage({ mediaType: 'image/svg+xml', bytes: bytes('<html/>') })).toBe(false);
    expect(
      isImage({ mediaType: 'image/png', bytes: new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0]) }),
    ).toBe(true);
    expect(isImage({ mediaType: 'image/png', bytes: bytes('GIF89a') })).toBe(false);
    expect(isImage({ mediaType: 'text/html', bytes: bytes('<html/>') })).toBe(false);
  });
  it('have names that are safe anywhere', () => {
    expect(assetFileName({ id: '../../a b"<', name: 'x', mediaType: 'image/png' })).toBe(
      '______a_b__.png',
    );
    expect(assetFileName({ id: 'x', name: 'x', mediaType: 'application/x-evil' })).toBe('x.bin');
    const page = { id: 'x', name: 'page.html', mediaType: 'text/plain' };
    expect(assetFileName(page)).toBe('x.txt');
    expect(assetFileName({ ...page, name: 'run.py' })).toBe('x.py');
    expect(assetFileName({ ...page, name: 'run.js' })).toBe('x.txt');
  });
});

describe('words for searching', () => {
  it('are the same by the quick way as by the segmenter of the language', () => {
    for (const [text, locale] of [
      ['Hang the bracket on 2 studs, M12 × 110; don’t tighten them yet.', 'en'],
      ['Die Wände müssen trocken sein – größer als 5 mm.', 'de'],
    ] as const) {
      const segments = [...new Intl.Segmenter(locale, { granularity: 'word' }).segment(text)]
        .filter((one) => one.isWordLike)
        .map((one) => one.segment.toLocaleLowerCase(locale));
      expect(searchWords(text, locale)).toEqual(segments);
    }
  });
  it('are found in scripts that put no spaces', () => {
    expect(searchWords('潮位計を取り付ける', 'ja').length).toBeGreaterThan(2);
  });
  it('lose their endings by the rules of their language (Snowball)', () => {
    const english = stemmer('en-GB');
    expect(['tighten', 'tightens', 'tightened', 'tightening'].map(english)).toEqual(
      Array.from({ length: 4 }, () => 'tighten'),
    );
    expect(stemmer('de')('Wände'.toLowerCase())).toBe(stemmer('de')('wand'));
    expect(stemmer('ja')('潮位')).toBe('潮位');
  });
});

describe('text', () => {
  it('loses what no page can show and what turns its direction, and keeps all else', () => {
    expect(printable('a\u0000b\u202Ec\u2066d\u0085e\tf\ng\u00ADh')).toBe('abcde\tf\ng\u00ADh');
  });
});
