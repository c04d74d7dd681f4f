import { allPlaces, type Publication, type ResolvedElement } from '@ukiyo/core/compose';
import { basesOf, isA, isExpandable } from '@ukiyo/core/grammar';
import { readArea } from '@ukiyo/core/imagemaps';
import { linkFormOf } from '@ukiyo/core/library';
import { childElements, childNamed, isElement, lineOf, textOf, type Element, type Node } from '@ukiyo/core/markup';
import { gridOf, type GridCell, type GridRow } from '@ukiyo/core/tables';
import type { StyleSheet } from '@ukiyo/core/styles';
import type { Words } from '@ukiyo/core/words';
import hljs from 'highlight.js';
import { flowOf } from '../shared/flow.ts';
import { linkWords, peerName, peerTitle } from '../shared/links.ts';
import { noteName, wornStyles } from '../shared/worn.ts';
import { join, raw, tag, text, type Html } from './html.ts';
import { mediaHtml, type SiteAssets } from './media.ts';
import type { Pages } from './pages.ts';

/** Renders the topics of one page. */
export interface TopicRenderer {
  /** @param level of the headings in the topic, 2 to 6 */
  render(content: ResolvedElement, level: number): Html;
  /** Of all topics rendered so far, in order. */
  readonly footnotes: readonly Html[];
}

const deepest = 120;

const known = new WeakMap<Publication, ReadonlyMap<string, string>>();
/** What each entry of the glossary says, by its anchor. */
function definitionsOf(publication: Publication): ReadonlyMap<string, string> {
  const found =
    known.get(publication) ?? new Map(allPlaces(publication.places).flatMap(({ anchor, content, shortDescription }) => (content?.name === 'glossentry' ? [[anchor, shortDescription] as const] : [])));
  known.set(publication, found);
  return found;
}

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
const labels: Readonly<Record<string, keyof Words>> = {
  prereq: 'prerequisites',
  result: 'result',
  postreq: 'next',
  tasktroubleshooting: 'troubleshooting',
  condition: 'condition',
  cause: 'cause',
  remedy: 'remedy',
  example: 'example',
  refsyn: 'syntax',
};

export function topicRenderer(publication: Publication, pages: Pages, assets: SiteAssets, words: Words, sheet: StyleSheet): TopicRenderer {
  const worn = wornStyles(sheet);
  const footnotes: Html[] = [];
  let headingTag = 'h2';
  const seen = new Set<string>();
  let inLink = false;
  const definitions = definitionsOf(publication);
  const idOf = (element: Element): string | undefined => {
    const { anchor } = element as ResolvedElement;
    if (anchor === undefined || seen.has(anchor)) return undefined;
    seen.add(anchor);
    return anchor;
  };

  /** What a lens marks. */
  const marked = (element: Element, name: 'span' | 'div', content: Html): Html => {
    const look = (element as ResolvedElement).marked;
    if (!look || content === '') return content;
    const style = [...(look.color === undefined ? [] : [`color:${look.color}`]), ...(look.background === undefined ? [] : [`background:${look.background}`])].join(';');
    return tag(name, { class: look.bar === true ? 'marked bar' : 'marked', style: style || undefined }, content);
  };

  const lines = (nodes: readonly Node[], depth: number): Html => join(nodes.map((node) => (typeof node === 'string' ? text(node) : isElement(node) ? inline(node, depth) : raw(''))));

  const inline = (element: Element, depth: number): Html =>
    marked(
      element,
      'span',
      styled(element, 'span', () => plainInline(element, depth)),
    );
  /** In the style of the team's own that the element wears. */
  const styled = (element: Element, name: 'span' | 'div', make: () => Html): Html => {
    const own = worn.of(element);
    const made = worn.within(element, make);
    return own === undefined || made === '' ? made : tag(name, { class: `style-${own}` }, made);
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
        const number = footnotes.length + 1;
        footnotes.push(raw(''));
        footnotes[number - 1] = blocks(element.children, depth + 1);
        return tag('sup', { class: 'fn-mark' }, tag('a', { href: `#fn-${number}`, id: `fn-mark-${number}` }, text(String(number))));
      }
      case 'image':
        return image(element);
      case 'object':
        return media(element);
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
        return join([inner(), text({ tm: '™', reg: '®', service: '℠' }[element.attributes['tmtype'] ?? ''] ?? '')]);
      default: {
        const [name, className] = inlineTags[element.name] ?? [];
        const id = idOf(element);
        // Closed by the reader's browser: without its script the words are there.
        if (isExpandable(element.attributes)) return tag('span', { id, class: 'expandable' }, inner());
        if (name === undefined) return id === undefined ? inner() : tag('span', { id }, inner());
        return tag(name, { id, class: className }, inner());
      }
    }
  };

  const linked = (element: ResolvedElement, depth: number): Html => {
    const wasInLink = inLink;
    const link = element.link === undefined ? undefined : publication.links[element.link];
    inLink ||= link !== undefined;
    const own = lines(element.children, depth + 1);
    inLink = wasInLink;
    const id = idOf(element);
    const style = (shown: Html): Html => (element.name === 'term' ? tag('dfn', {}, shown) : element.name === 'cite' ? tag('cite', {}, shown) : shown);
    const hasOwn = own !== '';
    if (!link || wasInLink) return style(own);
    if (link.kind === 'external') return tag('a', { href: link.href, id, class: 'external', rel: 'noopener' }, style(hasOwn ? own : text(link.href)));
    if (link.kind === 'peer') {
      const words = style(hasOwn ? own : text(link.text));
      if (link.href !== undefined) return tag('a', { href: link.href, id, class: 'peer', title: peerName(link) }, words);
      return join([words, text(' ('), ...(hasOwn ? [text(`“${peerTitle(link)}”, `)] : []), tag('cite', {}, text(peerName(link))), text(')')]);
    }
    const href = link.kind === 'target' ? pages.href(link.anchor) : undefined;
    const target = link.kind === 'target' ? publication.targets[link.anchor] : undefined;
    const shown = style(hasOwn ? own : text(link.kind === 'target' ? linkWords(linkFormOf(element.attributes), link, target, false) : link.text));
    return href === undefined ? shown : tag('a', { href, id, title: target && definitions.get(target.anchor) }, shown);
  };

  const altOf = (element: Element): string => {
    const child = childNamed(element, 'alt');
    return child ? lineOf(child) : (element.attributes['alt'] ?? '');
  };

  const image = (element: Element, map?: string): Html => {
    const href = element.attributes['href'] ?? '';
    const asset = href.startsWith('asset:') ? assets.find(href.slice('asset:'.length)) : undefined;
    if (!asset) return tag('span', { class: 'missing', role: 'img', 'aria-label': altOf(element) || words.figure }, text(altOf(element) || '—'));
    return tag('img', { src: asset.href, alt: altOf(element), width: asset.width, height: asset.height, id: idOf(element), usemap: map === undefined ? undefined : `#${map}`, loading: 'lazy' });
  };

  const media = (element: Element): Html => mediaHtml(element, assets, idOf(element));

  const blocks = (nodes: readonly Node[], depth: number, tight = false): Html => {
    const flow = flowOf(nodes);
    const [only] = flow;
    if (tight && flow.length === 1 && only?.kind === 'run') return lines(only.nodes, depth);
    return join(flow.map((part) => (part.kind === 'block' ? block(part.element, depth + 1) : paragraph(part.nodes, depth))));
  };
  const paragraph = (nodes: readonly Node[], depth: number, id?: string): Html => {
    const [only] = nodes;
    const alone = nodes.length === 1 && isElement(only) && only.name === 'image';
    return alone ? tag('div', { class: 'picture', id }, image(only)) : tag('p', { id }, lines(nodes, depth));
  };

  const caption = (element: Element, word: string): Html | undefined => {
    const title = childNamed(element, 'title');
    if (!title) return undefined;
    const { anchor } = element as ResolvedElement;
    const number = anchor === undefined ? undefined : publication.targets[anchor]?.number;
    return join([...(number === undefined ? [] : [tag('span', { class: 'number' }, text(`${word} ${number}`)), raw(' ')]), lines(title.children, 0)]);
  };

  const cell = (source: GridCell, row: Element, inHead: boolean, depth: number): Html => {
    const name = source.heads || inHead ? 'th' : 'td';
    const align = source.align === 'right' || source.align === 'center' ? source.align : undefined;
    return tag(
      name,
      {
        id: idOf(source.element),
        colspan: source.columnSpan > 1 ? source.columnSpan : undefined,
        rowspan: source.rowSpan > 1 ? source.rowSpan : undefined,
        scope: name === 'td' ? undefined : inHead ? (source.columnSpan > 1 ? 'colgroup' : 'col') : 'row',
        class: [align, source.valign === 'middle' ? 'middle' : undefined].filter(Boolean).join(' ') || undefined,
      },
      marked(row, 'div', marked(source.element, 'div', blocks(source.element.children, depth, true))),
    );
  };

  const table = (element: Element, source: Element, withCaption: boolean, depth: number): Html => {
    const grid = gridOf(source);
    const titled = withCaption ? caption(element, words.table) : undefined;
    const row = ({ element: source, cells }: GridRow, inHead: boolean): Html => tag('tr', {}, join(cells.map((one) => cell(one, source, inHead, depth))));
    return tag(
      'section',
      // A wide table scrolls inside its frame; the keyboard must be able to reach that frame.
      { class: 'table', id: withCaption ? idOf(element) : undefined, tabindex: 0, 'aria-label': titled === undefined ? words.table : lineOf(childNamed(element, 'title')!) },
      tag(
        'table',
        {},
        ...(titled === undefined ? [] : [tag('caption', {}, titled)]),
        ...(grid.head.length === 0 ? [] : [tag('thead', {}, join(grid.head.map((one) => row(one, true))))]),
        tag('tbody', {}, join(grid.body.map((one) => row(one, false)))),
      ),
    );
  };

  const section = (element: Element, depth: number): Html => {
    const title = childNamed(element, 'title');
    const label = labels[element.name];
    const rest = element.children.filter((child) => child !== title);
    const target = publication.targets[(element as ResolvedElement).anchor ?? ''];
    const count = target?.kind === 'example' && target.number !== undefined ? tag('span', { class: 'number' }, text(`${words.example} ${target.number}`)) : undefined;
    const heading = title ? join([...(count ? [count, text(' ')] : []), lines(title.children, depth)]) : label === undefined ? undefined : text(words[label] as string);
    const id = idOf(element);
    const own = title && worn.of(title);
    const head = heading === undefined ? undefined : tag(headingTag, { class: own === undefined ? undefined : `style-${own}` }, heading);
    if (head !== undefined && isExpandable(element.attributes)) return tag('details', { id, class: element.name }, tag('summary', {}, head), blocks(rest, depth));
    return tag('section', { id, class: element.name }, ...(head === undefined ? [] : [head]), blocks(rest, depth));
  };

  const step = (element: Element, depth: number): Html =>
    tag(
      'li',
      { id: idOf(element) },
      marked(
        element,
        'div',
        join(
          childElements(element).map((part) => {
            if (part.name === 'cmd') return tag('p', { class: 'cmd', id: idOf(part) }, lines(part.children, depth));
            return isA(part.name, 'itemgroup') ? tag('div', { class: part.name, id: idOf(part) }, blocks(part.children, depth)) : block(part, depth);
          }),
        ),
      ),
    );

  const steps = (element: Element, name: 'ol' | 'ul', depth: number): Html => {
    const parts: Html[] = [];
    let count = 0;
    let items: Html[] = [];
    const end = (): void => {
      if (items.length > 0) parts.push(tag(name, { class: 'steps', start: name === 'ol' && count > items.length ? count - items.length + 1 : undefined }, join(items)));
      items = [];
    };
    for (const child of childElements(element)) {
      if (child.name === 'stepsection') {
        end();
        parts.push(tag('div', { class: 'between' }, blocks(child.children, depth)));
        continue;
      }
      count += 1;
      items.push(step(child, depth));
    }
    end();
    const heading = element.name === 'substeps' ? [] : [tag(headingTag, { class: 'label' }, text(words.steps))];
    return element.name === 'substeps' ? join(parts) : tag('section', { class: 'steps', id: idOf(element) }, ...heading, ...parts);
  };

  const code = (element: Element, depth: number): Html => {
    const language = /language-([\w-]+)/u.exec(element.attributes['outputclass'] ?? '')?.[1];
    const plain = element.children.every((child) => typeof child === 'string');
    const highlighted = plain && language !== undefined && hljs.getLanguage(language) ? raw(hljs.highlight(textOf(element), { language }).value) : lines(element.children, depth);
    return tag('div', { class: 'code', id: idOf(element) }, tag('pre', { tabindex: 0 }, tag('code', {}, highlighted)));
  };

  const figure = (element: Element, depth: number): Html => {
    const id = idOf(element);
    const titled = caption(element, words.figure);
    const picture = childNamed(element, 'image');
    const areas = childElements(element).filter((part) => part.name === 'area');
    const isMap = areas.length > 0 && picture !== undefined;
    const mapName = `map-${id ?? 'x'}`;
    const content = childElements(element)
      .filter((part) => !['title', 'desc', 'area'].includes(part.name))
      .map((part) => (part === picture ? tag('div', { class: 'picture' }, image(part, isMap ? mapName : undefined)) : blocks([part], depth)));
    const area = (one: Element): Html => {
      const reference = childNamed(one, 'xref') as ResolvedElement | undefined;
      const link = reference?.link === undefined ? undefined : publication.links[reference.link];
      const href = link?.kind === 'target' ? pages.href(link.anchor) : link?.kind === 'external' || link?.kind === 'peer' ? link.href : undefined;
      const shape = { rect: 'rect', circle: 'circle', poly: 'poly' }[lineOf(childNamed(one, 'shape') ?? one)] ?? 'rect';
      const coords = lineOf(childNamed(one, 'coords') ?? one)
        .split(',')
        .map(Number);
      if (href === undefined || coords.some(Number.isNaN)) return raw('');
      const read = readArea(one);
      const label = read !== undefined && read.name !== '' ? read.name : link?.kind === 'target' || link?.kind === 'peer' ? link.text : href;
      const beside = read?.inNewWindow === true ? { target: '_blank', rel: 'noopener' } : {};
      return tag('area', { shape, coords: coords.join(','), href, alt: label, title: read?.tooltip || label, ...beside });
    };
    return tag('figure', { id }, ...content, ...(isMap ? [tag('map', { name: mapName }, join(areas.map(area)))] : []), ...(titled === undefined ? [] : [tag('figcaption', {}, titled)]));
  };

  const list =
    (name: 'ul' | 'ol', className?: string) =>
    (element: Element, depth: number): Html =>
      tag(name, { id: idOf(element), class: className }, join(childElements(element).map((item) => tag('li', { id: idOf(item) }, marked(item, 'div', blocks(item.children, depth, true))))));

  const note = (element: Element, depth: number): Html => {
    const kind = element.attributes['type'] ?? 'note';
    return tag(
      'div',
      { class: `note ${kind.replace(/[^a-z]/gu, '')}`, id: idOf(element), role: 'note' },
      tag('span', { class: 'note-mark', 'aria-hidden': 'true' }),
      tag('p', { class: 'note-word' }, text(noteName(element, sheet, publication.locale, words))),
      tag('div', {}, blocks(element.children, depth)),
    );
  };

  const definitionList = (element: Element, depth: number): Html =>
    tag(
      'dl',
      { id: idOf(element) },
      join(
        childElements(element)
          .filter((entry) => isA(entry.name, 'dlentry'))
          .flatMap((entry) => {
            const entryId = idOf(entry);
            return childElements(entry).map((part, index) =>
              isA(part.name, 'dt') ? tag('dt', { id: index === 0 ? entryId : undefined }, lines(part.children, depth)) : tag('dd', { id: idOf(part) }, blocks(part.children, depth, true)),
            );
          }),
      ),
    );

  const makers: Readonly<Record<string, (element: Element, depth: number) => Html>> = {
    p: (element, depth) => {
      const flow = flowOf(element.children);
      return flow.length === 1 && flow[0]?.kind === 'run' ? paragraph(flow[0].nodes, depth, idOf(element)) : blocks(element.children, depth);
    },
    title: () => raw(''),
    steps: (element, depth) => steps(element, 'ol', depth),
    'steps-unordered': (element, depth) => steps(element, 'ul', depth),
    substeps: (element, depth) => steps(element, 'ol', depth),
    ul: list('ul'),
    ol: list('ol'),
    sl: list('ul', 'plain'),
    dl: definitionList,
    note,
    pre: code,
    lines: (element, depth) => tag('p', { class: 'lines', id: idOf(element) }, lines(element.children, depth)),
    lq: (element, depth) => tag('blockquote', { id: idOf(element) }, blocks(element.children, depth)),
    fig: figure,
    table: (element, depth) =>
      join(
        childElements(element)
          .filter((part) => part.name === 'tgroup')
          .map((group, index) => table(element, group, index === 0, depth)),
      ),
    simpletable: (element, depth) => table(element, element, true, depth),
    image: (element) => tag('div', { class: 'picture' }, image(element)),
    object: media,
    section,
    example: section,
    'related-links': () => raw(''),
    shortdesc: (element, depth) => tag('p', { class: 'lead', id: idOf(element) }, lines(element.children, depth)),
    'steps-informal': (element, depth) => blocks(element.children, depth),
  };

  const block = (element: Element, depth: number): Html =>
    marked(
      element,
      'div',
      styled(element, 'div', () => plainBlock(element, depth)),
    );
  const plainBlock = (element: Element, depth: number): Html => {
    if (depth > deepest) return tag('p', {}, text(lineOf(element)));
    for (const name of basesOf(element.name)) {
      const make = makers[name];
      if (make) return make(element, depth);
    }
    const id = idOf(element);
    const inner = blocks(element.children, depth);
    return id === undefined ? inner : tag('div', { id }, inner);
  };

  return {
    footnotes,
    render(content, level) {
      headingTag = `h${level}`;
      return worn.within(content, () =>
        join(
          childElements(content).map((part) =>
            part.name === 'title' || part.name === 'glossterm' ? raw('') : isA(part.name, 'body') || part.name === 'abstract' ? blocks(part.children, 0) : block(part, 0),
          ),
        ),
      );
    },
  };
}
