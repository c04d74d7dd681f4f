import type { CopySharing } from '@ukiyo/contracts';
import { isTopic, normalise, topicTemplate, writeCanonical } from '@ukiyo/core/grammar';
import { borrowing, freeId, lend, readableText, withoutBody } from '@ukiyo/core/library';
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
import type { Database } from './database.ts';
import type { ItemStore } from './items.ts';
import { retryOnConflict, type Rewritten, type TextRewriting } from './rewriting.ts';

export interface CopiesShared {
  readonly lender: string;
  readonly changed: Rewritten;
  /** How many copies borrow now; one that has changed meanwhile stays as it is. */
  readonly shared: number;
}
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

/**
 * Makes copies one passage of a new topic, which all of their places borrow, in one transaction.
 * For whom each is, and what else its element says of it, stays at its place: the passage itself
 * has content alone.
 * @returns undefined when the wording that is to be kept is not there any more, or can be lent
 * nowhere
 */
export function copyMerging(
  { sequelize, models }: Database,
  items: ItemStore,
  rewrite: TextRewriting,
): CopyMerging {
  return (project, { title, copies, kept }, author) =>
    retryOnConflict(() =>
      sequelize.transaction(async (transaction) => {
        const home = copies[kept];
        const row =
          home &&
          (
            await models.items.findOne({
              where: { projectId: project, id: home.item },
              transaction,
            })
          )?.get();
        const document = row && readXml(row.text).document;
        const root = document && normalise(document.root);
        const passage = root && home && nodeAt(root, home.path);
        if (
          !row ||
          !isElement(passage) ||
          !isTopic(root!.name) ||
          readableText(passage) !== home.words
        )
          return undefined;
        const lender = freeId(title, await items.ids(project), 'topic');
        const around = lineage(root!, home.path).slice(2, -1);
        const lent = lend(
          withoutBody(topicTemplate(root!.name, lender, title)),
          [{ ...passage, attributes: {} }],
          around.map(({ name }) => name),
          home.item,
        );
        if (!lent) return undefined;
        await items.createAll(
          project,
          [
            {
              id: lender,
              kind: 'topic',
              folder: row.folder,
              name: `${lender}.dita`,
              text: writeCanonical(lent.root),
            },
          ],
          author,
          transaction,
        );
        let shared = 0;
        const borrowed = borrowing(lender, lent.ids);
        const change = (text: Element, id: string): Element =>
          copies
            .filter(({ item }) => item === id)
            .toSorted(lastFirst)
            .reduce((changed, { path, words }) => {
              const copy = nodeAt(changed, path);
              if (!isElement(copy) || copy.name !== passage.name || readableText(copy) !== words)
                return changed;
              shared += 1;
              return replaceAt(changed, path, [
                element(copy.name, { ...copy.attributes, ...borrowed }),
              ]);
            }, normalise(text));
        const changed = await rewrite(
          project,
          [...new Set(copies.map(({ item }) => item))],
          change,
          author,
          transaction,
        );
        return { lender, changed, shared };
      }),
    );
}
