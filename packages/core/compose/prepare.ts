import {
  judge,
  whenOf,
  withLookWords,
  type Facet,
  type Lens,
  type OpenFacet,
  type When,
} from '../facets/index.ts';
import { definitionOf, isA, isTopic, labelOf } from '../grammar/index.ts';
import {
  borrowedRun,
  checkItem,
  contextIdsIn,
  elementOf,
  mergeAttributes,
  readReference,
  type FoundElement,
  type Item,
  type Library,
  type Reference,
} from '../library/index.ts';
import {
  childNamed,
  isElement,
  joinTexts,
  lineOf,
  type Attributes,
  type Element,
  type Node,
} from '../markup/index.ts';
import { atItem, problem, type Path, type Problem } from '../problems/index.ts';
import type { HouseRule } from '../rules/index.ts';
import type { Choice, Choose } from './alternates.ts';
import { givenBy, lookUpKey, type KeyScope } from './keys.ts';
import { ordinalsIn } from './ordinals.ts';
import { readPeerKey, type PeerKey, type PeerMap } from './peers.ts';
import type { Origin, Reason, ResolvedElement, TargetKind } from './publication.ts';

/** Something in a topic that can be led to, before it has its number. */
interface Landmark {
  readonly anchor: string;
  readonly kind: TargetKind;
  readonly title: readonly Node[];
  /** Of an entry of a numbered list. */
  readonly number?: string;
}

export interface PendingLink {
  readonly key: string;
  readonly reference: Reference | PeerKey;
  readonly origin: Origin;
}

/**
 * A topic at its place: filtered, with borrowed passages and variables filled in; links and numbers
 * are still open.
 */
export interface PreparedTopic {
  readonly content: ResolvedElement;
  /** The lens drops the whole topic. */
  readonly dropped: boolean;
  readonly anchor: string;
  /** Anchors of the elements that have an id in the source. */
  readonly anchors: ReadonlyMap<string, string>;
  readonly landmarks: readonly Landmark[];
  readonly links: readonly PendingLink[];
  /** Index entries with the anchor they lead to. */
  readonly indexTerms: readonly { readonly anchor: string; readonly term: ResolvedElement }[];
  /** Ids by which applications open it. */
  readonly contextIds: readonly string[];
  readonly assets: ReadonlySet<string>;
  readonly problems: readonly Problem[];
  readonly why: readonly Reason[];
  /**
   * Items that lent something, with the tree that was read: as long as these are the same, so is
   * this.
   */
  readonly lenders: ReadonlyMap<string, Element | undefined>;
  /** Images that were looked for, and whether they were there. */
  readonly lookedFor: ReadonlyMap<string, boolean>;
  readonly nested: readonly PreparedTopic[];
}

export interface PreparationContext {
  readonly library: Library;
  readonly lens: Lens | undefined;
  readonly facets: readonly Facet[];
  /** On which readers decide themselves, without what the lens drops. */
  readonly open: readonly OpenFacet[];
  readonly rules: readonly HouseRule[];
  readonly scope: KeyScope;
  /** Texts that an edition sets for keys; they go before every definition. */
  readonly variables: Readonly<Record<string, string>>;
  /** Chooses among topics and images and their alternates. */
  readonly choose: Choose;
  /** Other publications to which keys may lead. */
  readonly peers: readonly PeerMap[];
}

/** Never published. `related-links` and `prolog` are read for what they give and then left out. */
const unpublished = new Set([
  'draft-comment',
  'required-cleanup',
  'data',
  'data-about',
  'foreign',
  'titlealts',
]);
const linking = new Set(['xref', 'link', 'term', 'abbreviated-form', 'cite']);
const mostBorrowedDeep = 50;

/** Where in the sources the walk is, and how it came there. */
interface Spot {
  readonly item: string;
  readonly path: Path;
  /** `item/element` of every passage being borrowed around here. */
  readonly borrowing: readonly string[];
  readonly keys: readonly string[];
  /**
   * Inside an index entry or the facts of the topic: index entries here are gathered by what holds
   * them.
   */
  readonly gathered?: boolean;
}

const inside = ({ item, path, borrowing, keys, gathered = false }: Spot, index: number): Spot => ({
  item,
  path: [...path, index],
  borrowing,
  keys,
  gathered,
});

/**
 * Resolves one topic for one place (`anchor` names the place). Never throws; what cannot be
 * resolved, and what is empty without what the lens drops, is reported.
 */
export function prepareTopic(
  topic: FoundElement,
  item: string,
  anchor: string,
  context: PreparationContext,
): PreparedTopic {
  const landmarks: Landmark[] = [];
  const links: PendingLink[] = [];
  const indexTerms: { anchor: string; term: ResolvedElement }[] = [];
  const contextIds: string[] = [];
  const anchors = new Map<string, string>();
  const assets = new Set<string>();
  const problems: Problem[] = [];
  const why: Reason[] = [];
  const lenders = new Map<string, Element | undefined>();
  const lookedFor = new Map<string, boolean>();
  const nested: PreparedTopic[] = [];
  let counter = 0;

  const resolveNodes = (nodes: readonly Node[], spot: Spot): Node[] => {
    const resolved: Node[] = [];
    nodes.forEach((node, index) => {
      if (typeof node === 'string') resolved.push(node);
      else if (isElement(node)) resolved.push(...resolveElement(node, inside(spot, index)));
    });
    return resolved;
  };

  const resolveElement = (element: Element, spot: Spot, merged?: Attributes): ResolvedElement[] => {
    const origin: Origin = { item: spot.item, path: spot.path };
    const attributes = merged ?? element.attributes;
    if (unpublished.has(element.name) || !definitionOf(element.name)) return [];
    const verdict = judge(attributes, context.lens, context.facets);
    if (!verdict.kept) {
      why.push({
        kind: 'dropped',
        origin,
        detail: `${labelOf(element.name)}: ${verdict.facet} is ${verdict.values?.join(', ')}`,
      });
      return [];
    }
    if (attributes['conref'] !== undefined || attributes['conkeyref'] !== undefined)
      return borrow(element, attributes, spot);
    if (
      isTopic(element.name) &&
      spot.path.length > topic.path.length &&
      spot.borrowing.length === 0
    ) {
      const id = attributes['id'] ?? `${++counter}`;
      const inner = prepareTopic({ element, path: spot.path }, item, `${anchor}--${id}`, context);
      if (!inner.dropped) nested.push(inner);
      return [];
    }
    if (element.name === 'prolog') {
      const facts = resolveNodes(element.children, { ...spot, gathered: true });
      for (const term of facts.flatMap(indexTermsIn)) indexTerms.push({ anchor, term });
      contextIds.push(...contextIdsIn(facts));
      return [];
    }
    const variable =
      element.children.length === 0 || element.name === 'keyword'
        ? variableFor(element, attributes, spot)
        : undefined;
    const inner = element.name === 'indexterm' ? { ...spot, gathered: true } : spot;
    const told = why.length;
    const children = joinTexts(variable ?? resolveNodes(element.children, inner));
    if (
      children.every(isBlank) &&
      !element.children.every(isBlank) &&
      why.slice(told).some(({ kind }) => kind === 'dropped')
    )
      problems.push(
        problem(
          'warning',
          'filter.empty',
          `“${labelOf(element.name)}” has nothing left for these readers.`,
          origin,
        ),
      );
    const own = anchorFor(element.name, attributes, children, spot);
    const link = linkFor(element.name, attributes, origin, spot);
    const when = whenOf(attributes, context.open);
    const files = assetsFor(element.name, attributes, origin, spot);
    const [file] = files;
    const resolved: { -readonly [Key in keyof ResolvedElement]: ResolvedElement[Key] } = {
      name: element.name,
      attributes: file === undefined ? attributes : { ...attributes, href: file.href },
      children,
      origin,
    };
    if (when) resolved.when = [when];
    if (own !== undefined) resolved.anchor = own;
    if (link !== undefined) resolved.link = link;
    if (verdict.marked) {
      resolved.marked = verdict.marked;
      resolved.children = withLookWords(resolved, verdict.marked).children;
    }
    if (element.name === 'indexterm' && own !== undefined && spot.gathered !== true)
      indexTerms.push({ anchor: own, term: resolved });
    return files.length < 2
      ? [resolved]
      : files.map(({ href, when: chosen }) =>
          forThose({ ...resolved, attributes: { ...attributes, href } }, chosen),
        );
  };

  const borrow = (element: Element, attributes: Attributes, spot: Spot): ResolvedElement[] => {
    const where = { item: spot.item, path: spot.path };
    const href = attributes['conref'];
    const reference =
      href === undefined ? keyTarget(attributes['conkeyref']!) : readReference(href, spot.item);
    const source = href ?? attributes['conkeyref']!;

    const lenders = reference?.kind === 'item' ? lendersOf(reference) : [];
    if (reference?.kind !== 'item' || lenders.length === 0) {
      problems.push(
        problem(
          'error',
          'borrow.missing',
          `The passage “${source}” cannot be borrowed: there is no such topic.`,
          where,
        ),
      );
      return [];
    }
    return lenders.flatMap(({ lender, root, when }) =>
      borrowFrom(lender, root, reference, element, attributes, spot).map((passage) =>
        forThose(passage, when),
      ),
    );
  };

  const borrowFrom = (
    lender: Item,
    root: Element,
    reference: Reference & { readonly kind: 'item' },
    element: Element,
    attributes: Attributes,
    spot: Spot,
  ): ResolvedElement[] => {
    const where = { item: spot.item, path: spot.path };
    const source = attributes['conref'] ?? attributes['conkeyref']!;
    const found = elementOf(root, reference.element);
    if (!found) {
      problems.push(
        problem(
          'error',
          'borrow.missing',
          `The passage “${source}” cannot be borrowed: the topic has no element with that id.`,
          where,
        ),
      );
      return [];
    }
    const key = `${lender.id}/${found.path.join('.')}`;
    if (
      spot.borrowing.includes(key) ||
      spot.borrowing.length >= mostBorrowedDeep ||
      (lender.id === spot.item && isWithin(spot.path, found.path))
    ) {
      problems.push(
        problem(
          'error',
          'borrow.cycle',
          `The passage “${source}” borrows itself. It is left out.`,
          where,
        ),
      );
      return [];
    }
    if (!isA(found.element.name, element.name) && !isA(element.name, found.element.name)) {
      problems.push(
        problem(
          'error',
          'borrow.mismatch',
          `“${labelOf(found.element.name)}” cannot be borrowed as “${labelOf(element.name)}”.`,
          where,
        ),
      );
      return [];
    }
    why.push({
      kind: 'borrowed',
      origin: where,
      detail: source,
      from: { item: lender.id, path: found.path },
    });
    const run = borrowedRun(root, found, attributes['conrefend'], lender.id);
    return run.flatMap(({ element: passage, path }, index) => {
      const inner: Spot = {
        item: lender.id,
        path,
        borrowing: [...spot.borrowing, key],
        keys: spot.keys,
      };
      return resolveElement(
        passage,
        inner,
        index === 0 ? mergeAttributes(attributes, passage.attributes) : passage.attributes,
      );
    });
  };

  const readItem = (id: string): Item | undefined => {
    const read = context.library.item(id);
    // Also one that is not there: it may come.
    if (id !== item) lenders.set(id, read?.root);
    return read;
  };
  /** Alternates of the lender lend, where they have that element too. */
  const lendersOf = ({
    id,
    element,
  }: Reference & { readonly kind: 'item' }): {
    readonly lender: Item;
    readonly root: Element;
    readonly when?: When;
  }[] => {
    const having = (one: string): { lender: Item; root: Element } | undefined => {
      const lender = readItem(one);
      return lender?.root && elementOf(lender.root, element)
        ? { lender, root: lender.root }
        : undefined;
    };
    const { id: taken, others, when } = choose(id);
    const closer = others.flatMap((other) => {
      const lending = having(other.id);
      return lending ? [{ ...lending, when: other.when }] : [];
    });
    const base = readItem(id);
    const rest =
      (taken === id ? undefined : having(taken)) ??
      (base?.root && { lender: base, root: base.root });
    if (!rest) return closer;
    // Those whose alternate has no such element get that of the others.
    const without: When = { unless: closer.flatMap((one) => (one.when.all ? [one.when.all] : [])) };
    return [
      ...closer,
      closer.length === 0
        ? rest
        : { ...rest, when: closer.length === others.length && when ? when : without },
    ];
  };
  const choose = (id: string): Choice => {
    const choice = context.choose(id);
    problems.push(...choice.problems);
    return choice;
  };

  const keyTarget = (keyref: string): Reference | undefined => {
    const slash = keyref.indexOf('/');
    const definition = lookUpKey(context.scope, slash === -1 ? keyref : keyref.slice(0, slash));
    if (definition?.href === undefined) return undefined;
    const reference = readReference(definition.href, definition.origin.item);
    return slash !== -1 && reference.kind === 'item'
      ? { ...reference, element: keyref.slice(slash + 1) }
      : reference;
  };

  const variableFor = (
    element: Element,
    attributes: Attributes,
    spot: Spot,
  ): Node[] | undefined => {
    const key = attributes['keyref'];
    if (key === undefined || ['image', 'xref', 'link', 'object'].includes(element.name))
      return undefined;
    const set = context.variables[key];
    if (set !== undefined) {
      why.push({
        kind: 'replaced',
        origin: { item: spot.item, path: spot.path },
        detail: `${key} is set by the edition`,
      });
      return [set];
    }
    const definition = lookUpKey(context.scope, key);
    const where = { item: spot.item, path: spot.path };
    if (!definition) {
      problems.push(
        problem(
          'error',
          'key.undefined',
          `The variable “${key}” is not defined in this publication.`,
          where,
        ),
      );
      return element.children.length > 0 ? undefined : [`[${key}]`];
    }
    if (spot.keys.includes(key)) {
      problems.push(problem('error', 'key.cycle', `The variable “${key}” uses itself.`, where));
      return [`[${key}]`];
    }
    why.push({ kind: 'replaced', origin: where, detail: key });
    const given = givenBy(definition);
    const wordsOf = ({
      text,
      href,
      origin,
    }: (typeof given)[number]['definition']): Node[] | undefined => {
      if (text)
        return resolveNodes(text, {
          ...origin,
          borrowing: spot.borrowing,
          keys: [...spot.keys, key],
        });
      return element.children.length > 0 ? undefined : titleOfKeyTarget(href, origin.item);
    };
    if (given.length === 1) return wordsOf(definition);
    return given.flatMap(({ definition: one, when }) => {
      const words = wordsOf(one);
      return words
        ? [forThose({ name: 'ph', attributes: {}, children: words, origin: where }, when)]
        : [];
    });
  };

  const titleOfKeyTarget = (href: string | undefined, from: string): Node[] => {
    const reference = href === undefined ? undefined : readReference(href, from);
    const root = reference?.kind === 'item' ? readItem(choose(reference.id).id)?.root : undefined;
    const title = root && childNamed(root, 'title', 'glossterm');
    return title ? [lineOf(title)] : href === undefined ? [] : [href];
  };

  const anchorFor = (
    name: string,
    attributes: Attributes,
    children: readonly Node[],
    spot: Spot,
  ): string | undefined => {
    if (isTopic(name)) return anchor;
    const id = attributes['id'];
    const kind = kindOf(name);
    if (spot.gathered === true || (id === undefined && !isCaptioned(kind) && name !== 'indexterm'))
      return undefined;
    const title = children.find(
      (child): child is Element => isElement(child) && child.name === 'title',
    );
    const listed = isCaptioned(kind) && title !== undefined;
    if (id === undefined && !listed && name !== 'indexterm') return undefined;
    const taken = id !== undefined && anchors.has(id);
    const own = id === undefined || taken ? `${anchor}--${name}-${++counter}` : `${anchor}--${id}`;
    if (id !== undefined && !taken) anchors.set(id, own);
    if (name === 'indexterm') return own;
    landmarks.push({
      anchor: own,
      kind,
      title: title?.children ?? (name === 'dlentry' ? firstTerm(children) : []),
    });
    return own;
  };

  const linkFor = (
    name: string,
    attributes: Attributes,
    origin: Origin,
    spot: Spot,
  ): string | undefined => {
    if (!linking.has(name)) return undefined;
    const { href, keyref } = attributes;
    if (href === undefined && keyref === undefined) return undefined;
    const reference =
      keyref === undefined ? undefined : (keyTarget(keyref) ?? readPeerKey(keyref, context.peers));
    const fallback = href === undefined ? undefined : readReference(href, spot.item);
    const target = reference ?? fallback;
    if (!target) {
      if (name === 'xref' || name === 'link')
        problems.push(
          problem(
            'error',
            'key.undefined',
            `The link uses the key “${keyref}”, which is not defined in this publication.`,
            origin,
          ),
        );
      return undefined;
    }
    const key = `${anchor}~${links.length + 1}`;
    links.push({ key, reference: target, origin });
    return key;
  };

  /**
   * The files that an element shows: one, or one for each of those readers who get another; none
   * where it shows no file.
   */
  const assetsFor = (
    name: string,
    attributes: Attributes,
    origin: Origin,
    spot: Spot,
  ): { readonly href: string; readonly when?: When | undefined }[] => {
    const isFile =
      name === 'image' ||
      name === 'object' ||
      (name === 'param' && attributes['valuetype'] === 'ref');
    if (!isFile) return [];
    const href = attributes[name === 'object' ? 'data' : name === 'param' ? 'value' : 'href'];
    const reference =
      attributes['keyref'] === undefined ? undefined : keyTarget(attributes['keyref']);
    const named = reference ?? (href === undefined ? undefined : readReference(href, spot.item));
    if (named?.kind === 'external') return [{ href: named.href }];
    const missing = (): void =>
      void problems.push(
        problem(
          'error',
          'image.missing',
          `The ${name === 'object' ? 'file' : 'image'} ` +
            `“${href ?? attributes['keyref'] ?? ''}” is not in the library. A mark stands in ` +
            'its place.',
          origin,
        ),
      );
    const shown = (id: string): string => {
      const isThere = context.library.asset(id) !== undefined;
      lookedFor.set(id, isThere);
      if (isThere) assets.add(id);
      else missing();
      return isThere ? `asset:${id}` : '';
    };
    if (named?.kind !== 'asset') {
      missing();
      return [{ href: '' }];
    }
    const { id, others, when } = choose(named.id);
    // Of a video the first only: what is for others would have to be another player.
    return [
      ...(name === 'image'
        ? others.map((other) => ({ href: shown(other.id), when: other.when }))
        : []),
      { href: shown(id), when: name === 'image' ? when : undefined },
    ];
  };

  const found = context.library.item(item);
  if (found?.root && topic.path.length === 0)
    problems.push(...atItem(item, checkItem(found.root, context)));
  const [content] = resolveElement(topic.element, {
    item,
    path: topic.path,
    borrowing: [],
    keys: [],
  });
  const root = content ?? {
    name: topic.element.name,
    attributes: topic.element.attributes,
    children: [],
    origin: { item, path: topic.path },
    anchor,
  };
  const ordinals = new Map(ordinalsIn(root).map(({ anchor: own, number }) => [own, `${number}`]));
  const numbered = landmarks.map((landmark) => {
    const number = ordinals.get(landmark.anchor);
    return number === undefined ? landmark : { ...landmark, number };
  });
  return {
    content: root,
    dropped: content === undefined,
    anchor,
    anchors,
    landmarks: numbered,
    links,
    indexTerms,
    contextIds,
    assets,
    problems,
    why,
    lenders,
    lookedFor,
    nested,
  };
}

const isBlank = (node: Node): boolean => typeof node === 'string' && node.trim() === '';

/** What is for those alone who have chosen so. */
export const forThose = (element: ResolvedElement, when: When | undefined): ResolvedElement =>
  when ? { ...element, when: [...(element.when ?? []), when] } : element;

/** Those that are counted by their titles. */
const isCaptioned = (kind: TargetKind): boolean =>
  kind === 'figure' || kind === 'table' || kind === 'example';

const kinds = new Map<string, TargetKind>();

function kindOf(name: string): TargetKind {
  const known = kinds.get(name);
  if (known) return known;
  const kind = isA(name, 'fig')
    ? 'figure'
    : isA(name, 'table') || isA(name, 'simpletable')
      ? 'table'
      : name === 'example'
        ? 'example'
        : isA(name, 'section')
          ? 'section'
          : name === 'step' || name === 'substep'
            ? 'step'
            : 'element';
  kinds.set(name, kind);
  return kind;
}

const firstTerm = (children: readonly Node[]): readonly Node[] =>
  children.find((child): child is Element => isElement(child) && child.name === 'dt')?.children ??
  [];

function indexTermsIn(node: Node): ResolvedElement[] {
  if (!isElement(node)) return [];
  return node.name === 'indexterm'
    ? [node as ResolvedElement]
    : node.children.flatMap(indexTermsIn);
}

const isWithin = (path: Path, outer: Path): boolean =>
  outer.every((step, index) => path[index] === step);
