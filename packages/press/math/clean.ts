import { childElements, isElement, readXml, type Element, type Node } from '@ukiyo/core/markup';

const names = (list: string): ReadonlySet<string> => new Set(list.split(' '));

/** Elements that hold characters alone (MathML Core, 3.2 “Token Elements”). */
export const isToken = (name: string): boolean => tokens.has(name);
const tokens = names('mi mn mo mtext ms');

/** Elements of MathML Core that lay a formula out, and those of MathML 3 that can be shown so. */
const layouts = names(
  'math mrow mfrac msqrt mroot mstyle merror mpadded mphantom msub msup msubsup munder mover ' +
    'munderover mmultiscripts mprescripts none mtable mtr mtd mspace',
);
const attributeNames = names(
  'display dir displaystyle scriptlevel mathvariant form fence separator lspace rspace stretchy ' +
    'symmetric maxsize minsize largeop movablelimits accent accentunder linethickness width ' +
    'height depth voffset columnspan rowspan columnalign alttext',
);

/** The name without the prefix that a document may give to MathML. */
const localName = (name: string): string => name.replace(/^[^:]*:/u, '');

const operator = (sign: string): Element => ({
  name: 'mo',
  attributes: { fence: 'true' },
  children: [sign],
});

/** What MathML 3 can say in short, as MathML Core says it at length (MathML 3, 3.3.8 `mfenced`). */
function fenced(element: Element, children: readonly Node[]): Element {
  const { open = '(', close = ')', separators = ',' } = element.attributes;
  const signs = Array.from(separators.replace(/\s/gu, ''));
  const inside = children.flatMap((child, at): Node[] => {
    const sign = signs[Math.min(at, signs.length) - 1];
    return at === 0 || sign === undefined ? [child] : [operator(sign), child];
  });
  return {
    name: 'mrow',
    attributes: {},
    children: [operator(open), ...inside, operator(close)],
  };
}

function cleaned(element: Element): Element | undefined {
  const name = localName(element.name);
  if (name.startsWith('annotation') || name === 'script') return undefined;
  const attributes = Object.fromEntries(
    Object.entries(element.attributes).filter(([one]) => attributeNames.has(one)),
  );
  if (isToken(name)) {
    const text = element.children.filter((child) => typeof child === 'string').join('');
    return { name, attributes, children: [text.replace(/\s+/gu, ' ').trim()] };
  }
  const children = childElements(element).flatMap((child) => cleaned(child) ?? []);
  // Of several ways to say the same, and of what changes when it is clicked, the first is shown.
  if (name === 'semantics' || name === 'maction') return children[0];
  if (name === 'mfenced') return fenced(element, children);
  return layouts.has(name)
    ? { name, attributes, children }
    : { name: 'mrow', attributes: {}, children };
}

const mathNamespace = 'http://www.w3.org/1998/Math/MathML';

/** Whether an element is a formula in MathML, with a prefix or without. */
const isMath = (node: Node): node is Element => isElement(node) && localName(node.name) === 'math';

/**
 * A formula as MathML Core, without prefixes and without anything that could act or fetch.
 * @param isDisplay whether it stands on a line of its own
 */
export function cleanMath(math: Element, isDisplay: boolean): Element {
  const { attributes, children } = cleaned(math) ?? { attributes: {}, children: [] };
  const display = isDisplay ? { display: 'block' } : {};
  return {
    name: 'math',
    attributes: { ...attributes, ...display, xmlns: mathNamespace },
    children,
  };
}

/**
 * The formula of a `mathml` element: in it, or in the file that it names.
 * @param fileText gives the text of a file by its id
 * @returns undefined where there is no formula
 */
export function mathIn(
  { children }: Element,
  fileText: (id: string) => string | undefined,
): Element | undefined {
  const own = children.find(isMath);
  if (own) return own;
  const reference = children.find(isElement);
  const text = fileText((reference?.attributes['href'] ?? '').slice('asset:'.length));
  const root = text === undefined ? undefined : readXml(text).document?.root;
  return root && isMath(root) ? root : undefined;
}
