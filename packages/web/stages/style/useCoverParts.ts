import { coverGrid, type CoverPart, type PagePlan } from '@ukiyo/core/styles';

export type CoverSide = 'front' | 'back';
const within = (value: number, most: number, least = 0): number =>
  Math.min(most, Math.max(least, value));

/** A part that lies on the grid, wherever it is drawn. */
const onGrid = (part: CoverPart): CoverPart => {
  const column = within(part.column, coverGrid - 1);
  const row = within(part.row, coverGrid - 1);
  return {
    ...part,
    column,
    row,
    columns: within(part.columns, coverGrid - column, 1),
    rows: within(part.rows, coverGrid - row, 1),
  };
};

/** What can be done to the parts of a cover; each answers with a change of the plan. */
export function coverParts(side: CoverSide) {
  type Change = (plan: PagePlan) => PagePlan;
  const changed =
    (act: (parts: readonly CoverPart[]) => readonly CoverPart[]): Change =>
    (plan) => ({ ...plan, coverParts: { ...plan.coverParts, [side]: act(plan.coverParts[side]) } });
  return {
    add: (shows: CoverPart['shows']): Change =>
      changed((parts) => [
        ...parts,
        shows.field === 'ground'
          ? {
              shows,
              column: 0,
              row: 0,
              columns: coverGrid,
              rows: 4,
              style: 'cover-facts',
              stands: 'start',
              colour: '',
            }
          : {
              shows,
              column: 1,
              row: within(parts.length + 1, coverGrid - 2),
              columns: coverGrid - 2,
              rows: 2,
              style: shows.field === 'title' ? 'cover-title' : 'cover-facts',
              stands: 'start',
              colour: '',
            },
      ]),
    set: (at: number, part: Partial<CoverPart>): Change =>
      changed((parts) =>
        parts.map((one, index) => (index === at ? onGrid({ ...one, ...part }) : one)),
      ),
    remove: (at: number): Change => changed((parts) => parts.toSpliced(at, 1)),
    /** Before all others lies undermost. */
    move: (at: number, by: number): Change =>
      changed((parts) => {
        const part = parts[at];
        return part
          ? parts.toSpliced(at, 1).toSpliced(within(at + by, parts.length - 1), 0, part)
          : parts;
      }),
  };
}
