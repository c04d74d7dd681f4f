/**
 * What stands around and upon the content of a page: what is on it, how wide the contents are,
 * large images, all parts opened at once.
 */
import { byId, kept, label, make } from './dom.ts';
import { isSeen, whenChosen } from './reader.ts';
import { fromHere, page } from './where.ts';

const main = byId('content');
const article = main?.querySelector('article');

/** Headings of the page, beside it; where there are only two there is nothing to find. */
function drawHere(): void {
  if (!main || !article) return;
  byId('here')?.remove();
  const headings = [...article.querySelectorAll<HTMLElement>('h2')].filter(isSeen);
  if (headings.length < 3) return;
  const links = headings.map((heading, at) => {
    const holder = heading.closest<HTMLElement>('section[id]') ?? heading;
    holder.id ||= `part-${at + 1}`;
    return make('li', {}, make('a', { href: `#${holder.id}` }, heading.textContent));
  });
  const nav = make(
    'nav',
    { id: 'here', 'aria-label': label('here') },
    make('div', {}, make('h2', {}, label('here')), make('ul', {}, ...links)),
  );
  main.parentElement?.append(nav);
}

/** Opens or closes all parts of the page that can be. */
function drawOpenAll(open: (all: boolean) => void): void {
  const parts = article?.querySelectorAll('details, .expandable') ?? [];
  if (parts.length < 2) return;
  let isOpen = false;
  const button = make(
    'button',
    { type: 'button', class: 'all-open', 'aria-pressed': 'false' },
    label('openAll'),
  );
  button.addEventListener('click', () => {
    isOpen = !isOpen;
    button.setAttribute('aria-pressed', String(isOpen));
    button.textContent = (isOpen ? label('closeAll') : label('openAll')) ?? '';
    for (const part of article!.querySelectorAll('details')) part.open = isOpen;
    open(isOpen);
  });
  article!.querySelector('h1')?.after(button);
}

/** Images that are shown smaller than they are, or drawn so that they can be larger. */
function drawEnlarge(): void {
  for (const image of article?.querySelectorAll<HTMLImageElement>('figure img:not([usemap])') ??
    []) {
    const button = make('button', { type: 'button', class: 'enlarge' }, label('enlarge'));
    button.addEventListener('click', () => {
      const close = make('button', { type: 'button' }, label('close'));
      const dialog = make(
        'dialog',
        { class: 'large', 'aria-label': image.alt },
        make('img', { src: image.src, alt: image.alt }),
        close,
      ) as HTMLDialogElement;
      close.addEventListener('click', () => dialog.close());
      dialog.addEventListener('click', (event) => event.target === dialog && dialog.close());
      dialog.addEventListener('close', () => dialog.remove());
      document.body.append(dialog);
      dialog.showModal();
    });
    image.closest('.picture')?.append(button);
  }
}

/**
 * Tables whose rows can be told line by line where there is no width for them: each cell says under
 * which head it stands.
 */
function nameCells(): void {
  for (const table of main?.querySelectorAll('table') ?? []) {
    const heads = [...(table.tHead?.rows[0]?.cells ?? [])].map(({ textContent }) =>
      textContent.trim(),
    );
    const isPlain =
      table.tHead?.rows.length === 1 &&
      heads.length > 2 &&
      ![...table.querySelectorAll('td, th')].some((cell) => cell.matches('[colspan], [rowspan]'));
    if (!isPlain) continue;
    table.classList.add('stacks');
    for (const row of table.tBodies[0]?.rows ?? [])
      [...row.cells].forEach((cell, at) => cell.setAttribute('data-label', heads[at] ?? ''));
  }
}

/**
 * Heads of tables stay in sight where the whole table has room: one that scrolls sideways would
 * hold them.
 */
function keepHeads(): void {
  const tables = [...document.querySelectorAll<HTMLTableElement>('section.table > table')];
  // Told once all is laid out: asking then costs nothing.
  const observer = new ResizeObserver(() => {
    const fit = tables.map((table) => table.offsetWidth <= table.parentElement!.clientWidth);
    tables.forEach((table, at) => table.parentElement!.classList.toggle('fits', fit[at]));
  });
  for (const table of tables) {
    observer.observe(table);
    observer.observe(table.parentElement!);
  }
}

/** Areas on an image lie where their things are, however large it is shown. */
function scaleAreas(): void {
  for (const image of document.querySelectorAll<HTMLImageElement>('img[usemap]')) {
    const areas = [
      ...document.querySelectorAll<HTMLAreaElement>(
        `map[name="${CSS.escape(image.useMap.slice(1))}"] area`,
      ),
    ].map((area) => ({ area, drawn: area.coords.split(',').map(Number) }));
    new ResizeObserver(() => {
      const own = Number(image.getAttribute('width')) || image.naturalWidth;
      if (own === 0 || image.clientWidth === 0) return;
      const scale = image.clientWidth / own;
      for (const { area, drawn } of areas)
        area.coords = drawn.map((at) => Math.round(at * scale * 10) / 10).join(',');
    }).observe(image);
  }
}

const narrowest = 200;
const widest = 520;
/** How wide the contents are: pulled by hand or moved by keys, and kept. */
function drawEdge(): void {
  const edge = byId('edge');
  const frame = edge?.parentElement;
  if (!edge || !frame) return;
  const set = (wanted: number): void => {
    const width = Math.min(widest, Math.max(narrowest, Math.round(wanted)));
    frame.style.setProperty('--side', `${width}px`);
    edge.setAttribute('aria-valuenow', String(width));
    kept.write('site-side', String(width));
  };
  const now = (): number => Number(edge.getAttribute('aria-valuenow'));
  const isRightToLeft = document.documentElement.dir === 'rtl';
  const known = Number(kept.read('site-side'));
  if (known > 0) set(known);
  edge.addEventListener('keydown', (event) => {
    const step = { ArrowLeft: -20, ArrowRight: 20 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    set(now() + (isRightToLeft ? -step : step));
  });
  edge.addEventListener('pointerdown', (event) => {
    edge.setPointerCapture(event.pointerId);
    const { left, right } = frame.getBoundingClientRect();
    const pull = ({ clientX }: PointerEvent): void =>
      set(isRightToLeft ? right - clientX : clientX - left);
    edge.addEventListener('pointermove', pull);
    edge.addEventListener('pointerup', () => edge.removeEventListener('pointermove', pull), {
      once: true,
    });
  });
}

/** The chapter along the top in which the page stands. */
export function markChapter(file: string | undefined): void {
  for (const link of document.querySelectorAll<HTMLAnchorElement>('#chapters a'))
    link.classList.toggle(
      'on',
      file !== undefined && link.getAttribute('href')?.split('?')[0] === fromHere(file),
    );
}

/** Letters to the makers say of which page they are. */
function fillFeedback(): void {
  const link = byId('feedback') as HTMLAnchorElement | null;
  if (!link) return;
  const title = document.title;
  if (link.href.startsWith('mailto:')) {
    const body = encodeURIComponent(`${title}\n${location.href}\n\n`);
    link.href = `${link.href}?subject=${encodeURIComponent(title)}&body=${body}`;
  } else {
    const url = new URL(link.href);
    url.searchParams.set('title', title);
    url.searchParams.set('page', location.href);
    link.href = url.href;
  }
}

/** Where the reader is on a page, and what he has chosen, goes with him into another language. */
function keepChoices(): void {
  for (const link of document.querySelectorAll<HTMLAnchorElement>('a.language'))
    link.addEventListener('click', () => {
      const query = new URLSearchParams(location.search);
      // Words are looked for in one language.
      query.delete('q');
      const page = link.href.split(/[?#]/u)[0]!;
      link.href = `${page}${query.size > 0 ? `?${query.toString()}` : ''}${location.hash}`;
    });
}

/** @param openWords opens or closes the words that are kept short */
export function drawAround(openWords: (all: boolean) => void): void {
  whenChosen(drawHere);
  drawOpenAll(openWords);
  drawEnlarge();
  nameCells();
  keepHeads();
  scaleAreas();
  drawEdge();
  fillFeedback();
  keepChoices();
  if (byId('no-such-page')) {
    const field = byId('search') as HTMLInputElement | null;
    if (!field) return;
    field.value = (new URLSearchParams(location.search).get('id') ?? decodeURIComponent(page))
      .replace(/\.html?$/u, '')
      .replace(/[-_]+/gu, ' ');
    field.dispatchEvent(new Event('input'));
  }
}
