import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { allPlaces } from '@ukiyo/core/compose';
import { readableText } from '@ukiyo/core/library';
import MiniSearch from 'minisearch';
import { describe, expect, it } from 'vitest';
import { composeDemo } from '../testing/demo.ts';
import { searchIndex } from '../site/searching.ts';
import {
  searchIn,
  searchOptions,
  searchWords,
  stemmer,
  waysToSay,
  type SearchDocument,
  type Synonyms,
} from './terms.ts';

const engineOf = (documents: readonly SearchDocument[], locale: string) =>
  MiniSearch.loadJSON<SearchDocument>(searchIndex(documents, locale), searchOptions(locale));
const document = (id: string, title: string, text: string): SearchDocument => ({
  id,
  title,
  lead: '',
  text,
});
const found = (
  documents: readonly SearchDocument[],
  locale: string,
  query: string,
  synonyms: Synonyms = [],
): string[] =>
  searchIn(engineOf(documents, locale), query, locale, { synonyms }).map(({ id }) => String(id));

describe('stems', () => {
  /** Debian compresses the largest. */
  const linesOf = (path: string): string[] => {
    const read = existsSync(path) ? `head -n 40000 ${path}` : `gzip -dc ${path}.gz | head -n 40000`;
    return spawnSync('sh', ['-c', read], { encoding: 'utf8', maxBuffer: 1 << 26 }).stdout.split(
      '\n',
    );
  };
  /**
   * Vocabulary of the Snowball project with its stems (Debian `snowball-data`, BSD). The Arabic one
   * has nine million words: its first are read.
   */
  it.each([
    ['en', 'english', 2, 0],
    ['de', 'german', 2, 0],
    ['ar', 'arabic', 3, 1],
    ['es', 'spanish', 5, 0],
    ['it', 'italian', 5, 0],
    ['nl', 'dutch', 5, 0],
    ['pt', 'portuguese', 5, 0],
    ['sv', 'swedish', 3, 0],
    ['no', 'norwegian', 3, 0],
    ['hu', 'hungarian', 5, 0],
    ['ro', 'romanian', 3, 0],
    ['tr', 'turkish', 60, 0],
    // Newer rules of Snowball for ï, ë and ё, and for numbers.
    ['fr', 'french', 3, 40],
    ['ru', 'russian', 5, 40],
    ['fi', 'finnish', 5, 8],
    ['da', 'danish', 3, 1],
  ] as const)('are those of the Snowball vocabulary: %s', (locale, name, each, mostOthers) => {
    const folder = `/usr/share/snowball/data/${name}`;
    const [words, stems] = ['voc.txt', 'output.txt'].map((file) =>
      linesOf(`${folder}/${file}`),
    ) as [string[], string[]];
    const stem = stemmer(locale);
    const others = words.filter(
      (word, at) => at % each === 0 && word !== '' && stem(word) !== stems[at],
    );
    expect(words.length).toBeGreaterThan(20_000);
    expect(others.length, others.slice(0, 5).join(' ')).toBeLessThanOrEqual(mostOthers);
  });
});

describe('words that mean the same', () => {
  const documents = [
    document('staff', 'Tide staff', 'Read it at noon.'),
    document('pole', 'Old names', 'Some say tide pole, or fault.'),
    document('log', 'Failures', 'The log has them.'),
  ];
  const synonyms = [
    ['tide staff', 'tide pole'],
    ['fault', 'failure'],
  ];
  it('are found by each other, words in a row and in any form', () => {
    expect(found(documents, 'en', 'tide poles', synonyms).toSorted()).toEqual(['pole', 'staff']);
    expect(found(documents, 'en', 'tide pole')).toEqual(['pole']);
    expect(found(documents, 'en', 'faults', synonyms).toSorted()).toEqual(['log', 'pole']);
    expect(found(documents, 'en', 'faults')).toEqual(['pole']);
  });
  it('stand for one part of what is looked for: the rest is still wanted', () => {
    expect(found(documents, 'en', 'tide pole noon', synonyms)).toEqual(['staff']);
    expect(waysToSay('Read the tide poles', 'en', synonyms)).toEqual([
      [['read']],
      [['the']],
      [
        ['tide', 'poles'],
        ['tide', 'staff'],
      ],
    ]);
  });
});

describe('known things in the whole demo', () => {
  const publication = composeDemo('help', 'installer-tern-q');
  const documents = allPlaces(publication.places)
    .filter(({ content }) => content)
    .map(({ anchor, label, shortDescription, content }) => ({
      id: anchor,
      title: label,
      lead: shortDescription,
      text: readableText(content!),
    }));
  const engine = engineOf(documents, 'en');
  const stem = stemmer('en');
  const standing = new Map<string, number>();
  for (const { text } of documents)
    for (const word of new Set(searchWords(text, 'en').map(stem)))
      standing.set(word, (standing.get(word) ?? 0) + 1);
  it('are in the first three by their title, and by the rarest word of theirs', () => {
    let words = 0;
    for (const { id, title, text } of documents) {
      const first = (query: string): string[] =>
        searchIn(engine, query, 'en')
          .slice(0, 3)
          .map((hit) => String(hit.id));
      expect(first(title), title).toContain(id);
      const rare = searchWords(text, 'en').find(
        (word) => word.length > 4 && standing.get(stem(word)) === 1,
      );
      if (rare === undefined) continue;
      words += 1;
      expect(first(rare), `${title}: ${rare}`).toContain(id);
    }
    expect(words).toBeGreaterThan(60);
  });
});

describe('Japanese', () => {
  const documents = [
    document(
      'clock',
      '時計を合わせる',
      '測定値はすべて協定世界時で記録されます。夏時間には切り替わりません。',
    ),
    document(
      'battery',
      'バッテリーを交換する',
      'バッテリーがなくても測定値は残りますが、新しい測定は行われません。',
    ),
    document(
      'sensor',
      '圧力センサーを取り付ける',
      'センサーヘッドを静水井の中に降ろし、ＢＮＣコネクタを締めます。',
    ),
    document('alarm', '警報を確認する', '警報が鳴ったら、表示部の番号を読み取ります。'),
    document('tide', '潮位を読む', '潮位標の目盛りを正午に読みます。潮位は一日に二回変わります。'),
  ];
  it.each([
    ['時計', 'clock'],
    ['バッテリの交換', 'battery'],
    ['バッテリー', 'battery'],
    ['センサ', 'sensor'],
    ['BNC', 'sensor'],
    ['ｂｎｃ コネクター', 'sensor'],
    ['警報 番号', 'alarm'],
    ['潮位標', 'tide'],
    ['協定世界時', 'clock'],
  ])('%s is found first', (query, id) => expect(found(documents, 'ja', query)[0]).toBe(id));
  it('is found by every title', () => {
    for (const { id, title } of documents) expect(found(documents, 'ja', title)[0]).toBe(id);
  });
});

describe('Arabic', () => {
  const documents = [
    document(
      'clock',
      'ضبط الساعة',
      'تحمل جميع القراءات التوقيت العالمي. لا تنتقل المحطة إلى التوقيت الصيفي.',
    ),
    document(
      'battery',
      'استبدال البطارية',
      'تحتفظ المحطة بقراءاتها بدون بطارية، لكنها لا تأخذ قراءات جديدة.',
    ),
    document('alarm', 'الإنذارات', 'عند حدوث إنذار اقرأ الرقم على الشاشة.'),
  ];
  it.each([
    ['ساعة', 'clock'],
    ['بالساعة', 'clock'],
    ['البطاريات', 'battery'],
    ['بَطّارِيّة', 'battery'],
    ['إنذار', 'alarm'],
    ['للإنذار', 'alarm'],
  ])(
    '%s is found: without articles and joined words, and without the signs of vowels',
    (query, id) => expect(found(documents, 'ar', query)).toContain(id),
  );
});
