// npm run build: what is served, in dist/.
import { ensureBuilt } from './lib/build.mjs';
import { ensureNodePackages } from './lib/install.mjs';

await ensureNodePackages();
await ensureBuilt();
