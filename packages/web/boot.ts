import { screens } from './screens.ts';

/**
 * Begins to download the screen that the address names while the program itself is still read: the
 * router would ask for it only after that.
 */
const [, name = ''] = window.location.pathname.split('/');
const begun = screens[name as keyof typeof screens] ?? screens.library;
// The router asks again, and says what failed.
void Promise.all([screens.workshop(), begun()]).catch(() => undefined);
void import('./main.ts');
