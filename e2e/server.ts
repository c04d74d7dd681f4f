import { join } from 'node:path';
import { freshGround, serve } from './serving.ts';

/**
 * Starts the real server over a database of its own, seeded with the demo; gives back what stops
 * it.
 */
export default async function start(): Promise<() => Promise<void>> {
  const root = process.cwd();
  const { stop } = await serve(await freshGround('e2e'), 4780, {
    WEB_FOLDER: join(root, 'packages/web/dist'),
    DEMO_FOLDER: join(root, 'demo'),
  });
  return stop;
}
