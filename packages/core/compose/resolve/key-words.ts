import { isA } from '../../grammar/index.ts';
import { readReference, type FoundElement } from '../../library/index.ts';
import {
  childNamed,
  isElement,
  lineOf,
  type Attributes,
  type Element,
  type Node,
} from '../../markup/index.ts';
import { definitionsByReader, lookUpKey, type DefinedKey } from '../keys.ts';
import type { ResolvedElement } from '../publication.ts';
import { termForms } from './abbreviations.ts';
import type { Gathering } from './gathering.ts';
import { mustLead } from './links.ts';
import { originOf, withAudience, type Cursor } from './resolved.ts';

/** Whether the key of an element names a file, not its words. */
const isKeyedFile = (name: string): boolean => isA(name, 'image') || name === 'object';

/** A link says its words in an element of their own; a description is none of them. */
const hasOwnWords = ({ name, children }: Element): boolean =>
  children.some((child) =>
    name === 'link'
      ? isElement(child) && child.name === 'linktext'
      : !isElement(child) || child.name !== 'desc',
  );

/** What elements say by their keys (DITA 1.3, 2.4.4.6). */
export class KeyWords {
  readonly #gathering: Gathering;
  readonly #resolve: (nodes: readonly Node[], cursor: Cursor) => Node[];

  /** @param resolve resolves the nodes of a definition where it stands */
  constructor(gathering: Gathering, resolve: (nodes: readonly Node[], cursor: Cursor) => Node[]) {
    this.#gathering = gathering;
    this.#resolve = resolve;
  }

  /** What its key says where it has no words of its own; undefined where it says nothing. */
  of(element: Element, attributes: Attributes, cursor: Cursor): readonly Node[] | undefined {
    const key = attributes['keyref']?.split('/')[0];
    if (key === undefined || isKeyedFile(element.name) || hasOwnWords(element)) return undefined;
    const { context, why } = this.#gathering;
    const origin = originOf(cursor);
    const set = context.variables[key];
    if (set !== undefined) {
      why.push({ kind: 'replaced', origin, detail: `${key} is set by the edition` });
      return [set];
    }
    const isLink = mustLead(element.name);
    const definition = lookUpKey(context.scope, key);
    if (!definition) {
      // Of a link that is said where its target is looked for.
      if (isLink) return undefined;
      this.#gathering.report(
        'error',
        'key.undefined',
        `The variable “${key}” is not defined in this publication.`,
        origin,
      );
      return [`[${key}]`];
    }
    if (cursor.keys.includes(key)) {
      this.#gathering.report('error', 'key.cycle', `The variable “${key}” uses itself.`, origin);
      return [`[${key}]`];
    }
    why.push({ kind: 'replaced', origin, detail: key });
    const words = this.#wordsOf(definition, { ...cursor, keys: [...cursor.keys, key] }, isLink);
    return words && element.name === 'link'
      ? [{ name: 'linktext', attributes: {}, children: words }]
      : words;
  }

  /**
   * The text of a definition, or of several of which each is for some readers.
   * @param isLink whether what it leads to says its title itself
   */
  #wordsOf(definition: DefinedKey, cursor: Cursor, isLink: boolean): readonly Node[] | undefined {
    const wordsOf = (
      one: Pick<DefinedKey, 'text' | 'linkText' | 'href' | 'origin'>,
    ): readonly Node[] | undefined => {
      const { borrowing, keys } = cursor;
      const leads = one.href !== undefined;
      const text = isLink ? (one.linkText ?? (leads ? undefined : one.text)) : one.text;
      if (text) return this.#resolve(text, { ...one.origin, borrowing, keys });
      return isLink ? undefined : this.#titleOf(one.href, one.origin.item);
    };
    const given = definitionsByReader(definition);
    if (given.length === 1) return wordsOf(definition);
    const made = given.flatMap(({ definition: one, when }) => {
      const children = wordsOf(one);
      const phrase = { name: 'ph', attributes: {}, origin: originOf(cursor) };
      return children ? [withAudience({ ...phrase, children }, when)] : [];
    });
    return isLink && made.length === 0 ? undefined : made;
  }

  /** What a short form says first and from then on, by the glossary entry that its key names. */
  formsOf(
    attributes: Attributes,
    cursor: Cursor,
  ): Partial<Pick<ResolvedElement, 'children' | 'firstForm'>> {
    const reference = this.#gathering.keyTarget(attributes['keyref'] ?? '');
    const id = reference?.kind === 'item' ? this.#gathering.choose(reference.id).id : undefined;
    const root = id === undefined ? undefined : this.#gathering.readItem(id)?.root;
    const forms = root && termForms(root);
    if (!forms || id === undefined) return {};
    const { keys, borrowing } = cursor;
    const said = ({ element, path }: FoundElement): Node[] =>
      this.#resolve(element.children, { item: id, path, keys, borrowing });
    const children = said(forms.short);
    return cursor.isTitle ? { children } : { children, firstForm: said(forms.first) };
  }

  /** The title of what a key leads to, which it says where it has no text. */
  #titleOf(href: string | undefined, from: string): readonly Node[] {
    if (href === undefined) return [];
    const reference = readReference(href, from);
    const root =
      reference.kind === 'item'
        ? this.#gathering.readItem(this.#gathering.choose(reference.id).id)?.root
        : undefined;
    const title = root && childNamed(root, 'title', 'glossterm');
    return [title ? lineOf(title) : href];
  }
}
