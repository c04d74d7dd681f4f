/**
 * The fixed phrases that the product itself puts into publications, by language.
 * In: a locale; out: the words for it, English where the language is not known.
 */
export interface Words {
  readonly figure: string;
  readonly table: string;
  readonly step: string;
  readonly video: string;
  readonly audio: string;
  readonly chapter: string;
  readonly part: string;
  readonly appendix: string;
  readonly contents: string;
  readonly figures: string;
  readonly tables: string;
  readonly index: string;
  readonly glossary: string;
  readonly see: string;
  readonly seeAlso: string;
  readonly onPage: string;
  readonly onNextPage: string;
  /** Stands after the title of a table whose head is repeated on a further page. */
  readonly continued: string;
  /** Stands before the number of a page where it says all: “page 12”. */
  readonly page: string;
  readonly prerequisites: string;
  readonly context: string;
  readonly steps: string;
  readonly result: string;
  readonly next: string;
  readonly troubleshooting: string;
  readonly example: string;
  readonly condition: string;
  readonly cause: string;
  readonly remedy: string;
  readonly related: string;
  readonly syntax: string;
  readonly property: string;
  readonly value: string;
  readonly meaning: string;
  readonly notes: Readonly<Record<string, string>>;
  readonly search: string;
  readonly found: string;
  readonly nothingFound: string;
  readonly clearHits: string;
  readonly narrow: string;
  readonly copy: string;
  readonly copied: string;
  /** Opens words that are kept short. */
  readonly more: string;
  readonly previous: string;
  readonly following: string;
  readonly menu: string;
  readonly skip: string;
  readonly home: string;
  readonly inThisSection: string;
  readonly footnotes: string;
}

const en: Words = {
  figure: 'Figure',
  table: 'Table',
  step: 'step',
  video: 'Video',
  audio: 'Sound',
  chapter: 'Chapter',
  part: 'Part',
  appendix: 'Appendix',
  contents: 'Contents',
  figures: 'Figures',
  tables: 'Tables',
  index: 'Index',
  glossary: 'Glossary',
  see: 'see',
  seeAlso: 'see also',
  onPage: 'on page',
  onNextPage: 'on the next page',
  continued: 'continued',
  page: 'page',
  prerequisites: 'Before you start',
  context: 'About this task',
  steps: 'Steps',
  result: 'Result',
  next: 'What to do next',
  troubleshooting: 'If it does not work',
  example: 'Example',
  condition: 'What you see',
  cause: 'Cause',
  remedy: 'Remedy',
  related: 'Related topics',
  syntax: 'Syntax',
  property: 'Property',
  value: 'Value',
  meaning: 'Meaning',
  notes: {
    note: 'Note',
    tip: 'Tip',
    fastpath: 'Short cut',
    restriction: 'Restriction',
    important: 'Important',
    remember: 'Remember',
    attention: 'Attention',
    caution: 'Caution',
    notice: 'Notice',
    danger: 'Danger',
    warning: 'Warning',
    trouble: 'Trouble',
    other: 'Note',
  },
  search: 'Search',
  found: '{n} found',
  nothingFound: 'Nothing found. Try another word.',
  clearHits: 'Marked: {n} – clear',
  narrow: 'Type to narrow the index',
  copy: 'Copy',
  copied: 'Copied',
  more: 'Show more',
  previous: 'Previous',
  following: 'Next',
  menu: 'Contents and index',
  skip: 'Skip to the text',
  home: 'Home',
  inThisSection: 'In this section',
  footnotes: 'Footnotes',
};

const de: Words = {
  figure: 'Abbildung',
  table: 'Tabelle',
  step: 'Schritt',
  video: 'Video',
  audio: 'Ton',
  chapter: 'Kapitel',
  part: 'Teil',
  appendix: 'Anhang',
  contents: 'Inhalt',
  figures: 'Abbildungen',
  tables: 'Tabellen',
  index: 'Stichwörter',
  glossary: 'Glossar',
  see: 'siehe',
  seeAlso: 'siehe auch',
  onPage: 'auf Seite',
  onNextPage: 'auf der nächsten Seite',
  continued: 'Fortsetzung',
  page: 'Seite',
  prerequisites: 'Vorbereitung',
  context: 'Zu dieser Aufgabe',
  steps: 'Schritte',
  result: 'Ergebnis',
  next: 'Wie es weitergeht',
  troubleshooting: 'Wenn es nicht gelingt',
  example: 'Beispiel',
  condition: 'Was zu sehen ist',
  cause: 'Ursache',
  remedy: 'Abhilfe',
  related: 'Verwandte Themen',
  syntax: 'Syntax',
  property: 'Eigenschaft',
  value: 'Wert',
  meaning: 'Bedeutung',
  notes: {
    note: 'Hinweis',
    tip: 'Tipp',
    fastpath: 'Abkürzung',
    restriction: 'Einschränkung',
    important: 'Wichtig',
    remember: 'Merke',
    attention: 'Beachten',
    caution: 'Vorsicht',
    notice: 'Achtung',
    danger: 'Gefahr',
    warning: 'Warnung',
    trouble: 'Störung',
    other: 'Hinweis',
  },
  search: 'Suchen',
  found: '{n} gefunden',
  nothingFound: 'Nichts gefunden. Ein anderes Wort hilft vielleicht.',
  clearHits: 'Markiert: {n} – aufheben',
  narrow: 'Tippen, um die Stichwörter einzugrenzen',
  copy: 'Kopieren',
  copied: 'Kopiert',
  more: 'Mehr zeigen',
  previous: 'Zurück',
  following: 'Weiter',
  menu: 'Inhalt und Stichwörter',
  skip: 'Zum Text',
  home: 'Anfang',
  inThisSection: 'In diesem Abschnitt',
  footnotes: 'Fußnoten',
};

const byLanguage: Readonly<Record<string, Words>> = { en, de };

export function wordsFor(locale: string): Words {
  return byLanguage[new Intl.Locale(locale).language] ?? en;
}
