import type { ItemQuery } from '@ukiyo/contracts';

/** Which items a list has. */
export type ListQuery = Partial<Omit<ItemQuery, 'offset' | 'limit'>>;

/** Rows of one request, unless a caller wants others. */
export const pageSize = 100;

/** @param query empty values are as if they were absent */
export const listParameters = (query: ListQuery): URLSearchParams =>
  new URLSearchParams(
    Object.entries(query).flatMap(([name, value]) =>
      value === undefined || value === '' ? [] : [[name, String(value)]],
    ),
  );

/** The path below a project of some rows of a list. */
export function listAddress(query: ListQuery, offset: number, limit = pageSize): string {
  const parameters = listParameters(query);
  parameters.set('offset', String(offset));
  parameters.set('limit', String(limit));
  return `/items?${parameters}`;
}
