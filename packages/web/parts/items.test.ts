import type { ItemPage, ListedItem, Session } from '@ukiyo/contracts';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref, type EffectScope } from 'vue';
import { useAllItems, useItemList } from './itemList.ts';
import type { ListQuery } from './listAddress.ts';
import { useItems } from './items.ts';
import { isActWaiting, useOnceCurrent } from './onceCurrent.ts';
import { useSession } from './session.ts';

const item = (id: string, more: Partial<ListedItem> = {}): ListedItem => ({
  id,
  kind: 'topic',
  type: 'task',
  folder: '',
  name: `${id}.dita`,
  title: id.toUpperCase(),
  shortDescription: '',
  version: 1,
  wordCount: 0,
  problems: { error: 0, warning: 0, info: 0 },
  conditions: {},
  facts: {},
  alternateOf: null,
  updatedAt: '2026-11-30T12:00:00.000Z',
  updatedBy: 'Noor Haddad',
  alternates: 0,
  ...more,
});

/** A server with a library in memory, which says what it was asked for. */
class House {
  readonly asked: string[] = [];
  readonly library = new Map<string, ListedItem>();
  isDown = false;
  #tell: ((message: { data: string }) => void) | undefined;
  #open: (() => void) | undefined;

  constructor(ids: readonly string[]) {
    ids.forEach((id) => this.library.set(id, item(id)));
    vi.stubGlobal('fetch', async (path: string, options: { body?: string }) => {
      if (this.isDown) throw new Error('down');
      return new Response(JSON.stringify(this.#answer(path, options.body)));
    });
    const stream = (now: {
      onmessage?: (message: { data: string }) => void;
      onopen?: () => void;
    }): void => {
      this.#tell = (message) => now.onmessage?.(message);
      this.#open = () => now.onopen?.();
    };
    vi.stubGlobal(
      'EventSource',
      class {
        onmessage?: (message: { data: string }) => void;
        onopen?: () => void;
        constructor() {
          stream(this);
        }
        close = (): void => undefined;
      },
    );
  }
  #answer(path: string, body: string | undefined): unknown {
    const url = new URL(path, 'http://house.example');
    const place = url.pathname.split('/').at(-1)!;
    if (place === 'summaries') {
      const { ids } = JSON.parse(body!) as { ids: string[] };
      this.asked.push(`summaries ${ids.join()}`);
      return ids.flatMap((id) => this.library.get(id) ?? []);
    }
    const offset = Number(url.searchParams.get('offset') ?? 0);
    const limit = Number(url.searchParams.get('limit'));
    const title = url.searchParams.get('title') ?? '';
    this.asked.push(`list ${title}${offset}`);
    const all = [...this.library.values()].filter((one) => one.title.includes(title.toUpperCase()));
    return { total: all.length, items: all.slice(offset, offset + limit) } satisfies ItemPage;
  }
  tell(event: object): void {
    this.#tell!({ data: JSON.stringify(event) });
  }
  reconnect(): void {
    this.#open!();
  }
}

const rest = (): Promise<unknown> => vi.advanceTimersByTimeAsync(2_500);
const many = Array.from({ length: 250 }, (_, at) => `t${String(at).padStart(3, '0')}`);
let scope: EffectScope;

beforeEach(() => {
  vi.useFakeTimers();
  setActivePinia(createPinia());
  scope = effectScope();
  useSession().project = { id: 'p' } as Session['projects'][number];
});
afterEach(() => {
  scope.stop();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
const within = <Made>(make: () => Made): Made => scope.run(make)!;

describe('summaries of items', () => {
  it('are asked for together when they are first needed, and once', async () => {
    const house = new House(['a', 'b']);
    const items = useItems();
    expect([items.find('a'), items.find('b'), items.find('c')]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
    await rest();
    expect(house.asked).toEqual(['summaries a,b,c']);
    expect(items.find('a')?.title).toBe('A');
    expect([items.isMissing('a'), items.isMissing('c')]).toEqual([false, true]);
    await items.load('b');
    expect(house.asked).toHaveLength(1);
  });
  it('are never asked for by an ID that no item can have', async () => {
    const house = new House([]);
    const items = useItems();
    expect(items.isMissing('../x y')).toBe(true);
    await rest();
    expect(house.asked).toEqual([]);
  });
  it('are not asked for a second time while the answer is on its way', async () => {
    const house = new House(['a']);
    const items = useItems();
    items.find('a');
    await Promise.resolve();
    items.find('a');
    await Promise.all([items.load('a'), items.load('a')]);
    expect(house.asked).toEqual(['summaries a']);
  });
  it('are requested without impossible IDs, also after a lost connection', async () => {
    const house = new House(['a']);
    const items = useItems();
    await items.load('a');
    items.find('../x y');
    house.reconnect();
    house.reconnect();
    await rest();
    expect(house.asked.slice(1)).toEqual(['summaries a']);
  });
  it('do not give way to an answer that is older than what this page has written', async () => {
    new House(['a']);
    const items = useItems();
    const answer = items.load('a');
    items.keep(item('a', { version: 2, title: 'Anchor' }));
    await answer;
    expect(items.find('a')?.title).toBe('Anchor');
  });
  it('are asked for again after a change by others, if they were needed before', async () => {
    const house = new House(['a', 'b']);
    const items = useItems();
    await items.load('a');
    house.library.set('a', item('a', { version: 2, title: 'Anchor' }));
    house.tell({ kind: 'item', id: 'a', version: 2, isMap: false });
    house.tell({ kind: 'item', id: 'b', version: 2, isMap: false });
    await rest();
    expect(items.find('a')?.title).toBe('Anchor');
    expect(house.asked).toEqual(['summaries a', 'summaries a']);
  });
  it('are not asked for after a change that this page knows of', async () => {
    const house = new House(['a']);
    const items = useItems();
    await items.load('a');
    items.keep(item('a', { version: 2 }));
    house.tell({ kind: 'item', id: 'a', version: 2, isMap: false });
    await rest();
    expect(house.asked).toEqual(['summaries a']);
  });
  it('are asked for again when a request has failed', async () => {
    const house = new House(['a']);
    const items = useItems();
    house.isDown = true;
    await expect(items.load('a')).rejects.toThrow('cannot be reached');
    expect(items.isMissing('a')).toBe(false);
    house.isDown = false;
    await expect(items.load('a')).resolves.toMatchObject({ title: 'A' });
  });
});

describe('summaries of items', () => {
  it('are asked for again, all that were needed, after the line was lost', async () => {
    const house = new House(['a', 'b']);
    const items = useItems();
    await Promise.all([items.load('a'), items.load('gone')]);
    house.reconnect();
    house.library.set('gone', item('gone'));
    house.library.delete('a');
    house.reconnect();
    await rest();
    expect([items.isMissing('a'), items.isMissing('gone')]).toEqual([true, false]);
    expect(house.asked.at(-1)).toBe('summaries a,gone');
  });
  it('count alternates anew when one comes or goes', async () => {
    const house = new House(['base']);
    const items = useItems();
    await items.load('base');
    house.library.set('base', item('base', { alternates: 1 }));
    house.library.set('other', item('other', { alternateOf: 'base' }));
    items.keep(item('other', { alternateOf: 'base' }));
    await rest();
    expect(items.find('base')?.alternates).toBe(1);
    house.library.set('base', item('base'));
    house.tell({ kind: 'item-gone', id: 'other' });
    await rest();
    expect(items.find('base')?.alternates).toBe(0);
  });
});

describe('a list of items', () => {
  it('asks for the pages that are in sight, and for no other', async () => {
    const house = new House(many);
    const list = within(() => useItemList(() => ({})));
    await rest();
    expect(list.total.value).toBe(250);
    expect(list.rows.value).toHaveLength(100);
    list.show(210, 230);
    await rest();
    expect(house.asked).toEqual(['list 0', 'list 200']);
    expect(list.ids.value[205]).toBe('t205');
    expect(list.ids.value[150]).toBeUndefined();
    // What a list has brought is known.
    expect(useItems().find('t205')?.title).toBe('T205');
    expect(house.asked).toHaveLength(2);
  });
  it('shows what matches the newest words, in whatever order the answers come', async () => {
    const house = new House(many);
    const query = ref<ListQuery>({ title: 't1' });
    const list = within(() => useItemList(() => query.value));
    query.value = { title: 't20' };
    expect(list.isCurrent.value).toBe(false);
    await rest();
    expect(list.isCurrent.value).toBe(true);
    expect(list.total.value).toBe(10);
    expect(house.asked.at(-1)).toBe('list t200');
  });
  it('asks again for the pages in sight after an item was renamed', async () => {
    const house = new House(many);
    const list = within(() => useItemList(() => ({})));
    await rest();
    list.show(210, 230);
    await rest();
    house.library.set('t210', item('t210', { version: 2, title: 'Anchor' }));
    house.tell({ kind: 'item', id: 't210', version: 2, isMap: false });
    await rest();
    expect(house.asked.slice(2)).toEqual(['summaries t210', 'list 200']);
    expect(useItems().find(list.ids.value[210]!)?.title).toBe('Anchor');
  });
  it('is not asked for again when only a text has changed', async () => {
    const house = new House(many);
    within(() => useItemList(() => ({})));
    await rest();
    house.library.set('t001', item('t001', { version: 2, wordCount: 7 }));
    house.tell({ kind: 'item', id: 't001', version: 2, isMap: false });
    await rest();
    expect(house.asked).toEqual(['list 0', 'summaries t001']);
    expect(useItems().find('t001')?.wordCount).toBe(7);
  });
  it('says why it has no rows, and asks again when it is shown again', async () => {
    const house = new House(many);
    house.isDown = true;
    const list = within(() => useItemList(() => ({})));
    await rest();
    expect(list.failure.value).toContain('cannot be reached');
    house.isDown = false;
    list.show(0, 20);
    await rest();
    expect([list.failure.value, list.total.value]).toEqual(['', 250]);
  });
  it('gives all of its items to those who need all', async () => {
    new House(many);
    const rows = within(() => useAllItems(() => ({})));
    await rest();
    expect(rows.value.map(({ id }) => id)).toEqual(many);
    const list = within(() => useItemList(() => ({})));
    expect((await list.loadAll()).map(({ id }) => id)).toEqual(many);
  });
});

/** The parts of a key that count here. */
const press = (key: string): KeyboardEvent =>
  ({ key, preventDefault: () => undefined, stopPropagation: () => undefined }) as KeyboardEvent;

describe('an act on a list that follows what is typed', () => {
  it('waits for the answer to what was typed', async () => {
    const isCurrent = ref(true);
    const done: string[] = [];
    const once = within(() => useOnceCurrent(() => isCurrent.value));
    once.act(() => done.push('at once'));
    expect([once.isWaiting(), once.hold(press('x'))]).toEqual([false, false]);
    isCurrent.value = false;
    await nextTick();
    once.act(() => done.push('late'));
    expect([once.isWaiting(), done]).toEqual([true, ['at once']]);
    isCurrent.value = true;
    await nextTick();
    expect([once.isWaiting(), done]).toEqual([false, ['at once', 'late']]);
  });
  it('tells the screen that something is not done yet', async () => {
    const isCurrent = ref(false);
    const told: boolean[] = [];
    const once = within(() => useOnceCurrent(() => isCurrent.value));
    const act = (): void => once.act(() => told.push(isActWaiting.value));
    act();
    told.push(isActWaiting.value);
    once.hold(press('Escape'));
    told.push(isActWaiting.value);
    act();
    isCurrent.value = true;
    await rest();
    expect([...told, isActWaiting.value]).toEqual([true, false, true, false]);
  });
  it('tells so no longer when its chooser is gone', () => {
    const scope = effectScope();
    const once = scope.run(() => useOnceCurrent(() => false))!;
    once.act(() => undefined);
    scope.stop();
    expect(isActWaiting.value).toBe(false);
  });
  it('is taken back with Esc', async () => {
    const isCurrent = ref(false);
    const done: string[] = [];
    const once = within(() => useOnceCurrent(() => isCurrent.value));
    once.act(() => done.push('taken back'));
    expect(once.hold(press('Escape'))).toBe(true);
    isCurrent.value = true;
    await nextTick();
    expect(done).toEqual([]);
  });
});

describe('keys pressed while an act waits', () => {
  it('are sent to the focus afterwards, in their order', async () => {
    const isCurrent = ref(false);
    const done: string[] = [];
    class Key {
      constructor(
        readonly type: string,
        readonly init: { readonly key: string; readonly ctrlKey: boolean },
      ) {}
    }
    /** It takes Ctrl with space for itself, and leaves letters to the browser. */
    class Field {
      value = '';
      dispatchEvent(event: Event | Key): boolean {
        if (event instanceof Key) done.push(`key ${event.init.key}`);
        return !(event instanceof Key) || !event.init.ctrlKey;
      }
      setRangeText = (text: string): void => void done.push(`text ${text}`);
    }
    vi.stubGlobal('KeyboardEvent', Key);
    vi.stubGlobal('HTMLInputElement', Field);
    let pressNow = (_event: KeyboardEvent): void => undefined;
    vi.stubGlobal('document', {
      activeElement: new Field(),
      addEventListener: (_type: string, hold: typeof pressNow) => (pressNow = hold),
      removeEventListener: () => undefined,
    });
    const once = within(() => useOnceCurrent(() => isCurrent.value));
    once.act(() => done.push('act'));
    for (const key of ['a', 'Shift', ' '])
      once.hold(Object.assign(press(key), { ctrlKey: key === ' ' }));
    isCurrent.value = true;
    await nextTick();
    pressNow(
      Object.assign(press('z'), { isTrusted: true, stopImmediatePropagation: () => undefined }),
    );
    await rest();
    expect(done).toEqual(['act', 'key a', 'text a', 'key Shift', 'key  ', 'key z', 'text z']);
  });
});
