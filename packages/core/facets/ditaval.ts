import {
  childElements,
  childNamed,
  element,
  lineOf,
  readXml,
  writeXml,
  type Element,
} from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import type { Lens, LensAction, LensRule } from './lens.ts';
import type { MarkLook } from './looks.ts';

const actions: Record<string, LensAction> = {
  include: 'keep',
  passthrough: 'keep',
  exclude: 'drop',
  flag: 'mark',
};
const written: Record<LensAction, string> = { keep: 'include', drop: 'exclude', mark: 'flag' };

const hexColour = /^#[\da-f]{6}$/iu;
/** The standard has change bars for `rev` only; with other attributes this class says so. */
const barClass = 'change-bar';

function readLook(prop: Element, report: (message: string) => void): MarkLook | undefined {
  const { color, backcolor, outputclass } = prop.attributes;
  const words = (name: string): string | undefined => {
    const flag = childNamed(prop, name);
    const text = flag && childNamed(flag, 'alt-text');
    return text ? lineOf(text) : undefined;
  };
  const colour = (value: string | undefined): string | undefined => {
    if (value === undefined || hexColour.test(value)) return value?.toLowerCase();
    report(`the colour “${value}”, which is not written as #rrggbb`);
    return undefined;
  };
  const parts = {
    color: colour(color),
    background: colour(backcolor),
    bar: outputclass === barClass || undefined,
    start: words('startflag'),
    end: words('endflag'),
  };
  const said = Object.entries(parts).filter(([, value]) => value !== undefined && value !== '');
  return said.length === 0 ? undefined : Object.fromEntries(said);
}

/**
 * Reads a DITAVAL document (DITA 1.3, 3.10). Of several rules for the same value the first holds.
 * Problems: `ditaval.unreadable`, `ditaval.unknown-action`, `ditaval.unknown-look`,
 * `ditaval.conflict`, and those of the XML reader.
 */
export function readDitaval(
  name: string,
  text: string,
): { lens?: Lens; problems: readonly Problem[] } {
  const { document, problems } = readXml(text);
  if (!document) return { problems };
  if (document.root.name !== 'val')
    return {
      problems: [
        problem(
          'error',
          'ditaval.unreadable',
          `“${name}” is not a lens file: its root element is “${document.root.name}”, not “val”.`,
        ),
      ],
    };
  const found: Problem[] = [];
  const seen = new Map<string, LensAction>();
  const rules = childElements(document.root)
    .filter((child) => child.name === 'prop')
    .flatMap((prop): LensRule[] => {
      const action = actions[prop.attributes['action'] ?? ''];
      if (!action) {
        found.push(
          problem(
            'warning',
            'ditaval.unknown-action',
            `“${name}” has a rule with the unknown action ` +
              `“${prop.attributes['action'] ?? ''}”. The rule is left out.`,
          ),
        );
        return [];
      }
      const { att, val } = prop.attributes;
      const look =
        action === 'mark'
          ? readLook(prop, (what) =>
              found.push(
                problem(
                  'warning',
                  'ditaval.unknown-look',
                  `“${name}” has ${what}. It is left out.`,
                ),
              ),
            )
          : undefined;
      const rule: LensRule = {
        ...(att === undefined ? {} : { facet: att }),
        ...(val === undefined ? {} : { value: val }),
        action,
        ...(look ? { look } : {}),
      };
      const key = JSON.stringify([att, val]);
      const earlier = seen.get(key);
      seen.set(key, earlier ?? action);
      if (earlier === undefined) return [rule];
      if (earlier !== action)
        found.push(
          problem(
            'warning',
            'ditaval.conflict',
            `“${name}” decides twice on ` +
              `${val ?? 'the rest'}${att === undefined ? '' : ` of ${att}`}: ` +
              `${written[earlier]} and ${written[action]}. The first holds.`,
          ),
        );
      return [];
    });
  return { lens: { name, rules }, problems: found };
}

const flag = (name: string, words: string | undefined): Element[] =>
  words === undefined ? [] : [element(name, {}, [element('alt-text', {}, [words])])];

export function writeDitaval(lens: Lens): string {
  const props = lens.rules.map(({ facet, value, action, look = {} }) =>
    element(
      'prop',
      {
        ...(facet === undefined ? {} : { att: facet }),
        ...(value === undefined ? {} : { val: value }),
        action: written[action],
        ...(look.color === undefined ? {} : { color: look.color }),
        ...(look.background === undefined ? {} : { backcolor: look.background }),
        ...(look.bar === true ? { outputclass: barClass } : {}),
      },
      [...flag('startflag', look.start), ...flag('endflag', look.end)],
    ),
  );
  return writeXml(element('val', {}, props), (one) => one.name !== 'alt-text');
}
