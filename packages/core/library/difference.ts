import { diffArrays } from 'diff';
import { isInline, labelOf } from '../grammar/index.ts';
import { childElements, type Element } from '../markup/index.ts';
import { readableText } from './derive.ts';

/** One block that two texts say differently; one of them has none where its words are empty. */
export interface BlockDifference {
  readonly label: string;
  readonly before: string;
  readonly after: string;
}

interface Block {
  readonly label: string;
  readonly words: string;
}
const notRead = ['prolog', 'topicmeta', 'colspec'];

/**
 * The innermost blocks with words, in reading order; of a borrowed passage the reference is what it
 * says.
 */
function blocksOf(element: Element): Block[] {
  if (notRead.includes(element.name)) return [];
  const inner = childElements(element).filter(({ name }) => !isInline(name));
  const { conref, conkeyref, href } = element.attributes;
  const said = conref ?? conkeyref ?? (element.name === 'image' ? href : undefined);
  if (inner.length === 0 || said !== undefined) {
    const words = said ?? readableText(element);
    return words === '' ? [] : [{ label: labelOf(element.name), words }];
  }
  return inner.flatMap(blocksOf);
}

/**
 * Where two texts differ, block by block: blocks that stand against each other are told together.
 */
export function differingBlocks(before: Element, after: Element): BlockDifference[] {
  const parts = diffArrays(blocksOf(before), blocksOf(after), {
    comparator: (a, b) => a.words === b.words && a.label === b.label,
  });
  const found: BlockDifference[] = [];
  parts.forEach(({ added, removed, value }, index) => {
    const against = removed ? parts[index + 1] : undefined;
    const partner = against?.added ? against.value : [];
    if (removed)
      for (let at = 0; at < Math.max(value.length, partner.length); at += 1)
        found.push({
          label: (partner[at] ?? value[at])!.label,
          before: value[at]?.words ?? '',
          after: partner[at]?.words ?? '',
        });
    else if (added && !parts[index - 1]?.removed)
      for (const { label, words } of value) found.push({ label, before: '', after: words });
  });
  return found;
}
