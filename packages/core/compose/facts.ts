import { titleOf } from '../library/index.ts';
import { childNamed, findAll, lineOf, type Element } from '../markup/index.ts';
import type { PublicationFacts } from './publication.ts';

/** What the map says of the publication: titles, authors, numbers and rights. */
export function readPublicationFacts(map: Element): PublicationFacts {
  const meta = childNamed(map, 'bookmeta', 'topicmeta');
  const title = childNamed(map, 'booktitle');
  const all = (name: string): Element[] =>
    meta ? findAll(meta, (found) => found.name === name) : [];
  const first = (name: string): string => all(name).map(lineOf)[0] ?? '';
  const part = (name: string): string => {
    const found = title && childNamed(title, name);
    return found ? lineOf(found) : '';
  };
  const years = [
    ...all('copyryear').map((year) => year.attributes['year'] ?? ''),
    ...all('copyrfirst').map(lineOf),
    ...all('copyrlast').map(lineOf),
  ].filter((year) => year !== '');
  const holder = first('copyrholder') || first('bookowner');
  const dates = [
    ...all('created').map(({ attributes }) => attributes['date'] ?? ''),
    ...all('revised').map(({ attributes }) => attributes['modified'] ?? ''),
  ];
  return {
    title: titleOf(map),
    subtitle: part('booktitlealt'),
    series: part('booklibrary'),
    authors: all('author').map(lineOf),
    rights: holder === '' ? '' : `© ${years.join('–')} ${holder}`.replace('  ', ' '),
    bookNumber: first('booknumber') || first('bookpartno'),
    edition: first('edition'),
    date: dates.at(-1) ?? '',
    description: first('shortdesc'),
    keywords: all('keyword').map(lineOf),
  };
}
