/**
 * What an output has to show of a package. Words are compared without regard to how much white
 * space stands between them.
 */
export interface Expected {
  /** In reading order, each after the one before. */
  readonly shows?: readonly string[];
  /** Nowhere in the output: neither in its text nor in its contents, index or attributes. */
  readonly hides?: readonly string[];
  /** Every entry of the contents in order, two spaces deeper for each level. */
  readonly contents?: readonly string[];
}

export interface PrintExpected extends Expected {
  /**
   * Texts of elements by selector, all of them in reading order; a number only counts them. The
   * site has the elements of HTML, the manual those of its structure tree (ISO 32000-2, 14.8.4), in
   * small letters.
   */
  readonly has?: Readonly<Record<string, string | readonly string[] | number>>;
}

interface SiteExpected extends PrintExpected {
  /**
   * Every link in the text of topics, as `words → where`: the heading of the page that it leads to,
   * `heading # id` inside of a page, or an address.
   */
  readonly links?: readonly string[];
  /** Every such link as `words → href`, where headings do not tell pages apart. */
  readonly leads?: readonly string[];
  /** All metadata in the heads of topic pages but descriptions, in order, as `name: content`. */
  readonly knows?: readonly string[];
  /** What the search has to find, by one word of a query: headings of pages. */
  readonly finds?: Readonly<Record<string, readonly string[]>>;
}

/**
 * A small package, and what the standard asks of what is published from it. Cases are written from
 * the standard (OASIS DITA 1.3, part 3, technical content edition), as far as it is remembered,
 * never from what the program does.
 */
export interface Case extends Expected {
  /** Number and title of the section that asks for it. From memory. */
  readonly section: string;
  /**
   * Contents by path. Where there is no map, one is made that has the topics in the order in which
   * they stand here.
   */
  readonly files: Readonly<Record<string, string | Uint8Array>>;
  /** The map to be published; the first one by default. */
  readonly map?: string;
  /** Content of a DITAVAL file. */
  readonly filter?: string;
  /** What only the help site has to show. */
  readonly site?: SiteExpected;
  /** What only the printed manual has to show. */
  readonly print?: PrintExpected;
  /** Codes of everything that is reported, in any order; nothing by default. */
  readonly problems?: readonly string[];
}

/** Cases by what they show. */
export type Cases = Readonly<Record<string, Case>>;

/** A topic of its own file. @param id the name of the file, by custom */
export const topic = (id: string, title: string, body = '', after = ''): string =>
  `<topic id="${id}"><title>${title}</title><body>${body}</body>${after}</topic>`;

/** A map with a title, “Book”, so that outputs have a name that no topic has. */
export const map = (entries: string): string => `<map><title>Book</title>${entries}</map>`;
