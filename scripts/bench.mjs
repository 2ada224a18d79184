#!/usr/bin/env node
/** `npm run bench [name]`: each benchmark against its own lower bound in the same run. */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import * as ready from './lib/ready.mjs';
import { giveUp, root, run } from './lib/say.mjs';

ready.node();
await ready.packages();
await ready.programs('ffmpeg', 'chromium', 'flite', 'pocketsphinx', 'espeak-ng');
process.env.UNDER_CHALK_ROOT = root;
const { app, script, server } = await import('./lib/build.mjs');
await app();
await server();
const names = readdirSync(join(root, 'bench/src'))
  .filter((file) => file.endsWith('.bench.ts'))
  .map((file) => file.replace('.bench.ts', ''));
const wanted = process.argv[2] ? [process.argv[2]] : names;
for (const name of wanted) {
  if (!names.includes(name))
    giveUp(`There is no benchmark “${name}”; there are: ${names.join(', ')}.`);
  const code = await run(process.execPath, [
    await script(`bench/src/${name}.bench.ts`),
    ...process.argv.slice(3),
  ]);
  if (code !== 0) process.exit(code);
}
