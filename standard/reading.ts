import { Window } from 'happy-dom';

/** A page of a help site. */
export interface Page {
  readonly path: string;
  /** The heading without its number; empty on pages that are no topics. */
  readonly heading: string;
  /** What belongs to the topic: neither the way through the site nor its contents. */
  readonly content: Element;
  /** What its head knows besides a description, as `name: content`. */
  readonly known: readonly string[];
  readonly html: string;
}

const window = new Window() as unknown as globalThis.Window & typeof globalThis;
const { document } = window;

/** Elements within a line of text, in HTML and in the structure tree. */
const inline = new Set(
  (
    'a abbr b bdi bdo cite code data del dfn em i ins kbd mark q ruby s samp small span strong ' +
    'sub sup time u var link reference em strong quote'
  ).split(' '),
);

const tidy = (text: string): string => text.replace(/\s+/gu, ' ').trim();

/** The text of an element; what stands in different blocks has a space between. */
export function textOf(element: Element): string {
  const parts = (node: Node): string => {
    if (node.nodeType === 3) return node.textContent ?? '';
    const inside = [...node.childNodes].map(parts).join('');
    return inline.has((node as Element).localName) ? inside : ` ${inside} `;
  };
  return tidy(parts(element));
}

const aroundTopics = '.crumbs, .way, .rights, .inside, .number';

/** @param path of the page in the site */
export function pageOf(path: string, html: string): Page {
  const { body, head } = new window.DOMParser().parseFromString(html, 'text/html');
  const content = body.querySelector('main') ?? body;
  for (const one of content.querySelectorAll(aroundTopics)) one.remove();
  const heading = content.querySelector('article h1');
  const known = [...head.querySelectorAll('meta[name]')]
    .map((one) => `${one.getAttribute('name')}: ${one.getAttribute('content')}`)
    .filter((one) => !/^(viewport|description):/u.test(one));
  return { path, heading: heading ? textOf(heading) : '', content, known, html };
}

/**
 * The structure tree of a PDF (ISO 32000-2, 14.7) as elements, from what `pdfinfo -struct-text` of
 * poppler-utils prints: an element or a quoted text a line, deeper by two spaces a level; attributes
 * begin with a slash.
 */
export function structureOf(printed: string): Element {
  const root = document.createElement('document');
  const open: { readonly depth: number; readonly element: Element }[] = [
    { depth: -1, element: root },
  ];
  for (const line of printed.split('\n')) {
    const words = line.trimStart();
    const depth = line.length - words.length;
    const { element } = open.at(-1)!;
    const attribute = /^\/(\w+) \/?(.*)$/u.exec(words);
    if (attribute) element.setAttribute(attribute[1]!.toLowerCase(), attribute[2]!);
    else if (words.startsWith('"')) within(depth).append(words.replace(/^"|"$/gu, ''));
    else if (/^[A-Z]\w*([ :]|$)/u.test(words) && !words.startsWith('Object ')) {
      const made = document.createElement(/^\w+/u.exec(words)![0].toLowerCase());
      within(depth).append(made);
      open.push({ depth, element: made });
    }
  }
  /** The innermost element that is less deep. */
  function within(depth: number): Element {
    while (open.at(-1)!.depth >= depth) open.pop();
    return open.at(-1)!.element;
  }
  return root;
}
