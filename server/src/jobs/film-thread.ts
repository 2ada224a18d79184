/** The thread in which a film is made, so that painting doesn't hold up the answers of the server. It waits for its work. */
import { AskedPieces } from '@under-chalk/render';
import { parentPort } from 'node:worker_threads';
import { doFilmWork, filmProblem, type FilmWork } from './film-work';
import type { FromThread, ToThread } from './in-thread';

const stop = new AbortController();
const asked = new AskedPieces();
const tell = (message: FromThread) => parentPort?.postMessage(message);
/** Pieces that wait for their turn, in the order in which they asked. */
const waiting: (() => void)[] = [];

const turn = async (): Promise<() => void> => {
  const given = new Promise<void>((resolve) => waiting.push(resolve));
  tell({ is: 'wants-turn' });
  await given;
  return () => tell({ is: 'gives-back' });
};

const make = (work: FilmWork): void => {
  doFilmWork(work, (progress) => tell({ is: 'progress', progress }), stop.signal, turn, asked)
    .then((report) => tell({ is: 'done', report }))
    .catch((error: unknown) => tell({ is: 'failed', ...filmProblem(error) }))
    .finally(() => parentPort?.close());
};

parentPort?.on('message', (message: ToThread) => {
  if (message === 'stop') stop.abort(new Error('called off'));
  else if (message === 'turn') waiting.shift()?.();
  else if ('make' in message) make(message.make);
  else asked.ask(message.ask);
});
