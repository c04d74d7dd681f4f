import { describe, expect, it } from 'vitest';
import { isSafeAttribute, safeStyles } from '@ukiyo/core/svg';
import { largestDrawing, sanitiseImage } from './image.ts';
import { nameForType, sniffedType, typeByEnding } from './types.ts';

const svg = (attributes: string, inner = ''): Buffer =>
  Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`);
const sanitised = (bytes: Uint8Array) => {
  const image = sanitiseImage(bytes, 'image/svg+xml');
  if ('refusal' in image) throw new Error(image.refusal);
  return { ...image, text: Buffer.from(image.bytes).toString() };
};

describe('types of files', () => {
  it('follow the first bytes, and the ending follows the type', () => {
    const page = Buffer.from('GIF89a/*<script>top.x=1</script>*/');
    expect(sniffedType(page)).toBe('image/gif');
    expect(nameForType('page.html', 'image/gif')).toBe('page.gif');
    expect(nameForType('run.js', 'image/gif')).toBe('run.gif');
    expect(nameForType('photo.JPEG', 'image/jpeg')).toBe('photo.JPEG');
    expect(nameForType('plain', 'image/png')).toBe('plain.png');
    expect(nameForType('.htaccess', 'image/png')).toBe('.htaccess.png');
    expect(nameForType('two.dots.svg', 'image/svg+xml')).toBe('two.dots.svg');
    expect(typeByEnding('.html')).toBeUndefined();
  });
  it('are unknown where nothing is recognised', () => {
    for (const text of ['', 'GIF8', '<html>', '\x89PNG', 'RIFF....AVI '])
      expect(sniffedType(Buffer.from(text, 'latin1')), text).toBeUndefined();
  });
});

describe('sizes of drawings', () => {
  it.each(['1e999', '-5', '0', 'NaN', '1e30', 'Infinity'])(
    'are left out where they are %s',
    (width) => {
      expect(sanitised(svg(`width="${width}" height="10"`))).not.toHaveProperty('width');
      expect(sanitised(svg(`viewBox="0 0 ${width} 10"`))).not.toHaveProperty('width');
    },
  );
  it('come from the drawing area where the drawing itself says nothing that can be', () => {
    expect(sanitised(svg('width="1e999" height="1e999" viewBox="0 0 20 10"'))).toMatchObject({
      width: 20,
      height: 10,
    });
  });
  it('of a picture are left out where its header says what cannot be', () => {
    const gif = Buffer.from('GIF89a\0\0\0\0');
    expect(sanitiseImage(gif, 'image/gif')).toEqual({ mediaType: 'image/gif', bytes: gif });
  });
  it('in bytes are limited', () => {
    expect(sanitiseImage(svg('', ' '.repeat(largestDrawing)), 'image/svg+xml')).toMatchObject({
      refusal: expect.stringContaining('larger than 4 MB') as string,
    });
  });
});

/**
 * Ways to load something from a style sheet, with the escapes of CSS Syntax 3, 4.3.7; from memory.
 */
const loading = [
  '@import "https://evil.example/a.css";',
  '@\\69mport url(https://evil.example/a.css);',
  '@IMPORT url(//evil.example/a.css);',
  '.a { fill: url(https://evil.example/a.svg#b) }',
  '.a { fill: u\\72l(https://evil.example/a.svg#b) }',
  '.a { fill: \\75\\72\\6c("https://evil.example/a") }',
  '.a { background: image-set("https://evil.example/a.png" 1x) }',
  '.a { background: -webkit-image-set(url(https://evil.example/a.png) 1x) }',
  '.a { --later: url(https://evil.example/a) }',
  '.a { behavior: url(#default#time2) }',
  '.a { -moz-binding: url(https://evil.example/x.xml#y) }',
  '.a { width: expression(alert(1)) }',
  '@font-face { font-family: f; src: url(https://evil.example/f.woff2) }',
  '@namespace url(https://evil.example/);',
  '@media screen { .a { cursor: url(https://evil.example/c.cur), auto } }',
  '.a { fill: src("https://evil.example/a") }',
  '.a { fill: url(data:image/svg+xml;base64,PHN2Zz4=) }',
  '</style><script>alert(1)</script>',
];

describe('styles of drawings', () => {
  it.each(loading)('lose %s', (rule) => {
    const clean = safeStyles(`${rule} .b { fill: red }`, 'stylesheet');
    expect(clean).not.toMatch(
      /evil|import|expression|behavior|binding|svg\+xml|<script|namespace/iu,
    );
  });
  it('keep what draws', () => {
    const rules =
      '.a{fill:red;stroke:url(#hatch)}@media print{.a{opacity:.5}}.b{transform:rotate(3deg)}';
    expect(safeStyles(rules, 'stylesheet')).toBe(rules);
    expect(safeStyles('fill: url(#a); stroke-width: calc(1px + 2px)', 'declarationList')).toBe(
      'fill:url(#a);stroke-width:calc(1px + 2px)',
    );
  });
  it('in attributes are looked at as well', () => {
    expect(isSafeAttribute('url(#hatch)')).toBe(true);
    expect(isSafeAttribute('translate(10 20) rotate(3)')).toBe(true);
    expect(isSafeAttribute('M0 0L10 10')).toBe(true);
    expect(isSafeAttribute('u\\72l(https://evil.example/a)')).toBe(false);
    expect(isSafeAttribute('url(https://evil.example/a)')).toBe(false);
    const { text } = sanitised(
      svg('', '<rect fill="u\\72l(https://evil.example/)" stroke="url(#a)" aria-label="A (b"/>'),
    );
    expect(text).toContain('<rect aria-label="A (b" stroke="url(#a)"/>');
  });
});
