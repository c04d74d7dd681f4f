import type { Publication } from '@ukiyo/core/compose';
import { shippedSheets } from '@ukiyo/core/styles';
import { composeTexts, mapText } from '@ukiyo/core/testing';
import { describe, expect, it } from 'vitest';
import { buildPrintDocument } from '../print/build.ts';
import { siteFiles } from '../site/index.ts';

const background = '#f6e7c3';
const lens = {
  name: 'x',
  rules: [{ facet: 'product', value: 'd', action: 'mark' as const, look: { background } }],
};
const topic = (inner: string): string => `<task id="a"><title>A</title>${inner}</task>`;
const publicationOf = (inner: string): Publication =>
  composeTexts([mapText('<topicref href="topic:a"/>'), topic(inner)], { lens });

/** The page of a help site with the topic. */
function pageOf(publication: Publication): string {
  const page = new Map(siteFiles(publication, () => undefined).files).get('a.html');
  return String(page);
}
/** The blocks of the printed topic, as JSON. */
function printedOf(publication: Publication): string {
  const assets = {
    path: () => undefined,
    text: () => undefined,
    code: (address: string) => address,
    size: () => undefined,
  };
  const { document } = buildPrintDocument(publication, assets, shippedSheets['workshop']!);
  return JSON.stringify(document.body[0]!.c);
}

describe('print and HTML', () => {
  it.each([
    ['a short description', '<shortdesc product="d">Mind it.</shortdesc>'],
    [
      'a command',
      '<taskbody><steps><step><cmd product="d">Mind it.</cmd></step></steps></taskbody>',
    ],
    [
      'an image alone in its paragraph',
      '<taskbody><context><p><image href="asset:i" product="d"><alt>Mind it.</alt></image></p>' +
        '</context></taskbody>',
    ],
  ])('mark %s that a lens marks', (_what, inner) => {
    const publication = publicationOf(inner);
    const marked = `class="marked" style="background:${background}"`;
    expect(pageOf(publication).split(marked)).toHaveLength(2);
    expect(printedOf(publication).split(`"bg":"${background}"`)).toHaveLength(2);
    const plain = publicationOf(inner.replace(' product="d"', ''));
    expect(pageOf(plain)).not.toContain(marked);
    expect(printedOf(plain)).not.toContain(background);
  });

  it('show the text of an abstract beside its short description', () => {
    const publication = publicationOf(
      '<abstract>At noon. <shortdesc>Mind it.</shortdesc></abstract>',
    );
    for (const made of [pageOf(publication), printedOf(publication)]) {
      expect(made).toContain('At noon.');
      expect(made).toContain('Mind it.');
    }
  });

  it('can be led to a paragraph that contains a list', () => {
    const publication = publicationOf(
      '<taskbody><context><p id="take">Take<ul><li>rope</li></ul></p>' +
        '<p><xref href="topic:a/take">there</xref></p></context></taskbody>',
    );
    const [, to] = /href="[^"]*#([^"]+)"[^>]*>there/u.exec(pageOf(publication)) ?? [];
    expect(to).toBeDefined();
    expect(pageOf(publication)).toContain(`id="${to}"`);
    expect(printedOf(publication)).toContain(`{"t":"at","id":"${to}"}`);
  });
});
