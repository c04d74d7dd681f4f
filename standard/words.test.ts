import fc from 'fast-check';
import { format, resolveConfig } from 'prettier';
import { describe, expect, it } from 'vitest';
import { definitionOf, writeCanonical } from '@ukiyo/core/grammar';
import { isElement, type Element, type Node } from '@ukiyo/core/markup';
import { anyElement } from '@ukiyo/core/testing';
import { textOf } from './reading.ts';
import { publish } from './road.ts';
import { attributeRows, standardTable, standingOf } from './standing.ts';

/** The same tree in which every text is a number of its own, and no element has a condition. */
function numbered(root: Element): {
  readonly root: Element;
  readonly shown: ReadonlyMap<string, string>;
} {
  let next = 10_000;
  /** The words that are to be shown, with the elements around them. */
  const shown = new Map<string, string>();
  const change = (node: Node, isShown: boolean, around: readonly string[]): Node => {
    if (typeof node === 'string') {
      const word = `${(next += 1)}`;
      if (isShown) shown.set(word, around.join('/'));
      return ` ${word} `;
    }
    if (!isElement(node)) return node;
    const definition = definitionOf(node.name);
    // What is said of the target of a link, or of a video, is no text of its own.
    const isAside = node.name === 'desc' && ['xref', 'object'].includes(around.at(-1) ?? '');
    const inside =
      isShown && !isAside && definition !== undefined && standingOf(definition) === 'shown';
    const within = [...around, node.name];
    return { ...node, children: node.children.map((child) => change(child, inside, within)) };
  };
  return { root: change(root, true, []) as Element, shown };
}

describe('every word of a text (rule: nothing is lost silently)', () => {
  it('is shown on a site and on paper, for any elements', async () => {
    const kind = fc.constantFrom('topic', 'concept', 'task', 'reference', 'troubleshooting');
    await fc.assert(
      fc.asyncProperty(fc.gen(), kind, async (gen, name) => {
        const { root, shown } = numbered(gen(anyElement, name, 4));
        const { pages, manual, problems } = await publish({
          section: '',
          files: { 'a.dita': writeCanonical({ ...root, attributes: { id: 'a' } }) },
        });
        // What cannot be shown is reported.
        const isReported = problems.some((code) => /^(content|borrow)\./u.test(code));
        const site = pages.map(({ content }) => textOf(content)).join(' ');
        const paper = manual.text;
        const missing = [...shown].flatMap(([word, around]) => [
          ...(site.includes(word) ? [] : [`site: ${word} in ${around}`]),
          ...(paper.includes(word) ? [] : [`paper: ${word} in ${around}`]),
        ]);
        expect(isReported ? [] : missing).toEqual([]);
      }),
      // The same texts each time; a large counterexample says where words are missing.
      { numRuns: 40, endOnFailure: true, seed: 20_261_201 },
    );
  }, 120_000);
});

describe('the table of the standard', () => {
  it('says what each attribute does', () => {
    expect(attributeRows().filter(([, effect]) => effect === undefined)).toEqual([]);
  });
  it('is the one in the documents', async () => {
    const options = { ...(await resolveConfig('docs/standard.md')), parser: 'markdown' };
    await expect(await format(standardTable(), options)).toMatchFileSnapshot('../docs/standard.md');
  });
});
