#!/usr/bin/env node
import * as ready from '../scripts/lib/ready.mjs';
import { root, run } from '../scripts/lib/say.mjs';

await ready.packages();
await ready.programs('ffmpeg', 'flite');
const { script } = await import('../scripts/lib/build.mjs');
process.exit(
  await run(process.execPath, [await script('demo/src/make-media.ts'), ...process.argv.slice(2)], {
    cwd: root,
  }),
);
