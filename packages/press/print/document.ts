import type { LetterLook } from '@ukiyo/core/facets';
import type { PrintMath } from '../math/index.ts';
import type { PartLanguage } from '../shared/index.ts';
import type { DesignData } from './design.ts';

/**
 * The JSON document that the print template walks. Short keys: a manual of 300 pages has some
 * 100,000 of these.
 */
export type Inline =
  | string
  | {
      readonly t: 'b' | 'i' | 'u' | 'sup' | 'sub' | 'strike' | 'code' | 'ui' | 'q';
      readonly c: readonly Inline[];
    }
  /** Words in a style of the team's own. */
  | { readonly t: 's'; readonly s: string; readonly c: readonly Inline[] }
  /** Words in another language. */
  | ({ readonly t: 'lang'; readonly c: readonly Inline[] } & PartLanguage)
  /** A link inside: `page` adds “on page N”, or says “page N” where it has no words. */
  | { readonly t: 'ref'; to: string; readonly c: readonly Inline[]; readonly page: boolean }
  | { readonly t: 'url'; readonly href: string; readonly c: readonly Inline[] }
  /** A footnote; `id` where it is referred to again, `sign` in place of its number. */
  | {
      readonly t: 'fn';
      readonly c: readonly PrintBlock[];
      readonly id?: string;
      readonly sign?: string;
    }
  /** A footnote that has been shown before. */
  | { readonly t: 'fnref'; readonly id: string; readonly sign?: string }
  | { readonly t: 'at'; readonly id: string }
  | PrintImage
  /** A formula, in a line or on one of its own; `alt` in words. */
  | {
      readonly t: 'math';
      readonly c: PrintMath;
      readonly alt: string;
      readonly block: boolean;
    }
  /** A bar in the margin ends with this line. */
  | { readonly t: 'bar' }
  /** A sign in the margin: something is gone here. */
  | { readonly t: 'gone' }
  | ({ readonly t: 'mark'; readonly c: readonly Inline[] } & Marking);

interface PrintImage {
  readonly t: 'img';
  readonly src: string;
  readonly alt: string;
  /** In millimetres; with both it may have another shape than its own. */
  readonly w?: string;
  readonly h?: string;
}

/** What a lens marks: `#rrggbb` of the words and behind them. */
export interface Marking {
  readonly fg?: string;
  readonly bg?: string;
  readonly ls?: readonly LetterLook[];
}

/** A sign on an image; `x` and `y` as shares of its width and height. */
export interface Hotspot {
  readonly sign: string;
  readonly x: number;
  readonly y: number;
}

export interface PrintCell {
  readonly c: readonly PrintBlock[];
  readonly cs: number;
  readonly rs: number;
  readonly al?: string;
  readonly va?: string;
  readonly head: boolean;
  /** Read from below to above. */
  readonly turned?: boolean;
  readonly x: number;
  /** A rule above, and before it, that is asked for or refused. */
  readonly top?: boolean;
  readonly start?: boolean;
}

/** A footnote of a table, which stands under it. */
export interface TableNote {
  readonly sign: string;
  readonly c: readonly PrintBlock[];
}

export interface PrintTable {
  readonly t: 'table';
  /** Typst track sizes: `{ fr: 2 }` or `{ mm: 30 }`. */
  readonly cols: readonly { readonly fr?: number; readonly mm?: number }[];
  readonly head: readonly (readonly PrintCell[])[];
  readonly rows: readonly (readonly PrintCell[])[];
  readonly at: readonly string[];
  readonly num?: string;
  readonly cap?: readonly Inline[];
  readonly notes?: readonly TableNote[];
  /** Which of its outer edges have a rule; undefined where its style says so. */
  readonly frame?: { readonly top: boolean; readonly bottom: boolean; readonly sides: boolean };
  /** Over text and margin column, or on a page of its own that lies on its side. */
  readonly stands?: 'both' | 'turned';
}

/** A block; `s` is the style of the team's own that it has. */
export type PrintBlock = { readonly s?: string } & (
  | { readonly t: 'p'; readonly c: readonly Inline[] }
  | { readonly t: 'lead'; readonly c: readonly Inline[] }
  | { readonly t: 'label'; readonly c: readonly Inline[] }
  | { readonly t: 'h'; readonly c: readonly Inline[]; readonly at: readonly string[] }
  | { readonly t: 'at'; readonly id: string }
  /** The next block is the element at this path of the topic that is traced, as `1.0.2`. */
  | { readonly t: 'from'; readonly path: string }
  /** A bar in the margin begins or ends here. */
  | { readonly t: 'bar'; readonly on: boolean }
  | { readonly t: 'gone' }
  | {
      readonly t: 'ul' | 'ol' | 'steps' | 'sl';
      readonly items: readonly (readonly PrintBlock[])[];
      readonly start?: number;
    }
  | {
      readonly t: 'dl';
      readonly items: readonly {
        readonly dt: readonly (readonly Inline[])[];
        readonly dd: readonly PrintBlock[];
        /** Whether it heads the others. */
        readonly head?: true;
      }[];
    }
  | {
      readonly t: 'note';
      readonly kind: string;
      readonly word: string;
      readonly c: readonly PrintBlock[];
    }
  /** A hazard statement: each message is what the hazard is, followed by the rest. */
  | {
      readonly t: 'hazard';
      readonly kind: string;
      readonly word: string;
      readonly symbols: readonly PrintBlock[];
      readonly messages: readonly {
        readonly hazard: readonly PrintBlock[];
        readonly c: readonly PrintBlock[];
      }[];
    }
  | { readonly t: 'equation'; readonly c: readonly Inline[]; readonly num?: readonly Inline[] }
  | { readonly t: 'code'; readonly c: readonly Inline[] }
  | { readonly t: 'lines'; readonly c: readonly Inline[] }
  | { readonly t: 'quote'; readonly c: readonly PrintBlock[] }
  | {
      readonly t: 'fig';
      readonly c: readonly PrintBlock[];
      readonly at: readonly string[];
      readonly num?: string;
      readonly cap?: readonly Inline[];
    }
  | (PrintImage & { readonly missing?: boolean; readonly spots?: readonly Hotspot[] })
  /** What the signs on an image stand for. */
  | {
      readonly t: 'legend';
      readonly items: readonly { readonly sign: string; readonly c: readonly Inline[] }[];
    }
  | { readonly t: 'group'; readonly c: readonly PrintBlock[] }
  /** Blocks in another language. */
  | ({ readonly t: 'lang'; readonly c: readonly PrintBlock[] } & PartLanguage)
  | ({ readonly t: 'mark'; readonly c: readonly PrintBlock[] } & Marking)
  | PrintTable
);

export interface PrintPlace {
  readonly s?: string;
  readonly role: string;
  readonly level: number;
  readonly id: string;
  readonly num: string | null;
  readonly title: readonly Inline[];
  /** For running titles, bookmarks and contents. */
  readonly label: string;
  readonly listed: boolean;
  /** Without a heading the text goes on in that of the place above. */
  readonly headed: boolean;
  /** Whether a bar stands beside the heading. */
  readonly bar?: boolean;
  /** Whether something before it is gone. */
  readonly gone?: boolean;
  readonly c: readonly PrintBlock[];
  readonly places: readonly PrintPlace[];
}

export interface PrintIndexEntry {
  readonly term: string;
  readonly at: readonly { readonly from: string; readonly until: string | null }[];
  readonly see: readonly string[];
  readonly also: readonly string[];
  readonly sub: readonly PrintIndexEntry[];
}

/** Where a topic that is set alone stands in the whole manual. */
interface Alone {
  /** The number of its first page, and whether that is an odd sheet. */
  readonly page: number;
  readonly odd: boolean;
  /**
   * Where the first line of its heading stands, from the beginning of the text on that page, in
   * points.
   */
  readonly y: number;
  readonly chapter: { readonly id: string; readonly num: string; readonly label: string } | null;
}

export interface PrintDocument {
  readonly alone?: Alone;
  /** Whether it is noted where the elements of a topic come to stand. */
  readonly traced: boolean;
  /** Whether bars stand in its margins. */
  readonly barred: boolean;
  readonly design: DesignData;
  readonly lang: string;
  readonly dir: string;
  readonly facts: {
    readonly title: string;
    readonly subtitle: string;
    readonly series: string;
    readonly authors: readonly string[];
    readonly rights: string;
    readonly number: string;
    readonly edition: string;
    readonly keywords: readonly string[];
    /** As `2026-03-09`; empty where there is none. */
    readonly day: string;
  };
  readonly words: Readonly<Record<string, string>>;
  readonly front: readonly PrintPlace[];
  readonly body: readonly PrintPlace[];
  readonly back: readonly PrintPlace[];
  readonly figures: readonly {
    readonly id: string;
    readonly num: string;
    readonly cap: readonly Inline[];
  }[];
  readonly tables: readonly {
    readonly id: string;
    readonly num: string;
    readonly cap: readonly Inline[];
  }[];
  readonly index: readonly {
    readonly letter: string;
    readonly entries: readonly PrintIndexEntry[];
  }[];
  readonly glossary: readonly {
    readonly id: string;
    readonly term: string;
    readonly c: readonly PrintBlock[];
  }[];
}
