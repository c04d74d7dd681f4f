import { writtenNumber, type Numbering } from '../styles/index.ts';
import type { Place, PlaceRole } from './publication.ts';

export type Captioned = 'figure' | 'table' | 'example';

/** A place to be counted. */
export interface Counted {
  readonly role: PlaceRole;
  readonly level: number;
  /** The number of the place above, if it has one. */
  readonly parent: string | undefined;
  /** 1 for the first numbered section under its parent. */
  readonly ordinal: number;
}

/**
 * Counts places as a book does: parts, chapters through all parts or in each, appendices, sections
 * within; figures, tables and examples through all or in each chapter. To be asked in reading
 * order.
 */
export class Counting {
  readonly #numbering: Numbering;
  #part = 0;
  #chapter = 0;
  #appendix = 0;
  /** Of the chapter that was counted last. */
  #chapterNumber: string | undefined;
  #captions: Record<Captioned, number> = { figure: 0, table: 0, example: 0 };

  constructor(numbering: Numbering) {
    this.#numbering = numbering;
  }

  /** The number of a place, where it has one. */
  place(counted: Counted): string | undefined {
    const number = this.#numberOf(counted);
    if (counted.level <= 1) {
      this.#chapterNumber = counted.role === 'part' ? undefined : number;
      if (this.#numbering.captions !== 'throughout')
        this.#captions = { figure: 0, table: 0, example: 0 };
    }
    return number;
  }

  /** The number of a figure, table or example. */
  caption(kind: Captioned): string | undefined {
    const { captions, captionForm, captionSign } = this.#numbering;
    const own = writtenNumber(captionForm, (this.#captions[kind] += 1));
    return own === undefined || this.#chapterNumber === undefined || captions === 'throughout'
      ? own
      : `${this.#chapterNumber}${captionSign}${own}`;
  }

  #numberOf({ role, level, parent, ordinal }: Counted): string | undefined {
    const { depth, parts, chapters, appendices, sections, sign, chaptersByPart } = this.#numbering;
    switch (role) {
      case 'part':
        if (chaptersByPart) this.#chapter = 0;
        return writtenNumber(parts, (this.#part += 1));
      case 'chapter':
        return depth < 1 ? undefined : writtenNumber(chapters, (this.#chapter += 1));
      case 'appendix':
        return writtenNumber(appendices, (this.#appendix += 1));
      case 'section': {
        if (parent === undefined || level > depth) return undefined;
        const own = writtenNumber(sections, ordinal);
        return own === undefined ? undefined : `${parent}${sign}${own}`;
      }
      default:
        return undefined;
    }
  }
}

/** Whether a place is counted: all but sections that are left out of the contents. */
export const isCounted = ({ role, isNested, inContents }: Place): boolean =>
  role !== 'section' || isNested || inContents;
