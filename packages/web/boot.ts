import { keys } from 'idb-keyval';
import { askEarly } from './parts/early.ts';
import { screens, type Screen } from './screens.ts';

/**
 * Begins what the screen of the address needs while the program itself is still read: the router
 * would load the screen only after that, and the screen would ask the server last of all.
 */
const [, name = '', id = ''] = window.location.pathname.split('/');
const screen: Screen = screens[name as keyof typeof screens] ?? screens.library;
// Whoever needs it asks again, and says what failed.
const nothing = (): undefined => undefined;

/** Asks for what the screen shows first, in the project that the session opens. */
async function askForScreen(): Promise<void> {
  const session = await askEarly('/session');
  if (!session.ok) return;
  const { projects } = (await session.clone().json()) as { projects: { id: string }[] };
  for (const path of screen.asks?.(id) ?? []) void askEarly(`/projects/${projects[0]!.id}${path}`);
}

// A browser takes longer to open its store than the server to answer.
if (screen.keepsSteps === true) void keys().catch(nothing);
void Promise.all([askForScreen(), screens.workshop.load(), screen.load()]).catch(nothing);
void import('./main.ts');
