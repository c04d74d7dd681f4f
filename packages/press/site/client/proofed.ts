/**
 * What a page does while the workshop shows it in a frame: it takes the text as it is written and
 * the colours as they are chosen, and reports clicks on elements of the topic. The page runs in an
 * origin of its own; only messages pass (`FrameOrder`, `FrameReport`).
 */
import { byId } from './dom.ts';
import { page } from './where.ts';

type Order =
  | { readonly kind: 'rules'; readonly name: string; readonly css: string }
  | { readonly kind: 'content'; readonly html: string }
  | { readonly kind: 'mark'; readonly at: readonly number[] | undefined }
  | { readonly kind: 'reload' };

const report = (message: object): void => parent.postMessage(message, '*');
const rules = new Map<string, CSSStyleSheet>();

function setRules(name: string, css: string): void {
  const known = rules.get(name) ?? new CSSStyleSheet();
  known.replaceSync(css);
  if (rules.has(name)) return;
  rules.set(name, known);
  document.adoptedStyleSheets = [...document.adoptedStyleSheets, known];
}

/** The page as it is written takes the place of that which is stored; what is around it stays. */
function setContent(html: string): void {
  const content = new DOMParser().parseFromString(html, 'text/html').getElementById('content');
  if (content) byId('content')?.replaceWith(document.adoptNode(content));
}

/** Marks where the caret is: the innermost element that says where it stands. */
function mark(at: readonly number[] | undefined): void {
  for (const one of document.querySelectorAll<HTMLElement>('[data-caret]'))
    delete one.dataset['caret'];
  for (let depth = at?.length ?? 0; depth > 0; depth -= 1) {
    const path = at!.slice(0, depth).join('.');
    const found = document.querySelector<HTMLElement>(`[data-at="${path}"]`);
    if (!found) continue;
    found.dataset['caret'] = '';
    const { top, bottom } = found.getBoundingClientRect();
    if (top < 0 || bottom > innerHeight) scrollBy({ top: top - innerHeight / 3 });
    return;
  }
}

function obey(order: Order): void {
  if (order.kind === 'rules') setRules(order.name, order.css);
  else if (order.kind === 'content') setContent(order.html);
  else if (order.kind === 'mark') mark(order.at);
  else {
    report({ kind: 'reloading' });
    location.reload();
  }
}

// Only the workshop can be the parent: `frame-ancestors` names it.
addEventListener('message', ({ source, data }: MessageEvent<Order>) => {
  if (source === parent) obey(data);
});
document.addEventListener('click', ({ target }) => {
  const hit = (target as Element).closest<HTMLElement>('[data-at]');
  if (!hit || (target as Element).closest('a[href], button, summary, select')) return;
  const path = hit.dataset['at'] ?? '';
  report({ kind: 'go', path: path === '' ? [] : path.split('.').map(Number) });
});
report({ kind: 'ready', page });
