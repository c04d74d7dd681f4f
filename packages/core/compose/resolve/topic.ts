import { evaluateProfile, whenOf, withFlags, type MarkLook } from '../../facets/index.ts';
import { definitionOf, isA, isForeign, isTopic, labelOf } from '../../grammar/index.ts';
import {
  checkItem,
  contextIdsIn,
  findPassage,
  mergeAttributes,
  nameOfPassage,
  type Borrower,
  type FoundElement,
} from '../../library/index.ts';
import {
  findAll,
  findOutermost,
  isElement,
  joinTexts,
  type Attributes,
  type Element,
  type Node,
} from '../../markup/index.ts';
import { isTextType } from '../../media/index.ts';
import { atItem } from '../../problems/index.ts';
import { drawSyntax, readSyntax } from '../../syntax-diagrams/index.ts';
import { metadataIn } from '../metadata.ts';
import { ordinalsIn } from '../ordinals.ts';
import type { ResolvedElement } from '../publication.ts';
import { pathKey, type Push } from '../pushing.ts';
import { anchorOf } from './anchors.ts';
import { filesOf } from './files.ts';
import { foreignContent } from './foreign.ts';
import { Gathering } from './gathering.ts';
import { KeyWords } from './key-words.ts';
import { linkOf } from './links.ts';
import { passageReference, passageSources } from './passages.ts';
import {
  childCursor,
  originOf,
  withAudience,
  type Cursor,
  type ResolutionContext,
  type ResolvedTopic,
} from './resolved.ts';

/** Never published. `prolog` and `titlealts` are read for what they give and then left out. */
const unpublished = new Set(['draft-comment', 'required-cleanup', 'data', 'sort-as', 'data-about']);
/** A topic, or one nested in it, and where it is to stand. */
export interface TopicAtPlace {
  readonly item: string;
  readonly topic: FoundElement;
  readonly anchor: string;
}

/**
 * Resolves one topic for one place. Never throws.
 * @returns the topic with problems `borrow.*`, `key.*`, `image.missing`, `alternate.*` and
 * `filter.empty` (nothing is left of an element without what the lens drops), and those of its
 * validation where it is a whole text
 */
export function resolveTopic(place: TopicAtPlace, context: ResolutionContext): ResolvedTopic {
  const { item, topic, anchor } = place;
  const gathering = new Gathering(item, anchor, context);
  const whole = topic.path.length === 0 ? context.library.item(item)?.root : undefined;
  if (whole) gathering.problems.push(...atItem(item, checkItem(whole, context)));
  const start: Cursor = { item, path: topic.path, borrowing: [], keys: [] };
  const [resolved] = new TopicResolver(topic, gathering).element(topic.element, start);
  const content: ResolvedElement = resolved ?? {
    name: topic.element.name,
    attributes: topic.element.attributes,
    children: [],
    origin: originOf(start),
    anchor,
  };
  const ordinals = new Map(ordinalsIn(content).map((one) => [one.anchor, `${one.number}`]));
  const landmarks = gathering.landmarks.map((landmark) => {
    const number = ordinals.get(landmark.anchor);
    return number === undefined ? landmark : { ...landmark, number };
  });
  const { anchors, links, indexTerms, contextIds, assets, drawings } = gathering;
  const { problems, why, read, lookedFor, nested } = gathering;
  return {
    content,
    otherTitles: gathering.otherTitles,
    metadata: gathering.metadata,
    dropped: resolved === undefined,
    anchor,
    anchors,
    landmarks,
    links,
    indexTerms,
    contextIds,
    assets,
    drawings,
    problems,
    why,
    read,
    lookedFor,
    nested,
  };
}

/** The walk through one topic and all that it borrows. */
class TopicResolver {
  readonly #topic: FoundElement;
  readonly #gathering: Gathering;
  readonly #keyWords: KeyWords;

  constructor(topic: FoundElement, gathering: Gathering) {
    this.#topic = topic;
    this.#gathering = gathering;
    this.#keyWords = new KeyWords(gathering, (nodes, cursor) => this.#nodes(nodes, cursor));
  }

  /**
   * @param merged the attributes, where the element is borrowed and those of its borrower are in
   * them
   * @returns none where it is dropped; several where it borrows a run, or shows a file for each of
   * several readers
   */
  element(element: Element, cursor: Cursor, merged?: Attributes): readonly ResolvedElement[] {
    const { pushes } = this.#gathering.context;
    const here = pushes.get(cursor.item)?.get(pathKey(cursor.path));
    if (!here) return this.#own(element, cursor, merged);
    const put = (action: Push['action']): readonly ResolvedElement[] =>
      here.flatMap((push) => (push.action === action ? this.#pushed(push, cursor) : []));
    const replacing = here.find(({ action }) => action === 'replace');
    const own = replacing
      ? [...put('replace'), ...this.#unreplaced(replacing, element, cursor, merged)]
      : this.#own(element, cursor, merged);
    // Of a passage that is borrowed only it is shown, not what is put beside it.
    return merged ? own : [...put('before'), ...own, ...put('after')];
  }

  /** An element for those readers who, by their own choice, do not get what replaces it. */
  #unreplaced(
    { attributes }: Push,
    element: Element,
    cursor: Cursor,
    merged: Attributes | undefined,
  ): readonly ResolvedElement[] {
    const any = whenOf(attributes, this.#gathering.context.open)?.any;
    if (!any) return [];
    return this.#own(element, cursor, merged).map((one) => withAudience(one, { none: [any] }));
  }

  /** What another topic puts here (DITA 1.3, 2.5.1.3). */
  #pushed({ element, attributes, origin }: Push, cursor: Cursor): readonly ResolvedElement[] {
    const { item, path } = origin;
    const key = `${item}/${pathKey(path)}`;
    if (cursor.borrowing.includes(key)) {
      this.#gathering.report(
        'error',
        'push.cycle',
        `“${labelOf(element.name)}” is pushed into itself. The content is left out here.`,
        origin,
      );
      return [];
    }
    if (this.#borrowsTooMuch()) return [];
    this.#gathering.readItem(item);
    const inner = { item, path, keys: cursor.keys, borrowing: [...cursor.borrowing, key] };
    return this.element(element, inner, attributes);
  }

  #own(element: Element, cursor: Cursor, merged?: Attributes): readonly ResolvedElement[] {
    const attributes = merged ?? element.attributes;
    if (unpublished.has(element.name) || !definitionOf(element.name)) return [];
    const { lens, facets } = this.#gathering.context;
    const verdict = evaluateProfile(attributes, lens, facets);
    if (!verdict.kept) {
      this.#gathering.why.push({
        kind: 'dropped',
        origin: originOf(cursor),
        detail: `${labelOf(element.name)}: ${verdict.facet} is ${verdict.values?.join(', ')}`,
      });
      return [];
    }
    // Content for another topic does not stand where it is written (DITA 1.3, `conaction`).
    if (isPushed(attributes)) return [];
    if (attributes['conref'] !== undefined || attributes['conkeyref'] !== undefined)
      return this.#borrowed({ element, attributes, place: cursor });
    if (isForeign(element.name)) return this.#foreign({ ...element, attributes }, cursor);
    if (isQuoted(element.name)) return this.#quoted({ ...element, attributes }, cursor);
    if (this.#isNested(element, cursor)) return this.#nested(element, attributes, cursor);
    if (element.name === 'prolog') return this.#prolog(element, cursor);
    if (element.name === 'titlealts') return this.#otherTitles(element, cursor);
    const whole = isA(element.name, 'image') ? withDescription(element) : element;
    const resolved = this.#resolved(whole, attributes, cursor, verdict.marked);
    if (isA(element.name, 'syntaxdiagram')) return [this.#drawn(resolved)];
    return this.#withFiles(resolved, cursor);
  }

  /** What is shown of content in another vocabulary. */
  #foreign(element: Element, cursor: Cursor): readonly ResolvedElement[] {
    const { attributes } = element;
    const found = foreignContent(element);
    if (found.kind === 'formula') {
      const holder = { ...element, children: [] };
      const resolved = this.#resolved(holder, attributes, cursor, undefined);
      return [{ ...resolved, name: 'mathml', children: [found.formula] }];
    }
    if (found.kind === 'formula-file') {
      const file = this.element(found.element, childCursor(cursor, found.index));
      const resolved = this.#resolved({ ...element, children: [] }, attributes, cursor, undefined);
      return file.length === 0 ? [] : [{ ...resolved, name: 'mathml', children: file }];
    }
    if (found.kind === 'drawing') {
      const href = `asset:${this.#gathering.addDrawing(found.drawing)}`;
      const image = { name: 'image', attributes: { ...attributes, href }, children: found.alt };
      return [this.#resolved(image, image.attributes, cursor, undefined)];
    }
    const instead = found.instead.flatMap(({ element: one, index }) =>
      this.element(one, childCursor(cursor, index)),
    );
    return instead.length > 0 ? instead : this.#notShown(element, cursor);
  }

  /** A formula in a file, or lines of code by the fragment of its address (DITA 1.3, 3.4.4). */
  #quoted(element: Element, cursor: Cursor): readonly ResolvedElement[] {
    const { attributes } = element;
    const [, fragment] = (attributes['href'] ?? '').split('#', 2);
    const shown = this.#withFiles(
      this.#resolved(element, attributes, cursor, undefined),
      cursor,
    ).filter((one) => one.attributes['href'] !== '');
    const id = shown[0]?.attributes['href']?.slice('asset:'.length);
    const file = id === undefined ? undefined : this.#gathering.context.library.asset(id);
    if (file && !isTextType(file.mediaType)) return this.#notShown(element, cursor);
    if (fragment === undefined) return shown;
    return shown.map((one) => ({
      ...one,
      attributes: { ...one.attributes, href: `${one.attributes['href'] ?? ''}#${fragment}` },
    }));
  }

  /** Another vocabulary than that of the content model, or a file, is kept and cannot be shown. */
  #notShown(element: Element, cursor: Cursor): readonly ResolvedElement[] {
    if (isQuoted(element.name) || !element.children.every(isBlank))
      this.#gathering.report(
        'error',
        'content.not-shown',
        `“${labelOf(element.name)}” cannot be shown yet. It is left out.`,
        originOf(cursor),
      );
    return [];
  }

  #nodes(nodes: readonly Node[], cursor: Cursor): Node[] {
    const resolved: Node[] = [];
    nodes.forEach((node, index) => {
      if (typeof node === 'string') resolved.push(node);
      else if (isElement(node)) resolved.push(...this.element(node, childCursor(cursor, index)));
    });
    return resolved;
  }

  /** The element by itself: its content, and what leads to it and from it. */
  #resolved(
    element: Element,
    attributes: Attributes,
    cursor: Cursor,
    marked: MarkLook | undefined,
  ): ResolvedElement {
    const gathering = this.#gathering;
    const { name } = element;
    const children = this.#children(element, attributes, cursor);
    const isGathered = cursor.isGathered === true;
    const anchor = anchorOf({ name, attributes, children }, isGathered, gathering);
    const link = linkOf(name, attributes, cursor, gathering);
    const when = whenOf(attributes, gathering.context.open);
    const resolved: { -readonly [Key in keyof ResolvedElement]: ResolvedElement[Key] } = {
      name,
      attributes,
      children,
      origin: originOf(cursor),
    };
    if (when) resolved.when = [when];
    if (anchor !== undefined) resolved.anchor = anchor;
    if (link !== undefined) resolved.link = link;
    if (name === 'abbreviated-form')
      Object.assign(resolved, this.#keyWords.formsOf(attributes, cursor));
    if (marked) {
      resolved.marked = marked;
      resolved.children = this.#flagged(resolved, marked).children;
    }
    if (name === 'indexterm' && anchor !== undefined)
      gathering.indexTerms.push({ anchor, term: resolved });
    return resolved;
  }

  /**
   * A syntax diagram with its drawing as the first child. One with parts that depend on the choices
   * of readers gets none: a drawing cannot change with them.
   */
  #drawn(diagram: ResolvedElement): ResolvedElement {
    const { children, origin } = diagram;
    const isOpen = children.some(
      (part) => isElement(part) && findAll(part, (one) => 'when' in one).length > 0,
    );
    const drawing = isOpen ? undefined : drawSyntax(readSyntax(diagram));
    if (!drawing) return diagram;
    const href = `asset:${this.#gathering.addDrawing(drawing)}`;
    const image: ResolvedElement = { name: 'image', attributes: { href }, children: [], origin };
    return { ...diagram, children: [image, ...children] };
  }

  /** With the words or images that a mark puts before and after. */
  #flagged(element: ResolvedElement, { start, end, startImage, endImage }: MarkLook): Element {
    const flag = (words: string | undefined, image: string | undefined): Node | undefined => {
      if (image === undefined || !this.#gathering.isFileThere(image.slice('asset:'.length)))
        return words;
      const alt = words === undefined ? [] : [{ name: 'alt', attributes: {}, children: [words] }];
      const { origin } = element;
      const shown: ResolvedElement = {
        name: 'image',
        attributes: { href: image },
        children: alt,
        origin,
      };
      return shown;
    };
    return withFlags(element, flag(start, startImage), flag(end, endImage));
  }

  #children(element: Element, attributes: Attributes, cursor: Cursor): readonly Node[] {
    const { why } = this.#gathering;
    const inner = cursorInside(element, cursor);
    const before = why.length;
    const children = joinTexts([
      ...(this.#keyWords.of(element, attributes, cursor) ?? []),
      ...this.#nodes(element.children, inner),
    ]);
    if (
      children.every(isBlank) &&
      !element.children.every(isBlank) &&
      why.slice(before).some(({ kind }) => kind === 'dropped')
    )
      this.#gathering.report(
        'warning',
        'filter.empty',
        `“${labelOf(element.name)}” has nothing left for these readers.`,
        originOf(cursor),
      );
    return children;
  }

  /** The element with its file; once for each of those readers who get another one. */
  #withFiles(element: ResolvedElement, cursor: Cursor): readonly ResolvedElement[] {
    const files = filesOf(element.name, element.attributes, cursor, this.#gathering);
    if (files.length === 0) return [element];
    return files.map(({ href, when }) =>
      withAudience({ ...element, attributes: { ...element.attributes, href } }, when),
    );
  }

  /** Whether it is a topic in the topic; one that is borrowed belongs to what borrows it. */
  #isNested({ name }: Element, { path, borrowing }: Cursor): boolean {
    return isTopic(name) && path.length > this.#topic.path.length && borrowing.length === 0;
  }

  #nested(element: Element, attributes: Attributes, { path }: Cursor): readonly ResolvedElement[] {
    const { item, anchor, context, nested } = this.#gathering;
    const id = attributes['id'] ?? `${this.#gathering.nextNumber()}`;
    const topic = { element, path };
    const inner = resolveTopic({ item, topic, anchor: `${anchor}--${id}` }, context);
    if (!inner.dropped) nested.push(inner);
    return [];
  }

  #prolog(element: Element, cursor: Cursor): readonly ResolvedElement[] {
    const { anchor, indexTerms, contextIds } = this.#gathering;
    const facts = this.#nodes(element.children, { ...cursor, isGathered: true });
    for (const term of facts.flatMap(indexTermsIn)) indexTerms.push({ anchor, term });
    contextIds.push(...contextIdsIn(facts));
    this.#gathering.metadata = metadataIn({ children: facts });
    return [];
  }

  #otherTitles(element: Element, cursor: Cursor): readonly ResolvedElement[] {
    const titles = this.#nodes(element.children, { ...cursor, isGathered: true });
    const wordsOf = (name: string): readonly Node[] | undefined =>
      titles.find((one): one is Element => isElement(one) && one.name === name)?.children;
    const [navigationTitle, searchTitle] = ['navtitle', 'searchtitle'].map(wordsOf);
    this.#gathering.otherTitles = {
      ...(navigationTitle ? { navigationTitle } : {}),
      ...(searchTitle ? { searchTitle } : {}),
    };
    return [];
  }

  #borrowsTooMuch(): boolean {
    const gathering = this.#gathering;
    const isTooMuch = gathering.borrowsTooMuch();
    if (isTooMuch)
      gathering.report(
        'error',
        'borrow.large',
        'The topic borrows too many passages. The rest is left out.',
        { item: gathering.item, path: this.#topic.path },
      );
    return isTooMuch;
  }

  #borrowed(borrower: Borrower<Cursor>): readonly ResolvedElement[] {
    if (this.#borrowsTooMuch()) return [];
    const reference = passageReference(borrower, this.#gathering);
    const sources = reference ? passageSources(reference, this.#gathering) : [];
    if (sources.length === 0)
      this.#gathering.report(
        'error',
        'borrow.missing',
        `The passage “${nameOfPassage(borrower)}” cannot be borrowed: there is no such topic.`,
        originOf(borrower.place),
      );
    return sources.flatMap((source) => {
      const found = findPassage(borrower, source, reference?.element);
      if ('code' in found) {
        this.#gathering.report('error', found.code, found.message, originOf(borrower.place));
        return [];
      }
      this.#gathering.why.push({
        kind: 'borrowed',
        origin: originOf(borrower.place),
        detail: nameOfPassage(borrower),
        from: { item: source.id, path: found.first.path },
      });
      const { keys, borrowing } = borrower.place;
      const inner = { item: source.id, keys, borrowing: [...borrowing, found.key] };
      return found.run
        .flatMap(({ element, path }, index) =>
          this.element(
            element,
            { ...inner, path },
            index === 0
              ? mergeAttributes(borrower.attributes, element.attributes)
              : element.attributes,
          ),
        )
        .map((passage) => withAudience(passage, source.when));
    });
  }
}

/** Whether an element shows the text of a file. */
const isQuoted = (name: string): boolean => name === 'coderef' || name === 'mathmlref';

/** An image that names its long description in an attribute, with an element for it. */
function withDescription(image: Element): Element {
  const { attributes, children } = image;
  const href = attributes['longdescref'];
  const hasOne = children.some((child) => isElement(child) && child.name === 'longdescref');
  if (href === undefined || hasOne) return image;
  const description = { name: 'longdescref', attributes: { href }, children: [] };
  return { ...image, children: [...children, description] };
}

function cursorInside({ name }: Element, cursor: Cursor): Cursor {
  if (name === 'indexterm') return { ...cursor, isGathered: true };
  return isA(name, 'title') ? { ...cursor, isTitle: true } : cursor;
}

const isPushed = ({ conaction }: Attributes): boolean =>
  conaction === 'mark' || (conaction?.startsWith('push') ?? false);

const isBlank = (node: Node): boolean => typeof node === 'string' && node.trim() === '';

const indexTermsIn = (node: Node): ResolvedElement[] =>
  isElement(node)
    ? (findOutermost(node, ({ name }) => name === 'indexterm') as ResolvedElement[])
    : [];
