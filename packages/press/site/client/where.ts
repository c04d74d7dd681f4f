/** From the page to the folder of the site: empty where it stands in it. */
const root = document.body.dataset['root'] ?? '';

/** A file of the site, as the page leads to it. */
export const fromHere = (path: string): string => `${root}${path}`;

const path = location.pathname.split('/').slice(-root.split('/').length).join('/');
/** The file of the page, below the folder of the site; a server can also show it for its folder. */
export const page = path === '' || path.endsWith('/') ? `${path}index.html` : path;
