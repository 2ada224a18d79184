#!/usr/bin/env node
/** `npm run circles`: two files that need each other are one, or a third is missing. */
import { circlesIn, importsOf } from './lib/circles.mjs';
import { giveUp, say } from './lib/say.mjs';

// It is looked at itself: one that finds none anywhere says nothing.
const known = new Map(Object.entries({ a: ['b'], b: ['c'], c: ['b', 'd'], d: [] }));
if (circlesIn(known).join() !== 'b,c') giveUp('Circles are not found where there is one.');
const graph = await importsOf();
if (graph.size < 1_000) giveUp(`Only ${graph.size} files were looked at.`);
const circles = circlesIn(graph);
for (const circle of circles) console.error(`  ${circle.join('\n    ↔ ')}`);
if (circles.length > 0) giveUp('These files need one another in a circle.');
say(`${graph.size} files, and no circle.`);
