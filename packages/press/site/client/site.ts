/**
 * What a page of the site does in the reader's browser. Everything is readable without it; it needs
 * no server.
 */
import { drawAround, markChapter } from './around.ts';
import { byId, kept, label, make } from './dom.ts';
import { numbersFor, type CountedData } from '../counting.ts';
import type { ContentsData, WordData } from '../data.ts';
import { isForReader, isSeen, whenChosen, shownWords } from './reader.ts';
import type { SiteSearch } from './search.ts';
import { fromHere, page } from './where.ts';

const loading = new Map<string, Promise<void>>();
function load(file: string): Promise<void> {
  const known = loading.get(file);
  if (known) return known;
  const promise = new Promise<void>((resolve, reject) => {
    const script = make('script', { src: fromHere(file) }) as HTMLScriptElement;
    script.onload = () => resolve();
    script.onerror = () => reject(new Error(file));
    document.head.append(script);
  });
  loading.set(file, promise);
  return promise;
}

// ---- numbers of what is for the reader
let numbers: ReadonlyMap<string, string> = new Map();
const counted = window.siteData?.['counted'] as CountedData | undefined;
if (counted)
  whenChosen(() => {
    numbers = numbersFor(counted, isForReader);
    for (const place of document.querySelectorAll<HTMLElement>('[data-n]'))
      place.textContent = numbers.get(place.dataset['n']!) ?? place.textContent;
  });

// ---- contents
function drawContents(): void {
  const entries = window.siteData?.['contents'] as readonly ContentsData[] | undefined;
  const nav = byId('contents');
  if (!entries || !nav) return;
  const holds = (entry: ContentsData): boolean => entry.h === page || (entry.c ?? []).some(holds);
  /** What stands below an entry that is not for the reader stands in its place. */
  const forReader = (items: readonly ContentsData[]): ContentsData[] =>
    items.flatMap((entry) => (isForReader(entry.w) ? [entry] : forReader(entry.c ?? [])));
  const list = (items: readonly ContentsData[]): HTMLElement =>
    make(
      'ul',
      {},
      ...forReader(items).map((entry) => {
        const link = make(
          'a',
          { href: fromHere(entry.h), ...(entry.h === page ? { 'aria-current': 'page' } : {}) },
          ...(entry.n === undefined
            ? []
            : [make('span', { class: 'n' }, numbers.get(entry.a ?? '') ?? entry.n), ' ']),
          shownWords(entry.t),
          ...(entry.m === undefined ? [] : [make('span', { class: 'news' }, label(entry.m))]),
        );
        if (forReader(entry.c ?? []).length === 0) return make('li', {}, link);
        const open = holds(entry);
        const inner = list(entry.c!);
        inner.hidden = !open;
        const toggle = make('button', {
          type: 'button',
          class: 'toggle',
          'aria-expanded': String(open),
          'aria-label': shownWords(entry.t),
        });
        toggle.addEventListener('click', () => {
          inner.hidden = !inner.hidden;
          toggle.setAttribute('aria-expanded', String(!inner.hidden));
        });
        return make('li', {}, toggle, link, inner);
      }),
    );
  const chapter = entries.find(holds);
  markChapter(chapter?.h);
  // Where the chapters stand along the top, the side has what is in the one that is open.
  nav.replaceChildren(list(byId('chapters') && chapter ? (chapter.c ?? []) : entries));
  nav.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' });
}

// ---- index that narrows as one types
async function drawWords(): Promise<void> {
  const holder = byId('words');
  if (!holder || holder.dataset['drawn']) return;
  holder.dataset['drawn'] = 'yes';
  await load('words-data.js');
  const words = (window.siteData?.['words'] ?? []) as readonly WordData[];
  const field = make('input', {
    type: 'search',
    placeholder: label('narrow'),
    'aria-label': label('narrow'),
  }) as HTMLInputElement;
  const list = make('ul', { class: 'words' });
  const draw = (): void => {
    const wanted = field.value.trim().toLocaleLowerCase();
    const shown = forThisReader(words).filter(
      (word) => wanted === '' || word.t.toLocaleLowerCase().includes(wanted),
    );
    list.replaceChildren(
      ...shown.map((word) =>
        make(
          'li',
          { 'data-depth': String(word.d) },
          ...(word.h[0] && word.h.length === 1
            ? [make('a', { href: fromHere(word.h[0][0]) }, word.t)]
            : [
                word.t,
                ...word.h.flatMap(([href, title]) => [
                  ' ',
                  make('a', { href: fromHere(href), class: 'locator' }, shownWords(title)),
                ]),
              ]),
          ...(word.s === undefined ? [] : [make('em', {}, ` ${word.s}`)]),
        ),
      ),
    );
  };
  field.addEventListener('input', draw);
  holder.replaceChildren(field, list);
  whenChosen(draw);
}
/** Without words of which nothing is for the reader; one above others stays with them. */
function forThisReader(words: readonly WordData[]): WordData[] {
  const left: WordData[] = [];
  for (const word of words.toReversed()) {
    const h = word.h.filter(([, , numbers]) => isForReader(numbers));
    const isAbove = (left.at(-1)?.d ?? 0) > word.d;
    if (h.length > 0 || word.s !== undefined || isAbove) left.push({ ...word, h });
  }
  return left.toReversed();
}

for (const tab of document.querySelectorAll<HTMLButtonElement>('[data-panel]')) {
  tab.addEventListener('click', () => {
    for (const other of document.querySelectorAll<HTMLButtonElement>('[data-panel]')) {
      const on = other === tab;
      other.setAttribute('aria-selected', String(on));
      const panel = byId(other.dataset['panel'] ?? '');
      if (panel) panel.hidden = !on;
    }
    if (tab.dataset['panel'] === 'words') void drawWords();
  });
}

const side = byId('side');
const menu = byId('menu');
const frame = side?.parentElement;
const flies = matchMedia(
  document.querySelector<HTMLLinkElement>('link[href$="tablet.css"]')?.media ?? 'not all',
);
const setMenuState = (): void =>
  menu?.setAttribute(
    'aria-expanded',
    String(flies.matches ? side?.classList.contains('open') : !frame?.classList.contains('folded')),
  );
if (frame && !document.body.classList.contains('tiles'))
  frame.classList.toggle('folded', kept.read('site-folded') === 'yes');
flies.addEventListener('change', setMenuState);
setMenuState();
menu?.addEventListener('click', () => {
  if (flies.matches) side?.classList.toggle('open');
  else kept.write('site-folded', frame?.classList.toggle('folded') ? 'yes' : 'no');
  setMenuState();
});
document.addEventListener('keydown', (event) => {
  if (event.key === 'Escape' && side?.classList.contains('open')) menu?.click();
});

// ---- search
async function searchEngine(): Promise<SiteSearch | undefined> {
  await load('search-index.js');
  await load('search.js');
  return window.siteSearch;
}

const field = byId('search') as HTMLInputElement | null;
const results = byId('results');

function withQuery(href: string, query: string): string {
  const [file = '', anchor] = href.split('#');
  return `${file}?q=${encodeURIComponent(query)}${anchor === undefined ? '' : `#${anchor}`}`;
}

async function showResults(): Promise<void> {
  if (!field || !results) return;
  const query = field.value.trim();
  if (query === '') {
    results.hidden = true;
    return;
  }
  const engine = await searchEngine();
  if (field.value.trim() !== query) return;
  const hits = engine?.find(query) ?? [];
  results.hidden = false;
  const count = (hits.length === 0 ? label('none') : label('found')).replace(
    '{n}',
    String(hits.length),
  );
  results.replaceChildren(
    make('p', { class: 'count', role: 'status' }, count),
    make(
      'ol',
      {},
      ...hits.map((hit) =>
        make(
          'li',
          {},
          make('a', { href: withQuery(fromHere(hit.href), query) }, hit.title),
          ...(hit.lead === '' ? [] : [make('p', {}, hit.lead)]),
        ),
      ),
    ),
  );
}
field?.addEventListener('focus', () => void searchEngine());
field?.addEventListener('input', () => void showResults());
window.siteReaders?.onChange(() => void (results?.hidden === false && showResults()));
// A quick reader has typed before this script was there.
if (document.activeElement === field) void showResults();
field?.addEventListener('keydown', (event) => {
  if (event.key === 'Escape') {
    field.value = '';
    void showResults();
  }
  if (event.key === 'ArrowDown') {
    event.preventDefault();
    results?.querySelector('a')?.focus();
  }
});
results?.addEventListener('keydown', (event) => {
  if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
  const links = [...results.querySelectorAll('a')];
  const next =
    links[
      links.indexOf(document.activeElement as HTMLAnchorElement) +
        (event.key === 'ArrowDown' ? 1 : -1)
    ];
  event.preventDefault();
  (next ?? field)?.focus();
});
document.addEventListener('keydown', (event) => {
  if (event.key === '/' && !/^(INPUT|TEXTAREA)$/u.test(document.activeElement?.tagName ?? '')) {
    event.preventDefault();
    field?.focus();
  }
});

// ---- words and parts that open
function openWords(words: HTMLElement, isOpen: boolean): void {
  words.hidden = !isOpen;
  words.previousElementSibling?.setAttribute('aria-expanded', String(isOpen));
}
document.querySelectorAll<HTMLElement>('.expandable').forEach((words, index) => {
  words.id ||= `more-${index + 1}`;
  const button = make(
    'button',
    { type: 'button', class: 'more', 'aria-controls': words.id, 'aria-label': label('more') },
    '…',
  );
  button.addEventListener('click', () => openWords(words, words.hidden === true));
  words.before(button);
  openWords(words, false);
});
/** What is led to or searched for is not hidden. */
function reveal(element: Element | null): void {
  for (
    let at = element?.closest<HTMLElement>('details, .expandable');
    at;
    at = at.parentElement?.closest<HTMLElement>('details, .expandable')
  ) {
    if (at instanceof HTMLDetailsElement) at.open = true;
    else openWords(at, true);
  }
}
const revealTarget = (): void =>
  reveal(location.hash === '' ? null : byId(decodeURIComponent(location.hash.slice(1))));
addEventListener('hashchange', revealTarget);
revealTarget();

// ---- hits marked in the page
async function markHits(query: string): Promise<void> {
  const main = byId('content');
  const engine = await searchEngine();
  if (!main || !engine) return;
  const matches = engine.matcher(query);
  const walker = document.createTreeWalker(main, NodeFilter.SHOW_TEXT);
  const texts: Text[] = [];
  while (walker.nextNode())
    if (isSeen(walker.currentNode.parentElement)) texts.push(walker.currentNode as Text);
  let count = 0;
  for (const text of texts) {
    const parts = [
      ...new Intl.Segmenter(document.documentElement.lang, { granularity: 'word' }).segment(
        text.data,
      ),
    ];
    if (!parts.some((part) => part.isWordLike && matches(part.segment))) continue;
    text.replaceWith(
      ...parts.map((part) => {
        if (!part.isWordLike || !matches(part.segment)) return part.segment;
        count += 1;
        return make('mark', {}, part.segment);
      }),
    );
  }
  if (count === 0) return;
  main.querySelectorAll('mark').forEach(reveal);
  const clear = make(
    'button',
    { type: 'button', class: 'clear-hits' },
    label('clear').replace('{n}', String(count)),
  );
  clear.addEventListener('click', () => {
    for (const mark of main.querySelectorAll('mark')) mark.replaceWith(mark.textContent);
    main.normalize();
    clear.remove();
    history.replaceState(null, '', location.pathname + location.hash);
  });
  main.prepend(clear);
}
const asked = new URLSearchParams(location.search).get('q');
if (asked) {
  if (field) field.value = asked;
  void markHits(asked);
}

// ---- copying code
for (const holder of document.querySelectorAll('.code')) {
  const button = make('button', { type: 'button', class: 'copy' }, label('copy'));
  button.addEventListener('click', () => {
    void navigator.clipboard.writeText(holder.querySelector('pre')?.textContent ?? '').then(() => {
      button.textContent = label('copied');
      setTimeout(() => (button.textContent = label('copy')), 1600);
    });
  });
  holder.append(button);
}

whenChosen(drawContents);
drawAround((all) =>
  document.querySelectorAll<HTMLElement>('.expandable').forEach((words) => openWords(words, all)),
);
