/** The thread in which a film is made, so that painting doesn't hold up the answers of the server. */
import { parentPort, workerData } from 'node:worker_threads';
import { doFilmWork, filmProblem, type FilmWork } from './film-work';
import type { FromThread, ToThread } from './in-thread';

const stop = new AbortController();
const tell = (message: FromThread) => parentPort?.postMessage(message);
/** Pieces that wait for their turn, in the order in which they asked. */
const waiting: (() => void)[] = [];

parentPort?.on('message', (message: ToThread) => {
  if (message === 'stop') stop.abort(new Error('called off'));
  else waiting.shift()?.();
});

const turn = async (): Promise<() => void> => {
  const given = new Promise<void>((resolve) => waiting.push(resolve));
  tell({ is: 'wants-turn' });
  await given;
  return () => tell({ is: 'gives-back' });
};

doFilmWork(
  workerData as FilmWork,
  (progress) => tell({ is: 'progress', progress }),
  stop.signal,
  turn,
)
  .then((report) => tell({ is: 'done', report }))
  .catch((error: unknown) => tell({ is: 'failed', ...filmProblem(error) }))
  .finally(() => parentPort?.close());
