/** From the page to the folder of the site: empty where it stands in it. */
const root = document.body.dataset['root'] ?? '';

/** A file of the site, as the page leads to it. */
export const fromHere = (path: string): string => `${root}${path}`;

/** The file of the page, below the folder of the site. */
export const page = location.pathname.split('/').slice(-root.split('/').length).join('/') || 'index.html';
