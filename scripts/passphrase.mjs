#!/usr/bin/env node
/** `npm run passphrase`: sets another passphrase where the old one is forgotten. */
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { root, run } from './lib/say.mjs';

ready.node();
await ready.packages();
await (await import('./lib/build.mjs')).server();
process.exit(
  await run(process.execPath, [join(root, 'server/dist/passphrase.js')], {
    cwd: process.env.INIT_CWD ?? root,
    env: { ...process.env, UNDER_CHALK_HOME: process.env.UNDER_CHALK_HOME ?? join(root, 'data') },
  }),
);
