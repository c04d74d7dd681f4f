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
import { letterLooks, type ClashLook, type LetterLook, type MarkLook } from './looks.ts';

const actions: Record<string, LensAction> = {
  include: 'keep',
  passthrough: 'keep',
  noflag: 'keep',
  exclude: 'drop',
  flag: 'mark',
};
const written: Record<LensAction, string> = { keep: 'include', drop: 'exclude', mark: 'flag' };

/** The names of colours that a DITAVAL file may use, and what they are (HTML 4.01, 6.5). */
const colourNames: Readonly<Record<string, string>> = {
  aqua: '#00ffff',
  black: '#000000',
  blue: '#0000ff',
  fuchsia: '#ff00ff',
  gray: '#808080',
  green: '#008000',
  lime: '#00ff00',
  maroon: '#800000',
  navy: '#000080',
  olive: '#808000',
  purple: '#800080',
  red: '#ff0000',
  silver: '#c0c0c0',
  teal: '#008080',
  white: '#ffffff',
  yellow: '#ffff00',
};
const hexColour = /^#[\da-f]{6}$/iu;
/** The standard has change bars for `rev` only; with other attributes this class says so. */
const barClass = 'change-bar';
/** The attribute of revisions, by which is marked and never filtered. */
const revisions = 'rev';

function readColour(
  value: string | undefined,
  report: (message: string) => void,
): string | undefined {
  if (value === undefined || hexColour.test(value)) return value?.toLowerCase();
  const named = colourNames[value.toLowerCase()];
  if (named === undefined)
    report(`the colour “${value}”, which is neither #rrggbb nor the name of a colour`);
  return named;
}

/** The colours of what is marked in several (DITA 1.3, 3.10.6 `style-conflict`). */
function readClash(root: Element, report: (message: string) => void): ClashLook | undefined {
  const said = childNamed(root, 'style-conflict')?.attributes;
  const color = readColour(said?.['foreground-conflict-color'], report);
  const background = readColour(said?.['background-conflict-color'], report);
  return color === undefined && background === undefined
    ? undefined
    : {
        ...(color === undefined ? {} : { color }),
        ...(background === undefined ? {} : { background }),
      };
}

function readLook(prop: Element, report: (message: string) => void): MarkLook | undefined {
  const { color, backcolor, outputclass, changebar, style = '' } = prop.attributes;
  const flagOf = (
    name: string,
  ): readonly [words: string | undefined, image: string | undefined] => {
    const flag = childNamed(prop, name);
    const text = flag && childNamed(flag, 'alt-text');
    return [text && lineOf(text), flag?.attributes['imageref']];
  };
  const [start, startImage] = flagOf('startflag');
  const [end, endImage] = flagOf('endflag');
  const parts = {
    color: readColour(color, report),
    background: readColour(backcolor, report),
    bar: outputclass === barClass || changebar !== undefined || undefined,
    letters: readLetters(style, report),
    start,
    end,
    startImage,
    endImage,
  };
  const said = Object.entries(parts).filter(([, value]) => value !== undefined && value !== '');
  return said.length === 0 ? undefined : Object.fromEntries(said);
}

function readLetters(
  style: string,
  report: (message: string) => void,
): readonly LetterLook[] | undefined {
  const found = style
    .split(/\s+/u)
    .filter((word) => word !== '')
    .flatMap((word) => {
      const known = letterLooks.find((one) => one === word || `${one}s` === word);
      if (!known) report(`the style “${word}”, which is not known`);
      return known ?? [];
    });
  return found.length === 0 ? undefined : found;
}

/**
 * The lens with the images of its marks under other addresses.
 * @param addressOf undefined for an image that is not there: it is left out
 */
export function withFlagImages<Named extends Lens>(
  lens: Named,
  addressOf: (image: string) => string | undefined,
): Named {
  const changed = (look: MarkLook): MarkLook => {
    const { startImage, endImage, ...rest } = look;
    const [start, end] = [startImage, endImage].map((image) =>
      image === undefined ? undefined : addressOf(image),
    );
    return {
      ...rest,
      ...(start === undefined ? {} : { startImage: start }),
      ...(end === undefined ? {} : { endImage: end }),
    };
  };
  const rules = lens.rules.map((rule) =>
    rule.look ? { ...rule, look: changed(rule.look) } : rule,
  );
  return { ...lens, rules };
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
  const reportLook = (what: string): void =>
    void found.push(
      problem('warning', 'ditaval.unknown-look', `“${name}” has ${what}. It is left out.`),
    );
  const clash = readClash(document.root, reportLook);
  const seen = new Map<string, LensAction>();
  const rules = childElements(document.root)
    .filter(({ name: kind }) => kind === 'prop' || kind === 'revprop')
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
      const { val } = prop.attributes;
      const att = prop.name === 'revprop' ? revisions : prop.attributes['att'];
      const look = action === 'mark' ? readLook(prop, reportLook) : undefined;
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
  return { lens: { name, rules, ...(clash ? { clash } : {}) }, problems: found };
}

const flag = (name: string, words: string | undefined, image: string | undefined): Element[] =>
  words === undefined && image === undefined
    ? []
    : [
        element(
          name,
          image === undefined ? {} : { imageref: image },
          words === undefined ? [] : [element('alt-text', {}, [words])],
        ),
      ];

export function writeDitaval(lens: Lens): string {
  const props = lens.rules.map(({ facet, value, action, look = {} }) => {
    const isRevision = facet === revisions;
    const bar = isRevision ? { changebar: 'solid' } : { outputclass: barClass };
    return element(
      isRevision ? 'revprop' : 'prop',
      {
        ...(facet === undefined || isRevision ? {} : { att: facet }),
        ...(value === undefined ? {} : { val: value }),
        action: written[action],
        ...(look.color === undefined ? {} : { color: look.color }),
        ...(look.background === undefined ? {} : { backcolor: look.background }),
        ...(look.letters === undefined ? {} : { style: look.letters.join(' ') }),
        ...(look.bar === true ? bar : {}),
      },
      [
        ...flag('startflag', look.start, look.startImage),
        ...flag('endflag', look.end, look.endImage),
      ],
    );
  });
  const { color, background } = lens.clash ?? {};
  const clash = lens.clash
    ? [
        element('style-conflict', {
          ...(color === undefined ? {} : { 'foreground-conflict-color': color }),
          ...(background === undefined ? {} : { 'background-conflict-color': background }),
        }),
      ]
    : [];
  return writeXml(element('val', {}, [...clash, ...props]), (one) => one.name !== 'alt-text');
}
