#!/usr/bin/env node
/** `npm run cycles`: fails where files import one another in a cycle. */
import { cyclesIn, importsOf } from './lib/imports.mjs';
import { giveUp, say } from './lib/say.mjs';

// The search is tried first: one that finds no cycle anywhere proves nothing.
const known = new Map(Object.entries({ a: ['b'], b: ['c'], c: ['b', 'd'], d: [] }));
if (cyclesIn(known).join() !== 'b,c') giveUp('Cycles are not found where there is one.');
const graph = await importsOf();
if (graph.size < 1_000) giveUp(`Only ${graph.size} files were read.`);
const cycles = cyclesIn(graph);
for (const cycle of cycles) console.error(`  ${cycle.join('\n    ↔ ')}`);
if (cycles.length > 0) giveUp('These files import one another in a cycle.');
say(`${graph.size} files without an import cycle.`);
