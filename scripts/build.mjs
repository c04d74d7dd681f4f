import { ensureBuilt, ensurePackages } from './prepare.mjs';

await ensurePackages();
await ensureBuilt();
