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
  /** With `{n}` where the number stands. */
  readonly onPage: string;
  readonly onNextPage: string;
  /** Stands after the title of a table whose head is repeated on a further page. */
  readonly continued: string;
  /** Of a page whose number says all: “page 12”. */
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
  /** Of steps, before what is to be done. */
  readonly optional: string;
  readonly required: string;
  /** Of requirements: there are none. */
  readonly none: string;
  /** Other forms of a term in a glossary. */
  readonly acronym: string;
  readonly abbreviation: string;
  readonly shortForm: string;
  readonly synonym: string;
  /** Before a link to the long description of an image. */
  readonly description: string;
  readonly conditions: string;
  readonly personnel: string;
  readonly equipment: string;
  readonly supplies: string;
  readonly spares: string;
  readonly safety: string;
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
  /** What readers say of themselves, so that they see what is for them. */
  readonly readers: string;
  readonly notForYou: string;
  readonly everything: string;
  /** Every value of a facet. */
  readonly all: string;
  /** All of a publication. */
  readonly chapters: string;
  readonly onThisPage: string;
  readonly openAll: string;
  readonly closeAll: string;
  readonly enlarge: string;
  readonly close: string;
  readonly feedback: string;
  readonly noSuchPage: string;
  readonly noSuchPageHelp: string;
  readonly width: string;
  readonly home: string;
  readonly inThisSection: string;
  readonly footnotes: string;
  /** Beside a title: since the release before. */
  readonly isNew: string;
  readonly isChanged: string;
  /** Above a list of what is new or changed. */
  readonly news: string;
  readonly language: string;
}
