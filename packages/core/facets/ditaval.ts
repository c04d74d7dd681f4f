import { childElements, element, readXml, writeXml } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import type { Lens, LensAction, LensRule } from './lens.ts';

const actions: Record<string, LensAction> = { include: 'keep', passthrough: 'keep', exclude: 'drop', flag: 'mark' };
const written: Record<LensAction, string> = { keep: 'include', drop: 'exclude', mark: 'flag' };

/** Reads a DITAVAL document (DITA 1.3, 3.10). Problems: `ditaval.unreadable`, `ditaval.unknown-action`, and those of the XML reader. */
export function readDitaval(name: string, text: string): { lens?: Lens; problems: readonly Problem[] } {
  const { document, problems } = readXml(text);
  if (!document) return { problems };
  if (document.root.name !== 'val') return { problems: [problem('error', 'ditaval.unreadable', `“${name}” is not a lens file: its root element is “${document.root.name}”, not “val”.`)] };
  const found: Problem[] = [];
  const rules = childElements(document.root)
    .filter((child) => child.name === 'prop')
    .flatMap(({ attributes }): LensRule[] => {
      const action = actions[attributes['action'] ?? ''];
      if (!action) {
        found.push(problem('warning', 'ditaval.unknown-action', `“${name}” has a rule with the unknown action “${attributes['action'] ?? ''}”. The rule is left out.`));
        return [];
      }
      const { att, val } = attributes;
      return [{ ...(att === undefined ? {} : { facet: att }), ...(val === undefined ? {} : { value: val }), action }];
    });
  return { lens: { name, rules }, problems: found };
}

export function writeDitaval(lens: Lens): string {
  const props = lens.rules.map(({ facet, value, action }) =>
    element('prop', { ...(facet === undefined ? {} : { att: facet }), ...(value === undefined ? {} : { val: value }), action: written[action] }),
  );
  return writeXml(element('val', {}, props), (one) => one.name === 'val');
}
