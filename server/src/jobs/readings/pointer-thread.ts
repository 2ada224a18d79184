/** The thread in which a pointer is looked for: it gives way to everything else. */
import { setPriority } from 'node:os';
import { parentPort, workerData } from 'node:worker_threads';
import { findPointer } from './find-pointer';
import type { FromPointerThread, PointerWork } from './pointer-readings';

const stop = new AbortController();
const tell = (message: FromPointerThread) => parentPort?.postMessage(message);
parentPort?.once('message', () => stop.abort(new Error('called off')));
// Of this thread alone, on Linux.
if (process.platform === 'linux') setPriority(10);

const { media, track } = workerData as PointerWork;
findPointer(media, track, (share) => tell({ is: 'progress', share }), stop.signal)
  .then((reading) => tell({ is: 'done', reading }))
  .catch((error: unknown) => tell({ is: 'failed', why: String(error) }))
  .finally(() => parentPort?.close());
