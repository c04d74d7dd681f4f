import { writtenNumber, type Numbering } from '../styles/index.ts';
import type { PlaceRole } from './publication.ts';

/** Counts places as a book does: parts, chapters through all parts or in each, appendices, sections within. */
export interface Counters {
  part: number;
  chapter: number;
  appendix: number;
}

/**
 * The number of a place.
 * @param parent the number of the place above, if it has one
 * @param ordinal 1 for the first numbered section under its parent
 */
export function numberOf(role: PlaceRole, level: number, parent: string | undefined, ordinal: number, counters: Counters, numbering: Numbering): string | undefined {
  switch (role) {
    case 'part':
      if (numbering.chaptersByPart) counters.chapter = 0;
      return writtenNumber(numbering.parts, (counters.part += 1));
    case 'chapter':
      return numbering.depth < 1 ? undefined : writtenNumber(numbering.chapters, (counters.chapter += 1));
    case 'appendix':
      return writtenNumber(numbering.appendices, (counters.appendix += 1));
    case 'section': {
      const own = parent === undefined || level > numbering.depth ? undefined : writtenNumber(numbering.sections, ordinal);
      return own === undefined ? undefined : `${parent}${numbering.sign}${own}`;
    }
    default:
      return undefined;
  }
}

/** The number of a figure or table. @param chapter of the chapter in which it stands */
export function captionNumber(chapter: string | undefined, count: number, { captions, captionForm, captionSign }: Numbering): string | undefined {
  const own = writtenNumber(captionForm, count);
  return own === undefined || chapter === undefined || captions === 'throughout' ? own : `${chapter}${captionSign}${own}`;
}
