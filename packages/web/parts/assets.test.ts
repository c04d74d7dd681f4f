import type { AssetPage, ListedAsset, Session } from '@ukiyo/contracts';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, ref, type EffectScope } from 'vue';
import { useAssetList } from './assetList.ts';
import { useAssets } from './assets.ts';
import { useSession } from './session.ts';

const image = (id: string, more: Partial<ListedAsset> = {}): ListedAsset => ({
  id,
  folder: 'images',
  name: `${id}.svg`,
  mediaType: 'image/svg+xml',
  size: 200,
  width: 40,
  height: 30,
  alternateOf: null,
  conditions: {},
  alternates: [],
  ...more,
});

/** What a server with these images was asked for, and a way to tell of changes. */
function serve(images: Map<string, ListedAsset>) {
  const asked: string[] = [];
  let stream: { onmessage?: (message: { data: string }) => void } | undefined;
  const answer = (path: string, body: unknown): unknown => {
    const { pathname, searchParams } = new URL(path, 'http://house.example');
    if (pathname.endsWith('/summaries')) {
      const { ids } = JSON.parse(String(body)) as { ids: string[] };
      asked.push(`summaries ${ids.join()}`);
      return ids.flatMap((id) => images.get(id) ?? []);
    }
    const name = searchParams.get('name') ?? '';
    asked.push(`list ${name}`);
    const assets = [...images.values()].filter((one) => one.name.includes(name));
    return { total: assets.length, assets } satisfies AssetPage;
  };
  vi.stubGlobal(
    'fetch',
    async (path: string, { body }: { body?: unknown }) =>
      new Response(JSON.stringify(answer(path, body))),
  );
  const opened = (one: NonNullable<typeof stream>): void => void (stream = one);
  vi.stubGlobal(
    'EventSource',
    class {
      onmessage?: (message: { data: string }) => void;
      constructor() {
        opened(this);
      }
      close = (): void => undefined;
    },
  );
  return { asked, tell: (kind: string) => stream!.onmessage!({ data: JSON.stringify({ kind }) }) };
}

const settled = (): Promise<unknown> => vi.advanceTimersByTimeAsync(500);
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

describe('images', () => {
  it('are asked for by ID when first needed, together and once', async () => {
    const { asked } = serve(new Map([['a', image('a')]]));
    const assets = useAssets();
    expect([assets.find('a'), assets.find('b')]).toEqual([undefined, undefined]);
    await settled();
    expect(assets.find('a')?.name).toBe('a.svg');
    expect(await assets.load('b')).toBeUndefined();
    expect(asked).toEqual(['summaries a,b']);
  });
  it('are asked for again once images have changed, lists too', async () => {
    const images = new Map([['a', image('a')]]);
    const { asked, tell } = serve(images);
    const assets = useAssets();
    const list = scope.run(() => useAssetList(() => ({ name: 'svg' })))!;
    await settled();
    images.set('a', image('a', { name: 'moved.svg' }));
    images.set('b', image('b'));
    tell('assets');
    await settled();
    expect(list.rows.value.map(({ name }) => name)).toEqual(['moved.svg', 'b.svg']);
    expect(assets.find('a')?.name).toBe('moved.svg');
    expect(asked.filter((one) => one.startsWith('list'))).toEqual(['list svg', 'list svg']);
  });
  it('say when another may be shown in their place, and only then', async () => {
    const images = new Map([['a', image('a')]]);
    const { tell } = serve(images);
    const assets = useAssets();
    assets.find('a');
    await settled();
    tell('assets');
    await settled();
    expect(assets.replacements).toBe(0);
    const alternates = [{ id: 'b', name: 'b.svg', conditions: { product: 'tern-q' } }];
    images.set('a', image('a', { alternates }));
    tell('assets');
    await settled();
    expect([assets.replacements, assets.find('a')?.alternates]).toEqual([1, alternates]);
  });
  it('are listed by the newest words only', async () => {
    const images = new Map(['buoy', 'mooring'].map((id) => [id, image(id)]));
    serve(images);
    const words = ref('buoy');
    const list = scope.run(() => useAssetList(() => ({ name: words.value })))!;
    words.value = 'moor';
    await settled();
    expect(list.rows.value.map(({ id }) => id)).toEqual(['mooring']);
    expect(list.isCurrent.value).toBe(true);
  });
});
