import type { ResolvedElement, ResolvedLink } from '@ukiyo/core/compose';
import { isExpandable, signsAround } from '@ukiyo/core/grammar';
import { linkFormOf } from '@ukiyo/core/library';
import { readMedia } from '@ukiyo/core/media';
import {
  childElements,
  childNamed,
  isElement,
  lineOf,
  type Element,
  type Node,
} from '@ukiyo/core/markup';
import { normalizeBlocks } from '../blocks/index.ts';
import { cleanMath, mathIn } from '../math/index.ts';
import { asMet, linkWords, peerName, peerTitle } from '../shared/index.ts';
import { ownOf, type Rendering } from './context.ts';
import { isEmpty, join, tag, text, withOwn, type Html } from '../html/index.ts';
import { imageHtml } from './images.ts';
import { mediaHtml } from './media.ts';
import { wordsHtml } from './readers.ts';

const inlineTags: Readonly<Record<string, readonly [string, string?]>> = {
  b: ['b'],
  i: ['i'],
  u: ['u'],
  sup: ['sup'],
  sub: ['sub'],
  'line-through': ['s'],
  tt: ['code'],
  codeph: ['code'],
  userinput: ['kbd'],
  systemoutput: ['samp'],
  filepath: ['code'],
  cmdname: ['code'],
  apiname: ['code'],
  option: ['code'],
  parmname: ['code'],
  synph: ['code'],
  msgnum: ['code'],
  msgph: ['samp'],
  varname: ['var'],
  uicontrol: ['span', 'ui'],
  wintitle: ['span', 'ui'],
  shortcut: ['kbd'],
  term: ['dfn'],
  cite: ['cite'],
  q: ['q'],
  overline: ['span', 'overline'],
  markupname: ['code'],
  xmlelement: ['code'],
  xmlatt: ['code'],
  textentity: ['code'],
  parameterentity: ['code'],
  numcharref: ['code'],
  xmlnsname: ['code'],
  xmlpi: ['code'],
  kwd: ['code'],
  oper: ['code'],
  delim: ['code'],
  sep: ['code'],
  repsep: ['code'],
  var: ['var'],
};

type PeerLink = Extract<ResolvedLink, { readonly kind: 'peer' }>;
type TargetLink = Extract<ResolvedLink, { readonly kind: 'target' }>;

/** Lines of text. */
export const linesHtml = (rendering: Rendering, nodes: readonly Node[]): Html =>
  nodes.map((node) =>
    typeof node === 'string' ? text(node) : isElement(node) ? inline(rendering, node) : [],
  );

/** A phrase, marked and styled as it is to be, for those who get it. */
function inline(rendering: Rendering, element: Element): Html {
  const { marked, styled, forWhom, locale } = rendering;
  const made = marked(
    element,
    'span',
    styled(element, 'span', () =>
      withOwn(plainInline(rendering, element), ownOf(element.attributes, locale), 'span'),
    ),
  );
  const whose = forWhom(element);
  return whose === undefined || isEmpty(made) ? made : tag('span', { class: whose }, made);
}

const within = (rendering: Rendering, element: Element): Html =>
  linesHtml(rendering, element.children);

function plainInline(rendering: Rendering, written: Element): Html {
  const { idOf, metTerms } = rendering;
  const element = asMet(written as ResolvedElement, metTerms);
  if (element.link !== undefined) return linked(rendering, element);
  switch (element.name) {
    case 'indexterm': {
      const id = idOf(element);
      return id === undefined ? [] : tag('span', { id });
    }
    case 'desc':
      return [];
    case 'boolean':
      return text(element.attributes['state'] ?? '');
    case 'fn':
    case 'synnote':
      return isCalled(rendering, element) ? [] : footnote(rendering, element);
    case 'image':
      return imageHtml(rendering, element);
    case 'mathml':
      return formulaHtml(rendering, element);
    case 'object': {
      const media = readMedia(element);
      return media ? mediaHtml(rendering, media, idOf(element)) : [];
    }
    case 'xref':
    case 'term':
    case 'cite':
    case 'link':
      return linked(rendering, element);
    case 'menucascade':
      return menuPath(rendering, element);
    case 'state':
      return text(`${element.attributes['name'] ?? ''}=${element.attributes['value'] ?? ''}`);
    case 'tm':
      return [
        within(rendering, element),
        text({ tm: '™', reg: '®', service: '℠' }[element.attributes['tmtype'] ?? ''] ?? ''),
      ];
    default:
      return phrase(rendering, element);
  }
}

/** A formula, as MathML Core, which browsers and e-readers show. */
function formulaHtml({ normalizing }: Rendering, element: Element): Html {
  const math = mathIn(element, normalizing.fileText);
  const isDisplay = element.attributes['display'] === 'block';
  // A file without a formula is named in its place.
  const file = childElements(element)[0]?.attributes['href'] ?? '';
  return math ? htmlOf(cleanMath(math, isDisplay)) : text(file.slice('asset:'.length));
}

const htmlOf = ({ name, attributes, children }: Element): Html =>
  tag(
    name,
    attributes,
    children.map((child) =>
      typeof child === 'string' ? text(child) : isElement(child) ? htmlOf(child) : [],
    ),
  );

function phrase(rendering: Rendering, element: Element): Html {
  const [name, className] = inlineTags[element.name] ?? [];
  const id = rendering.idOf(element);
  const [before, after] = signsAround(element.name);
  const inner = [text(before), within(rendering, element), text(after)];
  // Closed by the reader's browser: without its script the words are there.
  if (isExpandable(element.attributes)) return tag('span', { id, class: 'expandable' }, inner);
  if (name === undefined) return id === undefined ? inner : tag('span', { id }, inner);
  return tag(name, { id, class: className }, inner);
}

const menuPath = (rendering: Rendering, element: Element): Html =>
  tag(
    'span',
    { class: 'path' },
    join(
      childElements(element).map((control) => inline(rendering, control)),
      [text(' '), tag('span', { class: 'then' }, text('▸')), text(' ')],
    ),
  );

/** Whether a footnote is shown elsewhere, where links lead to it. */
const isCalled = ({ calledNotes }: Rendering, { anchor }: ResolvedElement): boolean =>
  anchor !== undefined && calledNotes.has(anchor);

/**
 * The mark of a footnote, whose words stand below the page; once more where it has been shown
 * before.
 */
function footnote(rendering: Rendering, element: ResolvedElement): Html {
  const { footnotes, notesBefore, noteNumbers, isInLink, blocks, normalizing } = rendering;
  if (isInLink) return [];
  const { anchor, attributes } = element;
  const callout = attributes['callout'];
  const shownAs = anchor === undefined ? undefined : noteNumbers.get(anchor);
  // Footnotes within it come after it.
  const at = shownAs === undefined ? footnotes.push([]) - 1 : -1;
  const number = shownAs ?? notesBefore + at + 1;
  if (shownAs === undefined) {
    if (anchor !== undefined) noteNumbers.set(anchor, number);
    footnotes[at] = [
      callout === undefined ? [] : tag('span', { class: 'callout' }, text(`${callout} `)),
      blocks(normalizeBlocks(element.children, normalizing)),
    ];
  }
  const id = shownAs === undefined ? `fn-mark-${number}` : undefined;
  return tag(
    'sup',
    { class: 'fn-mark' },
    tag('a', { href: `#fn-${number}`, id }, text(callout ?? String(number))),
  );
}

/** The words of a link in the element that they are. */
function styledWords({ name }: Element, words: Html): Html {
  const [tagName, className] = inlineTags[name] ?? [];
  return tagName === undefined ? words : tag(tagName, { class: className }, words);
}

function linked(rendering: Rendering, element: ResolvedElement): Html {
  const { questions, idOf, isInLink } = rendering;
  const link = element.link === undefined ? undefined : questions.link(element.link);
  const called = link?.kind === 'target' ? rendering.calledNotes.get(link.anchor) : undefined;
  if (called) return footnote(rendering, called);
  const own = within(link === undefined ? rendering : { ...rendering, isInLink: true }, element);
  const id = idOf(element);
  if (!link || isInLink) return styledWords(element, own);
  if (link.kind === 'external')
    return tag(
      'a',
      {
        href: link.href,
        id,
        class: 'external',
        rel: 'noopener',
        title: descriptionIn(element),
      },
      styledWords(element, isEmpty(own) ? text(link.href) : own),
    );
  if (link.kind === 'file') {
    const words = styledWords(element, isEmpty(own) ? text(link.text) : own);
    // Only a site has the file beside it.
    const href = rendering.isSite ? questions.asset(link.asset)?.href : undefined;
    return href === undefined ? words : tag('a', { href, id }, words);
  }
  if (link.kind === 'peer') return peerLink(link, own, (words) => styledWords(element, words), id);
  if (link.kind !== 'target') return styledWords(element, isEmpty(own) ? text(link.text) : own);
  const { href, title, numbers, words } = targetOf(rendering, element, link);
  const shown = styledWords(element, isEmpty(own) ? words : own);
  return href === undefined
    ? shown
    : tag('a', { href, id, title, 'data-for': numbers.join(' ') || undefined }, shown);
}

/** What is said of the target of a link, shown when it is pointed at. */
function descriptionIn(element: Element): string | undefined {
  const description = childNamed(element, 'desc');
  return description ? lineOf(description) || undefined : undefined;
}

/** A link into another publication: where it leads, or what it is called there. */
function peerLink(
  link: PeerLink,
  own: Html,
  style: (words: Html) => Html,
  id: string | undefined,
): Html {
  const words = style(isEmpty(own) ? text(link.text) : own);
  if (link.href !== undefined)
    return tag('a', { href: link.href, id, class: 'peer', title: peerName(link) }, words);
  return [
    words,
    text(' ('),
    isEmpty(own) ? [] : text(`“${peerTitle(link)}”, `),
    tag('cite', {}, text(peerName(link))),
    text(')'),
  ];
}

/** What a link within the publication leads to, and what it says where it has no words itself. */
function targetOf(
  { questions, readers }: Rendering,
  element: ResolvedElement,
  link: TargetLink,
): {
  readonly href: string | undefined;
  readonly title: string | undefined;
  readonly numbers: readonly number[];
  readonly words: Html;
} {
  const target = questions.target(link.anchor);
  const words = linkWords(linkFormOf(element.attributes), link, target, false);
  const varied = target && words === target.title ? questions.title(target.anchor) : undefined;
  const number =
    target?.number !== undefined && ` ${words}`.endsWith(` ${target.number}`)
      ? target.number
      : undefined;
  return {
    href: questions.href(link.anchor),
    title: descriptionIn(element) ?? (target && questions.meaning(target.anchor)),
    // Where its target is not for a reader, his browser leaves the words alone.
    numbers: target ? questions.whose(target.anchor) : [],
    words:
      varied !== undefined
        ? wordsHtml(varied)
        : number === undefined
          ? text(words)
          : [text(words.slice(0, -number.length)), readers.number(target!.anchor, number)],
  };
}
