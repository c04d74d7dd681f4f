import type { CopiesShared, CopySharing } from '@ukiyo/contracts';
import {
  isTopic,
  normalise,
  topicTemplate,
  writeCanonical,
  type TopicKind,
} from '@ukiyo/core/grammar';
import {
  borrowing,
  freeId,
  movePassages,
  readableText,
  withoutBody,
  type MovedPassages,
} from '@ukiyo/core/library';
import {
  element,
  isElement,
  lineage,
  nodeAt,
  readXml,
  replaceAt,
  type Element,
} from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import type { Database } from '../data/database.ts';
import type { ItemStore } from '../data/items.ts';
import type { ItemRow } from '../data/models.ts';
import type { ChangeTexts, TextChange } from './rewriting.ts';

export type CopyMerging = (
  project: string,
  sharing: CopySharing,
  author: string,
) => Promise<CopiesShared | undefined>;

/**
 * Later places first, and what holds others after them: the paths of those that still wait stay
 * right.
 */
const lastFirst = (a: { readonly path: Path }, b: { readonly path: Path }): number => {
  const at = a.path.findIndex((step, index) => step !== b.path[index]);
  return at === -1 || b.path[at] === undefined
    ? b.path.length - a.path.length
    : b.path[at] - a.path[at]!;
};

type Copy = CopySharing['copies'][number];

interface Kept {
  readonly row: ItemRow;
  readonly root: Element;
  readonly type: TopicKind;
  readonly passage: Element;
}

/** The wording that is to be kept, where it stands; undefined when it is not there any more. */
async function keptWording(
  { models }: Database,
  { project, transaction }: TextChange,
  { item, path, words }: Copy,
): Promise<Kept | undefined> {
  const found = await models.items.findOne({
    where: { projectId: project, id: item },
    transaction,
  });
  const row = found?.get();
  const document = row && readXml(row.text).document;
  const root = document && normalise(document.root);
  const passage = root && nodeAt(root, path);
  if (!row || !root || !isElement(passage) || readableText(passage) !== words) return undefined;
  const { name: type } = root;
  return isTopic(type) ? { row, root, type, passage } : undefined;
}

/** The topic in which the kept wording has its home from now on. */
function homeFor(
  { root, type, passage }: Kept,
  copy: Copy,
  id: string,
  title: string,
): MovedPassages | undefined {
  const ancestors = lineage(root, copy.path).slice(2, -1);
  return movePassages(
    withoutBody(topicTemplate(type, id, title)),
    [{ ...passage, attributes: {} }],
    ancestors.map(({ name }) => name),
    copy.item,
  );
}

/**
 * Makes copies one passage of a new topic, which all of their places borrow, in one transaction.
 * For whom each is, and what else its element says of it, stays at its place: the passage itself
 * has content alone.
 * @returns undefined when the wording that is to be kept is not there any more, or can be lent
 * nowhere
 */
export function copyMerging(
  database: Database,
  items: ItemStore,
  changeTexts: ChangeTexts,
): CopyMerging {
  return (project, { title, copies, kept: index }, author) =>
    changeTexts(project, author, async (texts) => {
      const copy = copies[index];
      const kept = copy && (await keptWording(database, texts, copy));
      if (!copy || !kept) return undefined;
      const id = freeId(title, await items.ids(project), 'topic');
      const home = homeFor(kept, copy, id, title);
      if (!home) return undefined;
      const row = {
        id,
        kind: 'topic' as const,
        folder: kept.row.folder,
        name: `${id}.dita`,
        text: writeCanonical(home.root),
      };
      await items.createAll(project, [row], author, texts.transaction);
      let shared = 0;
      const borrowed = borrowing(id, home.ids);
      const change = (text: Element, item: string): Element =>
        copies
          .filter((one) => one.item === item)
          .toSorted(lastFirst)
          .reduce((changed, { path, words }) => {
            const found = nodeAt(changed, path);
            if (!isElement(found) || found.name !== kept.passage.name) return changed;
            if (readableText(found) !== words) return changed;
            shared += 1;
            const attributes = { ...found.attributes, ...borrowed };
            return replaceAt(changed, path, [element(found.name, attributes)]);
          }, normalise(text));
      await texts.rewrite([...new Set(copies.map(({ item }) => item))], change);
      return { lender: id, shared };
    });
}
