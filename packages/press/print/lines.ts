import {
  allPlaces,
  type PeerLink,
  type Publication,
  type ResolvedElement,
  type ResolvedLink,
} from '@ukiyo/core/compose';
import { isExpandable, inlineStyleOf, signsAround, type InlineStyle } from '@ukiyo/core/grammar';
import { childElements, childNamed, isElement, lineOf, type Element } from '@ukiyo/core/markup';
import { linkFormOf } from '@ukiyo/core/library';
import { propertyText, valuesOf } from '@ukiyo/core/styles';
import { calledNotes, normalizeBlocks } from '../blocks/index.ts';
import { cleanMath, mathIn, mathWords, printMath } from '../math/index.ts';
import {
  asMet,
  partLanguageOf,
  linkWords,
  peerName,
  peerTitle,
  printable,
} from '../shared/index.ts';
import type { Context, GatheredNote, Typesetting } from './context.ts';
import type { Inline } from './document.ts';
import { paragraphsIn } from './flatten.ts';
import { altOf, outsideImage, sized, sourceOf } from './images.ts';

/** What the page template calls each inline style. */
const signs = {
  bold: 'b',
  italic: 'i',
  underlined: 'u',
  superscript: 'sup',
  subscript: 'sub',
  struck: 'strike',
  code: 'code',
  control: 'ui',
  quoted: 'q',
} as const satisfies Record<InlineStyle, string>;

/** What is known along the lines of a document. */
interface LineState {
  readonly typesetting: () => Typesetting;
  /** What terms mean, by the anchors of their entries. */
  readonly meanings: ReadonlyMap<string, string>;
  /** Topics in which a term has been explained, each with the anchor of the term. */
  readonly explained: Set<string>;
  /** Keys of terms whose first form has been said. */
  readonly metTerms: Set<string>;
  /** Where words of each style stand on paper. */
  readonly standsOf: Map<string, string | undefined>;
  /** Footnotes that have their marks where links lead to them, by their anchors. */
  readonly calledNotes: () => ReadonlyMap<string, ResolvedElement>;
  /** Those of them that stand at the foot of a page already. */
  readonly notesOnPages: Set<string>;
  isInFootnote: boolean;
}

/** Lines of text. @param typesetting of which they are a part; asked for when a line is made */
export function linesOf(
  { publication }: Context,
  typesetting: () => Typesetting,
): Pick<Typesetting, 'inlines' | 'linked'> {
  let called: ReadonlyMap<string, ResolvedElement> | undefined;
  const state: LineState = {
    typesetting,
    meanings: new Map(
      publication.glossary.map(({ anchor, content }) => [
        anchor,
        printable(lineOf(childNamed(content, 'glossdef') ?? content)),
      ]),
    ),
    explained: new Set(),
    metTerms: new Set(),
    standsOf: new Map(),
    calledNotes: () => (called ??= calledIn(publication)),
    notesOnPages: new Set(),
    isInFootnote: false,
  };
  return {
    inlines: (nodes) =>
      nodes.flatMap((node) => {
        if (typeof node === 'string') return [printable(node)];
        return isElement(node) ? inline(state, node) : [];
      }),
    linked: (element) => linked(state, element),
  };
}

/** The footnotes of a publication that links lead to; looked for where there are any. */
function calledIn({ links, targets, places }: Publication): ReadonlyMap<string, ResolvedElement> {
  const isCalled = Object.values(links).some(
    (to) => to.kind === 'target' && targets[to.anchor]?.kind === 'footnote',
  );
  if (!isCalled) return new Map();
  const contents = allPlaces(places).flatMap(({ content }) => content ?? []);
  return calledNotes(contents, (key) => links[key]);
}

/** An element in a line, in its style and as the lens marks it. */
function inline(state: LineState, element: Element): Inline[] {
  const { styles, markingOf, publication } = state.typesetting();
  const plain = styles.within(element, () => plainInline(state, element));
  const own = styles.of(element);
  const c: Inline[] =
    own === undefined || plain.length === 0 ? plain : placedWords(state, own, 'in the line', plain);
  const marking = markingOf(element);
  const shown: Inline[] = marking && c.length > 0 ? [{ t: 'mark', c, ...marking }] : c;
  const language = partLanguageOf(element.attributes, publication.locale);
  return language && shown.length > 0 ? [{ t: 'lang', c: shown, ...language }] : shown;
}

/** Inside the table that gathers its own, else at the foot of the page. */
function footnote(
  { gather }: Typesetting,
  note: GatheredNote,
  onPage: ReadonlySet<string> = new Set(),
): Inline {
  const gathered = gather(note);
  if (gathered !== undefined) return { t: 'sup', c: [gathered] };
  const { id, sign } = note;
  const own = sign === undefined ? {} : { sign };
  if (id !== undefined && onPage.has(id)) return { t: 'fnref', id, ...own };
  const c = note.c().flatMap(paragraphsIn);
  return id === undefined ? { t: 'fn', c, ...own } : { t: 'fn', c, id, ...own };
}

/** Words in a style, where it says that they stand on paper. @param usual where it says nothing */
function placedWords(
  state: LineState,
  style: string,
  usual: string,
  c: readonly Inline[],
): Inline[] {
  const { standsOf, typesetting, isInFootnote } = state;
  if (!standsOf.has(style))
    standsOf.set(style, propertyText(valuesOf(typesetting().sheet, style, 'print'), 'stands'));
  const shown: Inline = { t: 's', s: style, c };
  const stands = standsOf.get(style) ?? usual;
  if (stands === 'nowhere') return [];
  if (stands === 'in the line') return [shown];
  return stands === 'in brackets' || isInFootnote
    ? [' (', shown, ')']
    : [footnote(typesetting(), { c: () => [{ t: 'p', c: [shown] }] })];
}

/** What a term means, where it is met for the first time in a topic. */
function meaning(state: LineState, { origin }: ResolvedElement, anchor: string): Inline[] {
  const definition = state.meanings.get(anchor);
  const first = `${origin.item} ${anchor}`;
  if (definition === undefined || state.explained.has(first)) return [];
  state.explained.add(first);
  return placedWords(state, 'meaning', 'nowhere', [definition]);
}

type LineMaker = (state: LineState, element: Element) => Inline[];

const inner: LineMaker = (state, { children }) => state.typesetting().inlines(children);

/** One in a footnote stands in its line; one that links lead to has its marks there. */
const footnoteElement: LineMaker = (state, element) => {
  const { anchor } = element as ResolvedElement;
  if (anchor !== undefined && state.calledNotes().has(anchor)) return [];
  return calledNote(state, element as ResolvedElement);
};

function calledNote(state: LineState, element: ResolvedElement): Inline[] {
  if (state.isInFootnote) return inner(state, element);
  const typesetting = state.typesetting();
  const { anchor, attributes } = element;
  const callout = attributes['callout'];
  const note: GatheredNote = {
    c() {
      state.isInFootnote = true;
      const c = typesetting.blocks(normalizeBlocks(element.children, typesetting.normalizing));
      state.isInFootnote = false;
      return c;
    },
    ...(anchor === undefined ? {} : { id: anchor }),
    ...(callout === undefined ? {} : { sign: printable(callout) }),
  };
  const made = footnote(typesetting, note, state.notesOnPages);
  if (anchor !== undefined && typeof made !== 'string' && made.t === 'fn')
    state.notesOnPages.add(anchor);
  return [made];
}

/** A file without a formula is named in its place. */
const fileOfFormula = (element: Element): string =>
  childElements(element)[0]?.attributes['href']?.slice('asset:'.length) ?? '';

function formula(state: LineState, element: Element): Inline[] {
  const { attributes } = element;
  const math = mathIn(element, state.typesetting().normalizing.fileText);
  if (!math) return [printable(fileOfFormula(element))];
  const block = attributes['display'] === 'block' || math.attributes['display'] === 'block';
  const clean = cleanMath(math, block);
  return [{ t: 'math', c: printMath(clean), alt: printable(mathWords(clean)), block }];
}

const link: LineMaker = (state, element) => linked(state, element as ResolvedElement);
const nothing: LineMaker = () => [];
const trademarks: Readonly<Record<string, string>> = { tm: '™', reg: '®', service: '℠' };

/** By the element; all others are words in a style. */
const makers: Readonly<Record<string, LineMaker>> = {
  indexterm: nothing,
  desc: nothing,
  object: nothing,
  fn: footnoteElement,
  synnote: footnoteElement,
  boolean: (_state, { attributes }) => [attributes['state'] ?? ''],
  image: (state, element) => inlineImage(state.typesetting(), element),
  mathml: formula,
  xref: link,
  link,
  term: link,
  'abbreviated-form': link,
  cite: link,
  menucascade: (state, element) =>
    childElements(element).flatMap((control, index) => [
      ...(index > 0 ? [' ▸ '] : []),
      ...inline(state, control),
    ]),
  state: (_state, { attributes }) => [`${attributes['name'] ?? ''}=${attributes['value'] ?? ''}`],
  tm: (state, element) => [
    ...inner(state, element),
    trademarks[element.attributes['tmtype'] ?? ''] ?? '',
  ],
};

function plainInline(state: LineState, written: Element): Inline[] {
  const element = asMet(written as ResolvedElement, state.metTerms);
  const marks = state.typesetting().anchorsOf(element);
  const make = element.link === undefined ? makers[element.name] : link;
  if (make) return [...marks, ...make(state, element)];
  const c = inner(state, element);
  if (isExpandable(element.attributes))
    return [...marks, ...placedWords(state, 'expandable', 'in the line', c)];
  const style = inlineStyleOf(element.name);
  const [before, after] = signsAround(element.name);
  return style
    ? [...marks, { t: signs[style], c: [before, ...c, after].filter((one) => one !== '') }]
    : [...marks, ...c];
}

/** The words of a link. */
interface LinkWords {
  /** Its own; undefined where it has none, so that the target gives them. */
  readonly own: readonly Inline[] | undefined;
  /** In the letters of its element. */
  shown(c: readonly Inline[]): Inline[];
}

/** Words that lead somewhere: the element's own, or those that the target gives. */
function linked(state: LineState, element: ResolvedElement): Inline[] {
  const { publication } = state.typesetting();
  const all = inner(state, element);
  const hasOwn =
    lineOf(element) !== '' || all.some((part) => typeof part !== 'string' && part.t === 'img');
  const style = inlineStyleOf(element.name);
  const shown = (c: readonly Inline[]): Inline[] => (style ? [{ t: signs[style], c }] : [...c]);
  const own = hasOwn ? all : undefined;
  const to = element.link === undefined ? undefined : publication.links[element.link];
  const called = to?.kind === 'target' ? state.calledNotes().get(to.anchor) : undefined;
  if (called) return calledNote(state, called);
  if (!to) return shown(all);
  if (to.kind === 'external') return [{ t: 'url', href: to.href, c: shown(own ?? [to.href]) }];
  if (to.kind === 'broken' || to.kind === 'file') return shown(own ?? [printable(to.text)]);
  return to.kind === 'peer'
    ? peerReference(to, { own, shown })
    : crossReference(state, element, to, { own, shown });
}

/** A link into another publication, which is named. */
function peerReference(to: PeerLink, { own, shown }: LinkWords): Inline[] {
  const title = printable(`“${peerTitle(to)}”`);
  const name: Inline = { t: 'i', c: [printable(peerName(to))] };
  const c = shown(own ? [...own, ` (${title}, `, name, ')'] : [title, ' (', name, ')']);
  return to.href === undefined ? c : [{ t: 'url', href: to.href, c }];
}

/** A link within the publication, with the page that it leads to. */
function crossReference(
  state: LineState,
  element: ResolvedElement,
  to: ResolvedLink & { readonly kind: 'target' },
  { own, shown }: LinkWords,
): Inline[] {
  const { publication, references } = state.typesetting();
  const target = publication.targets[to.anchor];
  const form = linkFormOf(element.attributes);
  const named = linkWords(form, to, target, true);
  const isQuoted =
    form !== 'number' &&
    (target?.kind === 'topic' || target?.kind === 'section' || form === 'title');
  const text = own ?? [printable(isQuoted ? `“${named}”` : named)];
  const hasPage = element.name === 'xref' && form !== 'title' && !state.meanings.has(to.anchor);
  const c = hasPage && form === 'page' && !own ? [] : shown(text);
  const reference = { t: 'ref' as const, to: to.anchor, c, page: hasPage };
  references.push(reference);
  return [reference, ...meaning(state, element, to.anchor)];
}

function inlineImage({ assets, words }: Typesetting, element: Element): Inline[] {
  const src = sourceOf(element, assets);
  const outside = outsideImage(element);
  if (outside) return [outside];
  return src === undefined
    ? [`[${altOf(element) || words.figure}]`]
    : [{ t: 'img', src, alt: altOf(element), ...sized(element, assets) }];
}
