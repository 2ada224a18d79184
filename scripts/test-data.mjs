#!/usr/bin/env node
/** Prepares the data folders that browser tests start with. */
import { script } from './lib/build.mjs';
import { giveUp, root, run } from './lib/say.mjs';

const env = { ...process.env, UNDER_CHALK_ROOT: root };
const code = await run(process.execPath, [await script('e2e/src/prepare-homes.ts')], { env });
if (code !== 0) giveUp('The data for the browser tests could not be prepared.');
