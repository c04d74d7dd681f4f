import { writtenNumber, type Numbering } from '../styles/index.ts';
import type { PlaceRole } from './publication.ts';

/**
 * Counts places as a book does: parts, chapters through all parts or in each, appendices, sections
 * within.
 */
interface Counters {
  part: number;
  chapter: number;
  appendix: number;
}

/**
 * The number of a place.
 * @param parent the number of the place above, if it has one
 * @param ordinal 1 for the first numbered section under its parent
 */
function numberOf(
  role: PlaceRole,
  level: number,
  parent: string | undefined,
  ordinal: number,
  counters: Counters,
  numbering: Numbering,
): string | undefined {
  switch (role) {
    case 'part':
      if (numbering.chaptersByPart) counters.chapter = 0;
      return writtenNumber(numbering.parts, (counters.part += 1));
    case 'chapter':
      return numbering.depth < 1
        ? undefined
        : writtenNumber(numbering.chapters, (counters.chapter += 1));
    case 'appendix':
      return writtenNumber(numbering.appendices, (counters.appendix += 1));
    case 'section': {
      const own =
        parent === undefined || level > numbering.depth
          ? undefined
          : writtenNumber(numbering.sections, ordinal);
      return own === undefined ? undefined : `${parent}${numbering.sign}${own}`;
    }
    default:
      return undefined;
  }
}

/** The number of a figure or table. @param chapter of the chapter in which it stands */
function captionNumber(
  chapter: string | undefined,
  count: number,
  { captions, captionForm, captionSign }: Numbering,
): string | undefined {
  const own = writtenNumber(captionForm, count);
  return own === undefined || chapter === undefined || captions === 'throughout'
    ? own
    : `${chapter}${captionSign}${own}`;
}

export type Captioned = 'figure' | 'table' | 'example';

/** Counts as one goes through a publication in reading order. */
export interface Counting {
  /** @returns the number of the place, for which see above */
  place(
    role: PlaceRole,
    level: number,
    parent: string | undefined,
    ordinal: number,
  ): string | undefined;
  caption(kind: Captioned): string | undefined;
}

export function counting(numbering: Numbering): Counting {
  const counters: Counters = { part: 0, chapter: 0, appendix: 0 };
  let perChapter = { number: undefined as string | undefined, figure: 0, table: 0, example: 0 };
  return {
    place(role, level, parent, ordinal) {
      const number = numberOf(role, level, parent, ordinal, counters, numbering);
      const goesOn =
        numbering.captions === 'throughout' ? perChapter : { figure: 0, table: 0, example: 0 };
      if (level <= 1) perChapter = { ...goesOn, number: role === 'part' ? undefined : number };
      return number;
    },
    caption: (kind) => captionNumber(perChapter.number, (perChapter[kind] += 1), numbering),
  };
}
