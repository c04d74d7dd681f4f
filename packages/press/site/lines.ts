import type { ResolvedElement } from '@ukiyo/core/compose';
import { isExpandable } from '@ukiyo/core/grammar';
import { linkFormOf } from '@ukiyo/core/library';
import { childElements, isElement, lineOf, type Element, type Node } from '@ukiyo/core/markup';
import { linkWords, peerName, peerTitle } from '../shared/links.ts';
import { deepest, type PageContext } from './context.ts';
import { join, raw, tag, text, type Html } from './html.ts';
import { imageHtml } from './images.ts';
import { mediaHtml } from './media.ts';
import { saidHtml } from './readers.ts';

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
};
export type Lines = (nodes: readonly Node[], depth: number) => Html;

/** Lines of text. @param blocks what a footnote has in it */
export function linesOf(
  context: PageContext,
  blocks: (nodes: readonly Node[], depth: number) => Html,
): Lines {
  const { around, readers, footnotes, idOf, forWhom, marked, styled } = context;
  let inLink = false;

  const lines = (nodes: readonly Node[], depth: number): Html =>
    join(
      nodes.map((node) =>
        typeof node === 'string' ? text(node) : isElement(node) ? inline(node, depth) : raw(''),
      ),
    );

  const inline = (element: Element, depth: number): Html => {
    const made = marked(
      element,
      'span',
      styled(element, 'span', () => plainInline(element, depth)),
    );
    const whose = forWhom(element);
    return whose === undefined || made === '' ? made : tag('span', { class: whose }, made);
  };
  const plainInline = (element: Element, depth: number): Html => {
    if (depth > deepest) return text(lineOf(element));
    const inner = (): Html => lines(element.children, depth + 1);
    switch (element.name) {
      case 'indexterm': {
        const id = idOf(element);
        return id === undefined ? raw('') : tag('span', { id });
      }
      case 'desc':
        return raw('');
      case 'fn': {
        if (inLink) return raw('');
        const at = footnotes.push(raw('')) - 1;
        const number = context.notesBefore + at + 1;
        footnotes[at] = blocks(element.children, depth + 1);
        return tag(
          'sup',
          { class: 'fn-mark' },
          tag('a', { href: `#fn-${number}`, id: `fn-mark-${number}` }, text(String(number))),
        );
      }
      case 'image':
        return imageHtml(context, element);
      case 'object':
        return mediaHtml(element, context, idOf(element));
      case 'xref':
      case 'term':
      case 'abbreviated-form':
      case 'cite':
      case 'link':
        return linked(element as ResolvedElement, depth);
      case 'menucascade':
        return tag(
          'span',
          { class: 'path' },
          join(
            childElements(element).map((control) => inline(control, depth + 1)),
            ' <span class="then">▸</span> ',
          ),
        );
      case 'state':
        return text(`${element.attributes['name'] ?? ''}=${element.attributes['value'] ?? ''}`);
      case 'tm':
        return join([
          inner(),
          text({ tm: '™', reg: '®', service: '℠' }[element.attributes['tmtype'] ?? ''] ?? ''),
        ]);
      default: {
        const [name, className] = inlineTags[element.name] ?? [];
        const id = idOf(element);
        // Closed by the reader's browser: without its script the words are there.
        if (isExpandable(element.attributes))
          return tag('span', { id, class: 'expandable' }, inner());
        if (name === undefined) return id === undefined ? inner() : tag('span', { id }, inner());
        return tag(name, { id, class: className }, inner());
      }
    }
  };

  const linked = (element: ResolvedElement, depth: number): Html => {
    const wasInLink = inLink;
    const link = element.link === undefined ? undefined : around.link(element.link);
    inLink ||= link !== undefined;
    const own = lines(element.children, depth + 1);
    inLink = wasInLink;
    const id = idOf(element);
    const style = (shown: Html): Html =>
      element.name === 'term'
        ? tag('dfn', {}, shown)
        : element.name === 'cite'
          ? tag('cite', {}, shown)
          : shown;
    const hasOwn = own !== '';
    if (!link || wasInLink) return style(own);
    if (link.kind === 'external')
      return tag(
        'a',
        { href: link.href, id, class: 'external', rel: 'noopener' },
        style(hasOwn ? own : text(link.href)),
      );
    if (link.kind === 'peer') {
      const words = style(hasOwn ? own : text(link.text));
      if (link.href !== undefined)
        return tag('a', { href: link.href, id, class: 'peer', title: peerName(link) }, words);
      return join([
        words,
        text(' ('),
        ...(hasOwn ? [text(`“${peerTitle(link)}”, `)] : []),
        tag('cite', {}, text(peerName(link))),
        text(')'),
      ]);
    }
    const href = link.kind === 'target' ? around.href(link.anchor) : undefined;
    const target = link.kind === 'target' ? around.target(link.anchor) : undefined;
    const words =
      link.kind === 'target'
        ? linkWords(linkFormOf(element.attributes), link, target, false)
        : link.text;
    const said = target && words === target.title ? around.title(target.anchor) : undefined;
    const end =
      target?.number === undefined || !words.endsWith(` ${target.number}`)
        ? undefined
        : words.slice(0, -target.number.length);
    const given =
      said !== undefined
        ? saidHtml(said)
        : end !== undefined
          ? join([text(end), readers.number(target!.anchor, target!.number!)])
          : text(words);
    const shown = style(hasOwn ? own : given);
    // Where its target is not for a reader, his browser leaves the words alone.
    const numbers = target ? around.whose(target.anchor) : [];
    return href === undefined
      ? shown
      : tag(
          'a',
          {
            href,
            id,
            title: target && around.meaning(target.anchor),
            'data-for': numbers.join(' ') || undefined,
          },
          shown,
        );
  };

  return lines;
}
