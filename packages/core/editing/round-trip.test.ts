import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  isInline,
  isTopic,
  mayContain,
  normalise,
  topicKinds,
  validate,
  writeCanonical,
} from '../grammar/index.ts';
import { element, type Element } from '../markup/index.ts';
import { anyElement } from '../testing/index.ts';
import { editableElements } from './names.ts';
import { blockToElement } from './from-editor.ts';
import { fromEditor, special, toEditor } from './index.ts';
import { blockFrom } from './to-editor.ts';

/** Every element that the editor opens, each for itself. */
describe('every element', () => {
  const names = editableElements().filter((name) => !isTopic(name));
  const through = (block: Element): Element => {
    const node = blockFrom(block);
    return node.type.name === special.rawBlock
      ? (node.attrs['node'] as Element)
      : blockToElement(node);
  };
  it.each(names)('%s comes back to the letter', (name) => {
    for (const sample of fc.sample(anyElement(name, 3), { numRuns: 12, seed: 7 })) {
      const block = normalise(
        isInline(name) && mayContain('p', name) ? element('p', {}, [sample]) : sample,
      );
      expect(writeCanonical(through(block))).toBe(writeCanonical(block));
    }
  });
});

/**
 * Closed blocks stand for what the grammar allows and the editor does not open; valid content needs
 * no others.
 */
describe('any valid topic', () => {
  it('comes back from the editor to the letter', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...topicKinds).chain((kind) => anyElement(kind, 4)),
        (root) => {
          const canonical = normalise(root);
          const document = toEditor(canonical);
          document.check();
          expect(writeCanonical(fromEditor(document))).toBe(writeCanonical(canonical));
        },
      ),
      { numRuns: 200 },
    );
  });

  it('stays valid when a node is taken out or doubled where the schema allows it', () => {
    fc.assert(
      fc.property(anyElement('task', 3), fc.nat(), fc.boolean(), (root, seed, doubles) => {
        const document = toEditor(normalise(root));
        // A closed block may stand anywhere, so that nothing is ever lost; where it should not,
        // validation says so.
        const places: { position: number; size: number; parent: typeof document; index: number }[] =
          [];
        document.descendants((node, position, parent, index) => {
          if (parent && node.isBlock && node.type.name !== special.rawBlock)
            places.push({ position, size: node.nodeSize, parent, index });
        });
        const place = places[seed % Math.max(1, places.length)];
        fc.pre(place !== undefined);
        const { position, size, parent, index } = place;
        const node = parent.child(index);
        fc.pre(
          doubles
            ? parent.canReplaceWith(index, index, node.type)
            : parent.canReplace(index, index + 1),
        );
        const changed = doubles
          ? document.replace(position, position, document.slice(position, position + size))
          : document.replace(position, position + size, document.slice(0, 0));
        changed.check();
        const before = validate(fromEditor(document)).filter(
          ({ code }) => code !== 'grammar.duplicate-id',
        );
        const after = validate(fromEditor(changed)).filter(
          ({ code }) => code !== 'grammar.duplicate-id',
        );
        expect(after.length).toBeLessThanOrEqual(before.length);
      }),
      { numRuns: 200 },
    );
  });
});
