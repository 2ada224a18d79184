/** A fixed workload on two cores: measures how fast the machine currently is. */
import { Buffer } from 'node:buffer';
import { createHash } from 'node:crypto';
import { cpus } from 'node:os';
import { Worker, isMainThread, parentPort } from 'node:worker_threads';
import { fileURLToPath } from 'node:url';

const CORES = 2;
const BYTES = 1 << 20;
const ROUNDS = 100;
const NUMBERS = 5_000_000;

/** Hashing and floating-point sums: native code and JavaScript. */
const work = () => {
  const bytes = Buffer.alloc(BYTES, 7);
  const hash = createHash('sha256');
  for (let round = 0; round < ROUNDS; round++) hash.update(bytes);
  let sum = hash.digest()[0];
  for (let n = 1; n <= NUMBERS; n++) sum += Math.sin(n) / n;
  return sum;
};

/** Runs the workload on both cores at once. @returns duration, s */
export const referenceSeconds = async () => {
  const began = performance.now();
  await Promise.all(
    Array.from(
      { length: Math.min(CORES, cpus().length) },
      () =>
        new Promise((resolve, reject) => {
          const worker = new Worker(fileURLToPath(import.meta.url));
          worker.once('message', resolve).once('error', reject);
        }),
    ),
  );
  return (performance.now() - began) / 1000;
};

if (!isMainThread) parentPort.postMessage(work());
