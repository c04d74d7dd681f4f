import { describe, expect, it } from 'vitest';
import { sanitiseImage } from './image.ts';

describe('images', () => {
  const type = (bytes: Buffer, claimed = 'application/octet-stream'): string => {
    const sanitised = sanitiseImage(bytes, claimed);
    return 'refusal' in sanitised ? 'refused' : sanitised.mediaType;
  };
  it('are what their first bytes say', () => {
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAMAAAACCAYAAACddGYaAAAAD0lEQVR4nGP4z8DwHxkDAF/TBfvRpmmn' +
        'AAAAAElFTkSuQmCC',
      'base64',
    );
    expect(sanitiseImage(png, 'text/html')).toMatchObject({
      mediaType: 'image/png',
      width: 3,
      height: 2,
    });
    expect(type(Buffer.from('<html><script>alert(1)</script></html>'), 'image/png')).toBe(
      'refused',
    );
    expect(type(Buffer.from('MZ executable'), 'image/svg+xml')).toBe('refused');
    expect(type(Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><g></svg>'))).toBe('refused');
    expect(
      type(Buffer.from('<!DOCTYPE svg [<!ENTITY a "b">]><svg>&a;</svg>'), 'image/svg+xml'),
    ).toBe('refused');
  });
  it('drawn in SVG lose what could act or fetch and keep what draws', () => {
    const hostile =
      '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ' +
      'viewBox="0 0 20 10" onload="x()">' +
      '<script>x()</script><style>@import url(https://evil.example/x.css);</style>' +
      '<style>.a{fill:red}</style><a href="javascript:x()"><rect/></a>' +
      '<use xlink:href="https://evil.example/x.svg#a"/><use href="#ok"/>' +
      '<image href="data:image/svg+xml;base64,AAAA"/><foreignObject><iframe/></foreignObject>' +
      '<rect style="fill:url(https://evil.example)" fill="url(#ok)" onclick="x()"/>' +
      '<animate attributeName="href" to="javascript:x()"/></svg>';
    const sanitised = sanitiseImage(Buffer.from(hostile), 'image/svg+xml');
    if ('refusal' in sanitised) throw new Error(sanitised.refusal);
    const text = Buffer.from(sanitised.bytes).toString();
    expect(text).not.toMatch(/script|onload|onclick|evil|foreignObject|iframe|animate|<a[ >]/u);
    expect(text).toContain('.a{fill:red}');
    expect(text).toContain('<use href="#ok"/>');
    expect(text).toContain('fill="url(#ok)"');
    expect(sanitised).toMatchObject({ width: 20, height: 10 });
  });
});
