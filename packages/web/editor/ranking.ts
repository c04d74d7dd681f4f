import type { Choice } from '@ukiyo/core/editing';

const kinds: readonly Choice['kind'][] = ['insert', 'table', 'phrase', 'share', 'wrap', 'turn'];

/**
 * How well a choice answers what was typed: by its element's name or the beginning of its label,
 * its label, part of its element's name, its help; undefined when not at all.
 */
function match({ label, element, help }: Choice, wanted: string): number | undefined {
  const name = label.toLowerCase();
  const found = [
    name.startsWith(wanted) || element === wanted,
    name.includes(wanted),
    element.toLowerCase().includes(wanted),
    help.toLowerCase().includes(wanted),
  ].indexOf(true);
  return found === -1 ? undefined : found;
}

/**
 * The choices that answer a query, group by group. Within a group better matches come first, then
 * what the writer has used most, then the order of the content model. The group that holds the best
 * match comes first.
 * @param uses how often each was chosen, by `kind element`
 */
export function rankChoices(
  choices: readonly Choice[],
  query: string,
  uses: Readonly<Record<string, number>>,
): Choice[] {
  const wanted = query.trim().toLowerCase();
  const found = choices.flatMap((choice, order) => {
    const rank = match(choice, wanted);
    return rank === undefined
      ? []
      : [
          {
            choice,
            rank: wanted === '' ? 0 : rank,
            used: uses[`${choice.kind} ${choice.element}`] ?? 0,
            order,
          },
        ];
  });
  const best = (kind: Choice['kind']): number =>
    Math.min(...found.filter(({ choice }) => choice.kind === kind).map(({ rank }) => rank));
  return [...kinds]
    .sort((a, b) => best(a) - best(b))
    .flatMap((kind) =>
      found
        .filter(({ choice }) => choice.kind === kind)
        .sort((a, b) => a.rank - b.rank || b.used - a.used || a.order - b.order),
    )
    .map(({ choice }) => choice);
}
