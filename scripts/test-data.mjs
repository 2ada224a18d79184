#!/usr/bin/env node
/** Makes the data that browser tests begin with, where it isn’t there as the server is now. */
import { script } from './lib/build.mjs';
import { giveUp, root, run } from './lib/say.mjs';

const env = { ...process.env, UNDER_CHALK_ROOT: root };
const code = await run(process.execPath, [await script('e2e/src/prepare-homes.ts')], { env });
if (code !== 0) giveUp('The data of the browser tests could not be made.');
