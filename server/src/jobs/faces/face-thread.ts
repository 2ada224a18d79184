/** The thread in which faces are found. */
import { setPriority } from 'node:os';
import { parentPort } from 'node:worker_threads';
import type { FromFaces, ToFaces } from './face-finder';
import { openFaceReader } from './face-reader';

// Of this thread alone, on Linux.
if (process.platform === 'linux') setPriority(10);
const reader = openFaceReader();
parentPort!.on('message', ({ id, ...picture }: ToFaces) => {
  void reader
    .then((find) => find(picture))
    .catch(() => null)
    .then((faces) => parentPort!.postMessage({ id, faces } satisfies FromFaces));
});
// One that can't begin ends the thread, and says why.
await reader;
