import {
  generate,
  ident,
  parse,
  walk,
  type CssNode,
  type List,
  type ListItem,
  type Value,
} from 'css-tree';

/** Addresses within the drawing, and images that it carries itself. */
export const isLocalReference = (address: string): boolean =>
  /^\s*(?:#|data:image\/(?:png|jpeg|gif|webp);base64,)/iu.test(address);

/**
 * Functions that load something named by a string or draw what is elsewhere (CSS Images 4), and
 * those of old browsers that run code.
 */
const fetchingFunctions = new Set(
  (
    'url src image image-set -webkit-image-set cross-fade -webkit-cross-fade element paint ' +
    'expression'
  ).split(' '),
);
const actingProperties = new Set(['behavior', '-moz-binding']);

/** Names can be written with escapes (CSS Syntax 3, 4.3.7): `@\69mport` is `@import`. */
const plainName = (name: string): string => ident.decode(name).toLowerCase();

function isSafeValue(value: Value | CssNode): boolean {
  let isSafe = true;
  walk(value, (node) => {
    // What the parser did not understand, a browser may.
    if (node.type === 'Raw') isSafe = false;
    if (node.type === 'Url' && !isLocalReference(node.value)) isSafe = false;
    if (node.type === 'Function' && fetchingFunctions.has(plainName(node.name))) isSafe = false;
  });
  return isSafe;
}

/**
 * The part of a style sheet, or of a list of declarations, that only draws. Everything that loads,
 * imports or cannot be understood is left out, and what remains is written anew from its tree, so
 * that no spelling passes by.
 */
export function safeStyles(text: string, context: 'stylesheet' | 'declarationList'): string {
  const tree = parse(text, { context, parseCustomProperty: true });
  walk(tree, {
    enter(node: CssNode, item: ListItem<CssNode>, list: List<CssNode> | null) {
      if (!list) return;
      const isUnsafe =
        node.type === 'Raw' ||
        (node.type === 'Atrule' && plainName(node.name) !== 'media') ||
        (node.type === 'Declaration' &&
          (actingProperties.has(plainName(node.property)) || !isSafeValue(node.value))) ||
        (node.type === 'Rule' && node.prelude.type === 'Raw');
      if (isUnsafe) list.remove(item);
    },
  });
  return generate(tree);
}

/** Whether a presentation attribute, such as `fill="url(#hatch)"`, loads nothing. */
export function isSafeAttribute(value: string): boolean {
  // Nothing can be called without a bracket, and no bracket be hidden without a backslash.
  if (!/[(\\]/u.test(value)) return true;
  try {
    return isSafeValue(parse(value, { context: 'value' }));
  } catch {
    return false;
  }
}
