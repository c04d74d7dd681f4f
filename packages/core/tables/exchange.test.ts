import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { EditorState, TextSelection } from 'prosemirror-state';
import { expect, it } from 'vitest';
import { changeTableAt, fromEditor, newTable, toEditor, usualTable } from '../editing/index.ts';
import { writeCanonical } from '../grammar/index.ts';
import { element, findAll, type Element } from '../markup/index.ts';
import { tableChanges } from './index.ts';

/**
 * OASIS XML Exchange Table Model (TR 9901:1999), as Debian's docbook-xml 4.5 ships it. What a cell
 * may hold is left to each document type by the model.
 */
const model = '/usr/share/xml/docbook/schema/dtd/4.5/soextblx.dtd';
const folder = mkdtempSync(join(tmpdir(), 'ukiyo-exchange-'));
const documentType = `<!DOCTYPE all [
<!ELEMENT all (table*)>
<!ELEMENT title (#PCDATA)>
<!ELEMENT p (#PCDATA)>
<!ENTITY % titles 'title?'>
<!ENTITY % tbl.entry.mdl '#PCDATA | p'>
<!ENTITY % exchange SYSTEM "${model}">
%exchange;
]>`;

const tablesOf = (root: Element): Element[] => findAll(root, ({ name }) => name === 'table');
/** What xmllint has against the tables; empty when it has nothing. */
function objections(tables: readonly Element[]): string {
  const file = join(folder, 'tables.xml');
  writeFileSync(
    file,
    `${documentType}\n<all>\n${tables
      .map(writeCanonical)
      .map((text) => text.replace(/^<\?xml[^>]*\?>\s*/u, ''))
      .join('\n')}\n</all>`,
  );
  return spawnSync('xmllint', ['--noout', '--valid', '--nonet', file], { encoding: 'utf8' }).stderr;
}

it('finds what is not of the model', () => {
  expect(execFileSync('xmllint', ['--version'], { stdio: 'pipe' }).toString()).toBeDefined();
  expect(objections([element('table', {}, [element('tgroup', {}, [element('tbody')])])])).toMatch(
    /tbody|cols/u,
  );
});

it('every table that the editor writes is one of the model, after whatever was done to it', () => {
  const written: Element[] = [];
  fc.assert(
    fc.property(
      fc.record({
        rows: fc.integer({ min: 1, max: 4 }),
        columns: fc.integer({ min: 1, max: 4 }),
        hasHead: fc.boolean(),
      }),
      fc.array(fc.tuple(fc.constantFrom(...tableChanges), fc.nat()), { maxLength: 15 }),
      (shape, acts) => {
        const concept = element('concept', { id: 'c' }, [
          element('title', {}, ['T']),
          element('conbody'),
        ]);
        const empty = toEditor(concept);
        const body = empty.content.size - 3;
        let state = EditorState.create({ doc: empty });
        state = state.apply(
          state.tr.insert(body + 1, newTable({ ...usualTable, ...shape, title: 'Tides' })),
        );
        for (const [change, seed] of acts) {
          const cells: number[] = [];
          state.doc.descendants(
            (node, position) => void (node.type.spec.element === 'entry' && cells.push(position)),
          );
          const at = cells[seed % cells.length]!;
          state = state.apply(
            state.tr
              .setSelection(TextSelection.near(state.doc.resolve(at + 1)))
              .insertText(String(seed % 9)),
          );
          const changed = changeTableAt(state, change);
          if (changed) state = state.apply(changed);
        }
        written.push(...tablesOf(fromEditor(state.doc)));
      },
    ),
    { numRuns: 150 },
  );
  expect(written.length).toBeGreaterThanOrEqual(150);
  expect(objections(written)).toBe('');
});
