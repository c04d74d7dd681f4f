import { expect, type Page } from '@playwright/test';
import { projectOf } from './pages.ts';

/**
 * What a test needs to be there before a person begins, made by the same requests that the
 * interface makes.
 */
export interface Stock {
  /** Where its project is asked. */
  readonly base: string;
  /** Makes a topic or map and gives its id. @param inner what stands inside the root element */
  item(type: string, title: string, inner: string): Promise<string>;
  /** Says it otherwise, whatever it said before. */
  change(id: string, type: string, inner: string): Promise<void>;
  edition(name: string, map: string, more?: Readonly<Record<string, unknown>>): Promise<string>;
  /** Builds an edition to its end and gives one of the files, as text. */
  built(edition: string, file: string): Promise<string>;
  remove(path: string): Promise<void>;
}

/** @param page of somebody who may do all of it */
export async function stockOf(page: Page): Promise<Stock> {
  const base = await projectOf(page);
  const make = async <Answer>(path: string, data: object): Promise<Answer> =>
    (await (await page.request.post(`${base}/${path}`, { data })).json()) as Answer;
  const put = async (id: string, type: string, inner: string, version: number): Promise<void> => {
    const saved = await page.request.put(`${base}/items/${id}`, {
      data: { text: `<${type} id="${id}">${inner}</${type}>`, version },
    });
    expect(saved.ok(), await saved.text()).toBe(true);
  };
  return {
    base,
    async item(type, title, inner) {
      // A title that a removed topic had goes on counting its versions.
      const { id, version } = await make<{ id: string; version: number }>('items', { type, title });
      await put(id, type, inner, version);
      return id;
    },
    async change(id, type, inner) {
      const { version } = (await (await page.request.get(`${base}/items/${id}`)).json()) as {
        version: number;
      };
      await put(id, type, inner, version);
    },
    edition: async (name, map, more = {}) =>
      (
        await make<{ id: string }>('editions', {
          name,
          output: 'print',
          map,
          lens: null,
          variables: {},
          locale: 'en',
          ...more,
        })
      ).id,
    async built(edition, file) {
      const { id } = await make<{ id: string }>(`editions/${edition}/impressions`, {});
      const state = async (): Promise<string> =>
        ((await (await page.request.get(`${base}/impressions/${id}`)).json()) as { state: string })
          .state;
      await expect.poll(state, { timeout: 120_000 }).toBe('done');
      return (await page.request.get(`${base}/impressions/${id}/files/${file}`)).text();
    },
    remove: async (path) => void (await page.request.delete(`${base}/${path}`)),
  };
}
