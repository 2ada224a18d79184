/** The thread in which a film is made, so that painting doesn't hold up the answers of the server. */
import { parentPort, workerData } from 'node:worker_threads';
import { doFilmWork, filmProblem, type FilmWork } from './film-work';
import type { ThreadMessage } from './film-maker';

const stop = new AbortController();
const tell = (message: ThreadMessage) => parentPort?.postMessage(message);

parentPort?.on('message', (message: unknown) => {
  if (message === 'stop') stop.abort(new Error('called off'));
});

doFilmWork(workerData as FilmWork, (progress) => tell({ is: 'progress', progress }), stop.signal)
  .then((report) => tell({ is: 'done', report }))
  .catch((error: unknown) => tell({ is: 'failed', ...filmProblem(error) }))
  .finally(() => parentPort?.close());
