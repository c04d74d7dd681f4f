import { isElement, walk, type Element } from '../markup/index.ts';
import { problem, withFix, type Fix, type Path, type Problem } from '../problems/index.ts';
import type { AttributeDefinition } from './attributes.ts';
import { isKept } from './kept.ts';
import { follows, symbolsIn } from './choices.ts';
import { textSymbol } from './content.ts';
import {
  attributeOf,
  contentOf,
  definitionOf,
  isForeign,
  isTopic,
  labelOf,
  mayContain,
  requiredAttributesOf,
  startOf,
} from './table.ts';
import type { Expression } from './content.ts';

const processorAttributes = /^(xmlns(:|$)|ditaarch:|domains$|specializations$|xsi:)/u;

/**
 * Checks a tree against the content model (OASIS DITA 1.3, part 2).
 * @returns problems `grammar.unknown-element`, `grammar.not-allowed`, `grammar.missing`,
 * `grammar.text`, `grammar.unknown-attribute`, `grammar.attribute-value`,
 * `grammar.missing-attribute`, `grammar.empty-attribute`, `grammar.duplicate-id`, each with its
 * path; never throws
 */
export function validate(root: Element): Problem[] {
  const problems: Problem[] = [];
  // Ids of topics are unique in a text, those of elements in their topic (DITA 1.3, 2.1.3.2).
  const topics = new Set<string>();
  const scopes = [{ depth: -1, ids: new Set<string>() }];
  // The path goes on changing: it is copied where a problem keeps it, and nowhere else.
  walk(root, (found, path) => {
    if (!definitionOf(found.name)) {
      problems.push(
        problem(
          'error',
          'grammar.unknown-element',
          `“${found.name}” is not an element of the content model. It is kept as it is and ` +
            'not published.',
          { path: [...path] },
        ),
      );
      return false;
    }
    checkContent(found, path, problems);
    checkAttributes(found, path, problems);
    const id = found.attributes['id'];
    while (scopes.length > 1 && scopes.at(-1)!.depth >= path.length) scopes.pop();
    const ids = isTopic(found.name) ? topics : scopes.at(-1)!.ids;
    if (isTopic(found.name)) scopes.push({ depth: path.length, ids: new Set() });
    if (id !== undefined && id !== '' && found.name !== 'resourceid') {
      if (ids.has(id))
        problems.push(
          withFix(
            problem(
              'error',
              'grammar.duplicate-id',
              `The id “${id}” is used more than once in this topic.`,
              { path: [...path], attribute: 'id' },
            ),
            withoutAttribute(found, path, 'id'),
          ),
        );
      ids.add(id);
    }
    // Foreign content has its own vocabulary.
    return isForeign(found.name) ? false : undefined;
  });
  return problems;
}

function checkContent(parent: Element, path: Path, problems: Problem[]): void {
  const before = problems.length;
  const parentLabel = labelOf(parent.name);
  let state = startOf(parent.name)!;
  parent.children.forEach((child, index) => {
    if (typeof child === 'string') {
      if (child.trim() === '') return;
      if (mayContain(parent.name, textSymbol)) state = state.next(textSymbol) ?? state;
      else
        problems.push(
          problem(
            'error',
            'grammar.text',
            `Text cannot stand directly in “${parentLabel}”: “${shorten(child.trim())}”.`,
            { path: [...path] },
          ),
        );
      return;
    }
    if (!isElement(child) || !definitionOf(child.name)) return;
    const next = state.next(child.name);
    if (next) {
      state = next;
      return;
    }
    const skipped = state.symbols.find(
      (symbol) => state.next(symbol)?.next(child.name) !== undefined,
    );
    if (skipped !== undefined && skipped !== textSymbol) {
      problems.push(
        problem(
          'error',
          'grammar.missing',
          `“${parentLabel}” needs “${labelOf(skipped)}” before “${labelOf(child.name)}”.`,
          { path: [...path] },
        ),
      );
      state = state.next(skipped)!.next(child.name)!;
      return;
    }
    const where = { path: [...path, index] };
    const label = labelOf(child.name);
    const message = mayContain(parent.name, child.name)
      ? `“${label}” stands at the wrong place in “${parentLabel}”, or once too often.`
      : `“${label}” is not allowed in “${parentLabel}”.`;
    problems.push(
      withFix(
        problem('error', 'grammar.not-allowed', message, where),
        fixOfMisplaced(parent, child, index, where.path),
      ),
    );
  });
  // What a borrowed passage needs stands in the topic that lends it.
  if (!state.complete && problems.length === before && !isBorrowed(parent)) {
    const needed = requiredNext(contentOf(parent.name)!, parent);
    problems.push(
      problem(
        'error',
        'grammar.missing',
        `“${parentLabel}” needs ${needed.map((name) => `“${labelOf(name)}”`).join(' or ')}.`,
        { path: [...path] },
      ),
    );
  }
}

const withoutAttribute = ({ name: element }: Element, path: Path, name: string): Fix => ({
  label: `Remove the attribute “${name}”`,
  edit: { kind: 'attribute', path: [...path], element, name },
});

/**
 * What stands where it may not: its content stays where that may stand there, otherwise an empty
 * one goes.
 */
function fixOfMisplaced(
  parent: Element,
  child: Element,
  index: number,
  path: Path,
): Fix | undefined {
  if (child.children.length === 0)
    return {
      label: `Remove the empty “${labelOf(child.name)}”`,
      edit: { kind: 'remove', path, element: child.name },
    };
  const before = symbolsIn(parent.children.slice(0, index));
  const after = symbolsIn(parent.children.slice(index + 1));
  if (!follows(parent.name, [...before, ...symbolsIn(child.children), ...after])) return undefined;
  return {
    label: `Keep the content without “${labelOf(child.name)}”`,
    edit: { kind: 'unwrap', path, element: child.name },
  };
}

/**
 * The names of which one is still wanted: those of the first required part that no child fulfils.
 */
function requiredNext(expression: Expression, parent: Element): string[] {
  const present = new Set(parent.children.filter(isElement).map((child) => child.name));
  const wanted = (part: Expression): string[] => {
    if (part.kind === 'symbol') return present.has(part.symbol) ? [] : [part.symbol];
    if (part.kind === 'repeat') return part.least === 0 ? [] : wanted(part.part);
    if (part.kind === 'choice') {
      const each = part.parts.map(wanted);
      return each.some((names) => names.length === 0) ? [] : each.flat();
    }
    return part.parts.map(wanted).find((names) => names.length > 0) ?? [];
  };
  const names = wanted(expression);
  return names.length > 0 ? names : startOf(parent.name)!.symbols.slice(0, 3);
}

const isBorrowed = ({ attributes }: Element): boolean =>
  attributes['conref'] !== undefined || attributes['conkeyref'] !== undefined;

function checkAttributes(found: Element, path: Path, problems: Problem[]): void {
  const label = labelOf(found.name);
  for (const [name, value] of Object.entries(found.attributes)) {
    if (processorAttributes.test(name) || isKept(name)) continue;
    const where = { path: [...path], attribute: name };
    const definition = attributeOf(found.name, name);
    if (!definition)
      problems.push(
        withFix(
          problem(
            'warning',
            'grammar.unknown-attribute',
            `“${label}” has no attribute “${name}”. It is kept as it is.`,
            where,
          ),
          withoutAttribute(found, path, name),
        ),
      );
    // Alternative text may be empty on purpose: the image then only decorates (HTML, 4.8.4.4).
    else if (value === '' && name !== 'alt')
      problems.push(
        withFix(
          problem(
            'warning',
            'grammar.empty-attribute',
            `The attribute “${name}” of “${label}” is empty.`,
            where,
          ),
          withoutAttribute(found, path, name),
        ),
      );
    else if (!isValueAllowed(definition, value)) {
      const choice = definition.values ? ` It can be ${definition.values.join(', ')}.` : '';
      problems.push(
        withFix(
          problem(
            'error',
            'grammar.attribute-value',
            `“${shorten(value)}” is not a value for “${name}” of “${label}”.${choice}`,
            where,
          ),
          withoutAttribute(found, path, name),
        ),
      );
    }
  }
  for (const { name } of requiredAttributesOf(found.name)) {
    if (found.attributes[name] === undefined && !isBorrowed(found))
      problems.push(
        problem('error', 'grammar.missing-attribute', `“${label}” needs the attribute “${name}”.`, {
          path: [...path],
          attribute: name,
        }),
      );
  }
}

/**
 * Whether a value can stand in an attribute; an empty one can always be written, and is reported
 * apart.
 */
export function isValueAllowed({ kind, values }: AttributeDefinition, value: string): boolean {
  if (value === '' || value === '-dita-use-conref-target') return true;
  switch (kind) {
    case 'id':
      return /^[\p{L}_][\p{L}\p{N}._-]*$/u.test(value);
    case 'choice':
      return values?.includes(value) ?? true;
    case 'number':
      return /^-?\d+(\.\d+)?$/u.test(value);
    case 'language':
      return /^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/u.test(value);
    default:
      return true;
  }
}

function shorten(text: string): string {
  return text.length > 40 ? `${text.slice(0, 39)}…` : text;
}
