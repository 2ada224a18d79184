#!/usr/bin/env node
/** `npm run fuzz [-- cases [first seed]]`: hostile files against the processing of a real server. */
import * as ready from './lib/ready.mjs';
import { root, run } from './lib/say.mjs';

ready.node();
await ready.packages();
await ready.programs('ffmpeg');
process.env.UNDER_CHALK_ROOT = root;
const { script, server } = await import('./lib/build.mjs');
await server();
process.exit(
  await run(process.execPath, [await script('e2e/src/fuzz-run.ts'), ...process.argv.slice(2)]),
);
