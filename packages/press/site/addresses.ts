export const isWebAddress = (address: string): boolean => /^https?:/iu.test(address);
/** Where a page of the site is found on the web. */
export const addressOf = (address: string, path: string): string =>
  `${address.replace(/\/$/u, '')}/${path === 'index.html' ? '' : path}`;
