import fc from 'fast-check';
import { contentKindOf, contentOf, isInline, isPhrase, type Expression } from '../grammar/index.ts';
import { element, type Element, type Node } from '../markup/index.ts';

const wording = fc
  .stringMatching(/^[a-zA-Zäöß語م&<>"' ]{1,12}$/u)
  .filter((text) => text.trim() !== '');
const id = fc.option(fc.stringMatching(/^[a-z]{3,10}$/u), { nil: undefined, freq: 4 });
const facet = fc.option(fc.constantFrom('installer', 'operator', 'installer operator'), {
  nil: undefined,
  freq: 4,
});

/** Elements whose random content would say nothing, or that have required attributes. */
const avoided = new Set([
  'foreign',
  'data',
  'unknown',
  'object',
  'imagemap',
  'table',
  'choicetable',
  'properties',
  'state',
  'boolean',
  'tm',
  'abbreviated-form',
  'area',
  'coderef',
  'required-cleanup',
  'indexterm',
  'image',
  'prolog',
  'related-links',
  'titlealts',
]);

/** Made only when it is chosen: the grammar is recursive. */
const later = <Value>(make: () => fc.Arbitrary<Value>): fc.Arbitrary<Value> =>
  fc.constant(undefined).chain(make);

/** Random children that a content expression allows. */
function childrenFor(expression: Expression, depth: number): fc.Arbitrary<Node[]> {
  if (expression.kind === 'symbol') {
    if (expression.symbol === '#text') return wording.map((text) => [text]);
    return avoided.has(expression.symbol)
      ? fc.constant([])
      : later(() => anyElement(expression.symbol, depth - 1)).map((one) => [one]);
  }
  if (expression.kind === 'repeat') {
    const most = depth <= 0 ? expression.least : expression.most === 1 ? 1 : 3;
    return fc
      .array(
        later(() => childrenFor(expression.part, depth)),
        { minLength: expression.least, maxLength: Math.max(most, expression.least) },
      )
      .map((parts) => parts.flat());
  }
  if (expression.kind === 'sequence')
    return fc
      .tuple(...expression.parts.map((part) => childrenFor(part, depth)))
      .map((parts) => parts.flat());
  const usable = expression.parts.filter(
    (part) =>
      part.kind !== 'symbol' ||
      (!avoided.has(part.symbol) &&
        (depth > 1 || part.symbol === '#text' || isPhrase(part.symbol))),
  );
  return fc
    .constantFrom(...(usable.length > 0 ? usable : expression.parts.slice(0, 1)))
    .chain((part) => childrenFor(part, depth));
}

/** A random valid element of a name; `depth` bounds how far it nests. */
export function anyElement(name: string, depth = 5): fc.Arbitrary<Element> {
  const content = contentOf(name);
  if (!content) throw new Error(`No such element: ${name}`);
  const holdsText = contentKindOf(name) === 'text' || contentKindOf(name) === 'flow';
  const inner =
    depth <= 0 && holdsText ? wording.map((text): Node[] => [text]) : childrenFor(content, depth);
  const attributes = isInline(name) ? fc.constant({}) : fc.record({ id, audience: facet });
  return fc
    .tuple(attributes, inner)
    .map(([given, children]) =>
      element(
        name,
        Object.fromEntries(
          Object.entries(given).filter((pair): pair is [string, string] => pair[1] !== undefined),
        ),
        children,
      ),
    );
}
