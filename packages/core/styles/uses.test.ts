import { expect, it } from 'vitest';
import { readXml } from '../markup/index.ts';
import { shippedSheets, styleUses, withStyle } from './index.ts';

const root = (xml: string) => readXml(xml).document!.root;
const topics = [
  {
    id: 'a',
    root: root(
      '<task id="a"><title>A</title><shortdesc>s</shortdesc><taskbody><prereq><p>p</p>' +
        '</prereq><steps><step><cmd>c <uicontrol>u</uicontrol></cmd><info>' +
        '<note type="danger">n</note></info></step></steps><result><ul><li>x<ul><li>y</li></ul>' +
        '</li></ul></result></taskbody></task>',
    ),
  },
  {
    id: 'b',
    root: root(
      '<concept id="b"><title>B</title><conbody><p outputclass="salty">p</p>' +
        '<p outputclass="salty loud">q</p><section><title>t</title><table><title>T</title>' +
        '<tgroup cols="1"><thead><row><entry>h</entry></row></thead><tbody><row>' +
        '<entry>c</entry></row></tbody></tgroup></table></section>' +
        '<section outputclass="expandable"><title>e</title></section>' +
        '<codeblock outputclass="language-json">{}</codeblock></conbody></concept>',
    ),
  },
];
const sheet = shippedSheets['workshop']!;

it('styles are counted where they apply, by what elements are and what is around them', () => {
  const { uses } = styleUses(sheet, topics);
  const counts = Object.fromEntries(
    Object.entries(uses).map(([style, { count }]) => [style, count]),
  );
  expect(counts).toEqual({
    lead: 1,
    paragraph: 4,
    steps: 1,
    control: 1,
    'note-danger': 1,
    'bullet-list': 1,
    'bullet-list-2': 1,
    'block-heading': 2,
    table: 1,
    'table-title': 1,
    'table-head': 1,
    'table-cell': 1,
    'code-block': 1,
  });
  expect(uses['paragraph']!.items).toEqual({ a: 2, b: 2 });
});
it('reports unstyled looks with a base to rest on, but neither the team’s nor non-looks', () => {
  expect(styleUses(sheet, topics).unstyled).toMatchObject([
    { outputclass: 'salty', element: 'p', base: 'paragraph', count: 2, items: { b: 2 } },
    { outputclass: 'loud', element: 'p', base: 'paragraph', count: 1 },
  ]);
  const own = withStyle(sheet, 'salt', {
    label: 'Salt',
    family: 'block',
    base: 'paragraph',
    appliesTo: { outputclass: 'salty' },
  });
  const { uses, unstyled } = styleUses(own, topics);
  const ofLists = withStyle(sheet, 'salt', {
    label: 'Salt',
    family: 'block',
    base: 'paragraph',
    appliesTo: { element: 'li', outputclass: 'salty' },
  });
  expect(styleUses(ofLists, topics).unstyled.map(({ outputclass }) => outputclass)).toEqual([
    'salty',
    'loud',
  ]);
  expect([uses['salt']!.count, unstyled.map(({ outputclass }) => outputclass)]).toEqual([
    2,
    ['loud'],
  ]);
});
