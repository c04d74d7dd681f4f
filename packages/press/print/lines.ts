import type { ResolvedElement } from '@ukiyo/core/compose';
import { isExpandable, inlineStyleOf, type InlineStyle } from '@ukiyo/core/grammar';
import {
  childElements,
  childNamed,
  isElement,
  lineOf,
  type Element,
  type Node,
} from '@ukiyo/core/markup';
import { linkFormOf } from '@ukiyo/core/library';
import { said, valuesOf } from '@ukiyo/core/styles';
import { linkWords, peerName, peerTitle } from '../shared/links.ts';
import { printable } from '../shared/text.ts';
import { deepest, type Context } from './context.ts';
import type { Block, Inline } from './document.ts';
import { altOf, sized, sourceOf } from './images.ts';

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

export interface Lines {
  inlines(nodes: readonly Node[], depth: number): Inline[];
  linked(element: ResolvedElement, depth: number): Inline[];
}

/** Lines of text. @param blocks what a footnote has in it */
export function linesOf(
  context: Context,
  blocks: (nodes: readonly Node[], depth: number) => Block[],
): Lines {
  const { publication, sheet, words, worn, at, markingOf, references } = context;
  const meanings = new Map(
    publication.glossary.map(({ anchor, content }) => [
      anchor,
      printable(lineOf(childNamed(content, 'glossdef') ?? content)),
    ]),
  );
  let inFootnote = false;

  const inlines = (nodes: readonly Node[], depth: number): Inline[] =>
    nodes.flatMap((node) =>
      typeof node === 'string' ? [printable(node)] : isElement(node) ? inline(node, depth) : [],
    );

  const inline = (element: Element, depth: number): Inline[] => {
    const plain = worn.within(element, () => plainInline(element, depth));
    const own = worn.of(element);
    const c: Inline[] =
      own === undefined || plain.length === 0 ? plain : standing(own, 'in the line', plain);
    const marking = markingOf(element);
    return marking && c.length > 0 ? [{ t: 'mark', c, ...marking }] : c;
  };
  /** Inside the table that gathers its own, else at the foot of the page. */
  const footnote = (c: Block[]): Inline => {
    const sign = context.gather(c);
    return sign === undefined ? { t: 'fn', c } : { t: 'sup', c: [sign] };
  };
  const standsOf = new Map<string, string | undefined>();
  /** Words in a style, where it says that they stand on paper. */
  const standing = (style: string, usual: string, c: readonly Inline[]): Inline[] => {
    if (!standsOf.has(style)) standsOf.set(style, said(valuesOf(sheet, style, 'print'), 'stands'));
    const shown: Inline = { t: 's', s: style, c };
    const stands = standsOf.get(style) ?? usual;
    if (stands === 'nowhere') return [];
    if (stands === 'in the line') return [shown];
    return stands === 'in brackets' || inFootnote
      ? [' (', shown, ')']
      : [footnote([{ t: 'p', c: [shown] }])];
  };
  const told = new Set<string>();
  /** What a term means, where it is met for the first time in a topic. */
  const meaning = ({ origin }: ResolvedElement, anchor: string): Inline[] => {
    const definition = meanings.get(anchor);
    const first = `${origin.item} ${anchor}`;
    if (definition === undefined || told.has(first)) return [];
    told.add(first);
    return standing('meaning', 'nowhere', [definition]);
  };
  const plainInline = (element: Element, depth: number): Inline[] => {
    if (depth > deepest) return [printable(lineOf(element))];
    const marks: Inline[] = at(element).map((id) => ({ t: 'at', id }));
    const inner = (): Inline[] => inlines(element.children, depth + 1);
    switch (element.name) {
      case 'indexterm':
        return marks;
      case 'fn': {
        if (inFootnote) return inner();
        inFootnote = true;
        const c = blocks(element.children, depth + 1);
        inFootnote = false;
        return [...marks, footnote(c)];
      }
      case 'image':
        return [...marks, ...inlineImage(element)];
      case 'xref':
      case 'link':
      case 'term':
      case 'abbreviated-form':
      case 'cite':
        return [...marks, ...linked(element as ResolvedElement, depth)];
      case 'menucascade':
        return [
          ...marks,
          ...childElements(element).flatMap((control, index): Inline[] => [
            ...(index > 0 ? [' ▸ '] : []),
            ...inline(control, depth + 1),
          ]),
        ];
      case 'state':
        return [`${element.attributes['name'] ?? ''}=${element.attributes['value'] ?? ''}`];
      case 'tm':
        return [
          ...inner(),
          { tm: '™', reg: '®', service: '℠' }[element.attributes['tmtype'] ?? ''] ?? '',
        ];
      case 'desc':
      case 'object':
        return [];
      default: {
        const inline = inlineStyleOf(element.name);
        const style = inline && signs[inline];
        if (isExpandable(element.attributes))
          return [...marks, ...standing('expandable', 'in the line', inner())];
        return style ? [...marks, { t: style, c: inner() }] : [...marks, ...inner()];
      }
    }
  };

  const linked = (element: ResolvedElement, depth: number): Inline[] => {
    const own = inlines(element.children, depth + 1);
    const hasOwn =
      lineOf(element) !== '' || own.some((part) => typeof part !== 'string' && part.t === 'img');
    const style = element.name === 'term' || element.name === 'cite' ? ('i' as const) : undefined;
    const shown = (text: readonly Inline[]): Inline[] =>
      style ? [{ t: style, c: text }] : [...text];
    const link = element.link === undefined ? undefined : publication.links[element.link];
    if (!link) return shown(own);
    if (link.kind === 'external')
      return [{ t: 'url', href: link.href, c: shown(hasOwn ? own : [link.href]) }];
    if (link.kind === 'broken') return shown(hasOwn ? own : [link.text]);
    if (link.kind === 'peer') {
      const title = printable(`“${peerTitle(link)}”`);
      const c = shown(
        hasOwn
          ? [...own, ` (${title}, `, { t: 'i', c: [printable(peerName(link))] }, ')']
          : [title, ' (', { t: 'i', c: [printable(peerName(link))] }, ')'],
      );
      return link.href === undefined ? c : [{ t: 'url', href: link.href, c }];
    }
    const target = publication.targets[link.anchor];
    const form = linkFormOf(element.attributes);
    const named = linkWords(form, link, target, true);
    const isQuoted =
      form !== 'number' &&
      (target?.kind === 'topic' || target?.kind === 'section' || form === 'title');
    const text = hasOwn ? own : [printable(isQuoted ? `“${named}”` : named)];
    const hasPage = element.name === 'xref' && form !== 'title' && !meanings.has(link.anchor);
    const reference = {
      t: 'ref' as const,
      to: link.anchor,
      c: hasPage && form === 'page' && !hasOwn ? [] : shown(text),
      page: hasPage,
    };
    references.push(reference);
    return [reference, ...meaning(element, link.anchor)];
  };
  const inlineImage = (element: Element): Inline[] => {
    const src = sourceOf(element, context.assets);
    return src === undefined
      ? [`[${altOf(element) || words.figure}]`]
      : [{ t: 'img', src, alt: altOf(element), ...sized(element) }];
  };
  return { inlines, linked };
}
