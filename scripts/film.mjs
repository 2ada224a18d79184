#!/usr/bin/env node
/** `npm run film -- <lesson id> --out film.mp4`: an export with no browser. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { root, run } from './lib/say.mjs';

ready.node();
await ready.packages();
await ready.programs('ffmpeg');
await (await import('./lib/build.mjs')).server();
const demo = join(root, 'data', 'demo');
const home =
  process.env.UNDER_CHALK_HOME ??
  (existsSync(join(root, 'data', 'under-chalk.sqlite')) || !existsSync(demo)
    ? join(root, 'data')
    : demo);
process.exit(
  await run(process.execPath, [join(root, 'server/dist/film.js'), ...process.argv.slice(2)], {
    cwd: process.env.INIT_CWD ?? root,
    env: { ...process.env, UNDER_CHALK_HOME: home },
  }),
);
