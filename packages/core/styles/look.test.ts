import { describe, expect, it } from 'vitest';
import {
  checkLook,
  lookColours,
  lookLayouts,
  lookRules,
  ownRules,
  shippedLooks,
  unreadable,
  type SiteLook,
} from './index.ts';

const [harbour] = Object.values(shippedLooks) as [SiteLook];

describe('looks of help sites', () => {
  it.each(Object.entries(shippedLooks))(
    '%s ships without a fault, by day and by night',
    (_id, look) => {
      expect(checkLook(look)).toEqual([]);
      expect(Object.keys(look.colours.day)).toEqual(Object.keys(lookColours));
    },
  );
  it('differ in layout', () =>
    expect(Object.values(shippedLooks).map(({ layout }) => layout)).toEqual([...lookLayouts]));

  /**
   * The ratio of two colours by the formula of WCAG 2.2 (“contrast ratio”); black on white is 21,
   * and #767676 on white is the lightest grey that passes, 4.54 (common practice).
   */
  it('say which words cannot be read on what they stand on', () => {
    const with_ = (change: Partial<SiteLook['colours']['day']>): SiteLook => ({
      ...harbour,
      colours: {
        ...harbour.colours,
        day: { ...harbour.colours.day, paper: '#ffffff', tint: '#ffffff', ...change },
      },
    });
    expect(unreadable(with_({ soft: '#767676' }).colours)).toEqual([]);
    expect(
      unreadable(with_({ soft: '#777777' }).colours).map(
        ({ at, words, ground, share }) => `${at} ${words} ${ground} ${share.toFixed(2)}`,
      ),
    ).toEqual(['day soft paper 4.48', 'day soft tint 4.48']);
    expect(
      checkLook(with_({ barInk: '#12305f' })).map(({ code, message }) => `${code}: ${message}`),
    ).toEqual([
      'look.contrast: “Words of the head” on “Head” has a contrast of 1.0 by day; to be read ' +
        'it needs 4.5.',
    ]);
  });

  it.each([
    'a { color: red }',
    '.bar { background: url(assets/grain.svg) }',
    '.bar { background: url("data-like-name.png") }',
  ])('may have rules of their own: %s', (css) => expect(ownRules({ ...harbour, css })).toBe(css));
  it.each([
    '@import "https://elsewhere.example/x.css";',
    '@IMPORT url(x.css);',
    'a { background: url(https://elsewhere.example/x.png) }',
    "a { background: URL( '//elsewhere.example/x.png') }",
    'a { background: url(data:image/png;base64,AAAA) }',
    'a { background: u\\72l(https://elsewhere.example/x) }',
    'a { background: url/**/(https://elsewhere.example/x) }',
    '@im/**/port "x";',
    'a { width: expression(alert(1)) }',
    'a { behavior: url(x.htc) }',
  ])('must not reach out of the site by them: %s', (css) => {
    expect(ownRules({ ...harbour, css })).toBeUndefined();
    expect(checkLook({ ...harbour, css }).map(({ code }) => code)).toEqual(['look.css']);
  });

  it('are rules for a browser, once for the day and once for the night', () => {
    const rules = lookRules(harbour);
    expect(rules).toContain('--accent: #1c4587;');
    expect(rules.slice(rules.indexOf('prefers-color-scheme: dark'))).toContain(
      '--accent: #9dbcf0;',
    );
    expect(rules).toContain('--reading: 68ch;');
  });
  it('have phones that are narrower than tablets', () =>
    expect(checkLook({ ...harbour, phone: 901 }).map(({ code }) => code)).toEqual(['look.widths']));
});
