import { topic, type Cases } from '../case.ts';

const section = '3.10.5 Localization attributes; 2.6.1 The xml:lang attribute';
const one = (body: string): Record<string, string> => ({ 'a.dita': topic('a', 'Seas', body) });

export const languages: Cases = {
  'a phrase is in its own language': {
    section,
    files: one('<p>He cried <ph xml:lang="de">Land in Sicht</ph>.</p>'),
    shows: ['He cried Land in Sicht.'],
    site: { has: { 'span[lang="de"][dir="ltr"]': 'Land in Sicht' } },
  },
  'a block is in its own language': {
    section,
    files: one('<p xml:lang="de-AT">Land in Sicht</p>'),
    site: { has: { 'p[lang="de-AT"]': 'Land in Sicht' } },
    print: { shows: ['Land in Sicht'] },
  },
  'a block is written from right to left by its language': {
    section,
    files: one('<p xml:lang="he">ים</p>'),
    site: { has: { 'p[lang="he"][dir="rtl"]': 'ים' } },
  },
  'a direction is written as the block says': {
    section,
    files: one('<p dir="rtl">Buoys</p>'),
    site: { has: { 'p[dir="rtl"]': 'Buoys' } },
    print: { shows: ['Buoys'] },
  },
  'items and cells have languages': {
    section,
    files: one(
      '<ul><li xml:lang="de">Tonne</li></ul><simpletable><strow xml:lang="de">' +
        '<stentry xml:lang="ja">灯台</stentry></strow></simpletable>',
    ),
    site: { has: { 'li[lang="de"]': 'Tonne', 'tr[lang="de"] td[lang="ja"]': '灯台' } },
    print: { shows: ['Tonne', '灯台'] },
  },
  'a topic in another language says so': {
    section,
    files: {
      'a.dita':
        '<topic id="a" xml:lang="de"><title>Meere</title><body><p>Nordsee</p></body></topic>',
    },
    shows: ['Meere', 'Nordsee'],
    problems: ['locale.untranslated'],
  },
  'what is not to be translated says so': {
    section,
    files: one('<p>Press <uicontrol translate="no">Light</uicontrol>.</p>'),
    site: { has: { '[translate="no"]': 'Light' } },
  },
  'a language that is none counts for nothing': {
    section,
    files: one('<p xml:lang="!!">Buoys</p>'),
    site: { has: { 'p[lang]': 0 } },
    problems: ['grammar.attribute-value'],
  },
};
