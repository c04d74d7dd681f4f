/**
 * What the reader has chosen: read before anything is drawn, kept in the browser and in the
 * address, and obeyed by all of the page. What is not for him is hidden by one style sheet, which
 * is made anew when he chooses; the size of the page does not matter.
 */
import { matches, type ValuesByFacet } from '@ukiyo/core/facets';
import { kept } from './dom.ts';
import { classConditions, isForReader } from './reader.ts';
import type { ReadersData } from '../../topics/index.ts';

type Chosen = Readonly<Record<string, readonly string[]>>;
type Offered = ReadersData['facets'][number]['values'][number];

const data = window.siteData?.['readers'] as ReadersData | undefined;
/** In the address and in the browser's store: `product:tern-q;country:velmark,kisara`. */
const parameter = 'for';
const stored = 'site-readers';

if (data) {
  const { facets, conditions } = data;
  const offered = (values: readonly Offered[]): Offered[] =>
    values.flatMap((value) => [value, ...offered(value.c ?? [])]);
  const preset: Chosen = Object.fromEntries(facets.map(({ f, preset }) => [f, preset]));
  const write = (chosen: Chosen): string =>
    facets.map(({ f }) => `${f}:${(chosen[f] ?? []).map(encodeURIComponent).join(',')}`).join(';');
  const read = (text: string): Chosen => {
    const given = new Map(
      text
        .split(';')
        .map((part): [string, string[]] => [
          part.split(':')[0]!,
          (part.split(':')[1] ?? '')
            .split(',')
            .flatMap((value) => (value === '' ? [] : [safely(value)])),
        ]),
    );
    return Object.fromEntries(
      facets.map(({ f, values, many }) => {
        const known = new Set(offered(values).map(({ v }) => v));
        const wanted = (given.get(f) ?? preset[f]!).filter((value) => known.has(value));
        return [f, many ? wanted : wanted.slice(0, 1)];
      }),
    );
  };
  const safely = (value: string): string => {
    try {
      return decodeURIComponent(value);
    } catch {
      return '';
    }
  };
  let chosen = read(new URLSearchParams(location.search).get(parameter) ?? kept.read(stored) ?? '');
  let holds: readonly boolean[] = [];
  const rules = new CSSStyleSheet();
  document.adoptedStyleSheets = [...document.adoptedStyleSheets, rules];
  const listeners: (() => void)[] = [];

  /** What he may have, by facet; every value where he has said nothing. */
  const having = (): ValuesByFacet =>
    Object.fromEntries(
      facets.map(({ f, values }) => {
        const all = offered(values);
        const named = chosen[f] ?? [];
        const wanted = named.length === 0 ? values : all.filter(({ v }) => named.includes(v));
        return [f, [...new Set(wanted.flatMap(({ v, i }) => i ?? [v]))]];
      }),
    );
  const obey = (): void => {
    const values = having();
    holds = conditions.map((when) => matches(when, values));
    const hidden = holds.flatMap((does, number) => (does ? [] : [`.w${number}`]));
    rules.replaceSync(hidden.length === 0 ? '' : `${hidden.join(',')}{display:none!important}`);
    for (const act of listeners) act();
  };
  const isPreset = (): boolean => write(chosen) === write(preset);
  const withChoice = (href: string): string => {
    const url = new URL(href, location.href);
    if (isPreset()) url.searchParams.delete(parameter);
    else url.searchParams.set(parameter, write(chosen));
    return url.href;
  };
  const say = (): void => {
    // Readers who let nothing be kept have their choice in the address.
    kept.write(stored, write(chosen));
    const address = withChoice(location.href);
    if (address !== location.href) history.replaceState(null, '', address);
  };
  const choose = (facet: string, values: readonly string[]): void => {
    chosen = { ...chosen, [facet]: values };
    say();
    obey();
  };
  obey();
  say();

  window.siteReaders = {
    isFor: (numbers) => (numbers ?? []).every((number) => holds[number] !== false),
    onChange(act) {
      listeners.push(act);
      act();
    },
  };

  const draw = (form: HTMLElement, all: string): void => {
    const options = (values: readonly Offered[], depth: number): HTMLOptionElement[] =>
      values.flatMap(({ v, t, c = [] }) => {
        const option = document.createElement('option');
        option.value = v;
        option.textContent = `${'\u2003'.repeat(depth)}${t}`;
        return [option, ...options(c, depth + 1)];
      });
    const one = ({ f, t, values }: ReadersData['facets'][number]): HTMLElement => {
      const label = document.createElement('label');
      const select = document.createElement('select');
      const every = document.createElement('option');
      every.value = '';
      every.textContent = all;
      select.append(every, ...options(values, 0));
      select.value = chosen[f]?.[0] ?? '';
      select.addEventListener('change', () => choose(f, select.value === '' ? [] : [select.value]));
      label.append(t, ' ', select);
      return label;
    };
    const several = ({ f, t, values }: ReadersData['facets'][number]): HTMLElement => {
      const group = document.createElement('fieldset');
      const legend = document.createElement('legend');
      legend.textContent = t;
      group.append(legend);
      for (const { v, t: words } of offered(values)) {
        const label = document.createElement('label');
        const box = document.createElement('input');
        box.type = 'checkbox';
        box.checked = chosen[f]?.includes(v) ?? false;
        box.addEventListener('change', () =>
          choose(
            f,
            offered(values).flatMap((value) =>
              (value.v === v ? box.checked : chosen[f]?.includes(value.v)) ? [value.v] : [],
            ),
          ),
        );
        label.append(box, ' ', words);
        group.append(label);
      }
      return group;
    };
    form.replaceChildren(...facets.map((facet) => (facet.many ? several(facet) : one(facet))));
  };
  const nameOf = ({ f, values }: ReadersData['facets'][number]): string[] =>
    offered(values).flatMap(({ v, t }) => (chosen[f]?.includes(v) ? [t] : []));

  document.addEventListener('DOMContentLoaded', () => {
    const holder = document.getElementById('readers');
    const now = document.getElementById('readers-now');
    const form = document.getElementById('readers-choices');
    const all = holder?.dataset['all'] ?? '';
    if (holder instanceof HTMLDetailsElement && form) {
      draw(form, all);
      holder.hidden = false;
      // Where there is room the choices stand open; on a phone a line says what they are.
      holder.open = !matchMedia(
        document.querySelector<HTMLLinkElement>('link[href$="tablet.css"]')?.media ?? 'not all',
      ).matches;
    }
    const note = document.getElementById('not-for-you');
    const numbersIn = (said: string | undefined): readonly number[] =>
      said?.split(' ').map(Number) ?? [];
    const numbersOf = ({ dataset }: HTMLElement): readonly number[] => numbersIn(dataset['for']);
    window.siteReaders!.onChange(() => {
      if (now) now.textContent = facets.flatMap(nameOf).join(', ') || all;
      if (note) note.hidden = isForReader(numbersOf(document.body));
      for (const other of document.querySelectorAll<HTMLElement>('[data-unless]'))
        other.hidden = isForReader(numbersIn(other.dataset['unless']));
      for (const link of document.querySelectorAll<HTMLAnchorElement>('main a[data-for]')) {
        const leads = isForReader(numbersOf(link));
        if (leads && link.dataset['href'] !== undefined) link.href = link.dataset['href'];
        else if (!leads && link.hasAttribute('href')) {
          link.dataset['href'] = link.getAttribute('href')!;
          link.removeAttribute('href');
        }
      }
      for (const list of document.querySelectorAll<HTMLElement>('.related, .inside, .since'))
        list.hidden = [...list.querySelectorAll('li')].every(
          (one) => !isForReader(classConditions(one)),
        );
      // Steps go on counting behind what stands between them.
      for (const list of document.querySelectorAll<HTMLOListElement>('ol.steps[start]')) {
        const before = [
          ...list.parentElement!.querySelectorAll<HTMLElement>(':scope > ol.steps'),
        ].filter((one) => one.compareDocumentPosition(list) & Node.DOCUMENT_POSITION_FOLLOWING);
        list.start =
          1 +
          before
            .flatMap((one) => [...one.children] as HTMLElement[])
            .filter((step) => isForReader(classConditions(step))).length;
      }
      for (const links of document.querySelectorAll('.nearest')) {
        let isNear = true;
        for (const link of links.querySelectorAll<HTMLElement>('a')) {
          link.hidden = !isNear || !isForReader(classConditions(link));
          isNear &&= link.hidden;
        }
      }
    });
    document.getElementById('show-all')?.addEventListener('click', () => {
      chosen = Object.fromEntries(facets.map(({ f }) => [f, []]));
      say();
      obey();
      if (form) draw(form, all);
    });
  });
  // A link that is copied or opened beside this page carries what was chosen.
  document.addEventListener(
    'click',
    (event) => {
      const link = (event.target as Element).closest<HTMLAnchorElement>('a[href]');
      if (
        !link ||
        isPreset() ||
        link.origin !== location.origin ||
        link.getAttribute('href')!.startsWith('#') ||
        /(^|\s)(external|peer)(\s|$)/u.test(link.className)
      )
        return;
      link.href = withChoice(link.href);
    },
    { capture: true },
  );
}
