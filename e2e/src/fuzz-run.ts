/** `npm run fuzz [-- cases [first seed]]`: hostile files against the processing of a real server. */
import { fuzz } from './fuzz';

const [cases = '300', first = '1'] = process.argv.slice(2);
const seeds = Array.from({ length: Number(cases) }, (_, index) => Number(first) + index);
const { faults, ready, slowestMs } = await fuzz(seeds, (seed, what, told) =>
  console.log(`${seed}\t${told}\t${what}`),
);
for (const { seed, what, fault } of faults) console.error(`seed ${seed} (${what}): ${fault}`);
console.log(`${cases} files: ${ready} ready, slowest ${slowestMs} ms, ${faults.length} faults`);
process.exit(faults.length > 0 ? 1 : 0);
