import type { AssetQuery, ItemQuery } from '@ukiyo/contracts';

/** Which items a list has. */
export type ListQuery = Partial<Omit<ItemQuery, 'offset' | 'limit'>>;
/** Which images a list has. */
export type AssetListQuery = Partial<Omit<AssetQuery, 'offset' | 'limit'>>;

/** Rows of one request, unless a caller wants others. */
export const pageSize = 100;

/** @param query empty values are as if they were absent */
export const listParameters = (query: object): URLSearchParams =>
  new URLSearchParams(
    Object.entries(query).flatMap(([name, value]) =>
      value === undefined || value === '' ? [] : [[name, String(value)]],
    ),
  );

function pageAddress(path: string, query: object, offset: number, limit: number): string {
  const parameters = listParameters(query);
  parameters.set('offset', String(offset));
  parameters.set('limit', String(limit));
  return `${path}?${parameters}`;
}
/** The path below a project of some rows of a list of items. */
export const listAddress = (query: ListQuery, offset: number, limit = pageSize): string =>
  pageAddress('/items', query, offset, limit);
/** The path below a project of a page of a list of images. */
export const assetListAddress = (query: AssetListQuery, offset: number): string =>
  pageAddress('/assets', query, offset, pageSize);
