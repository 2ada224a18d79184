import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import type { AskedPiece, Progress } from '@under-chalk/render';
import { Worker } from 'node:worker_threads';
import type { Work } from './film-maker';
import type { FilmReport, FilmWork } from './film-work';
import { stopThread } from './run-thread';
import type { TakeTurn } from './turns';

export type FromThread =
  | { readonly is: 'progress'; readonly progress: Progress }
  | { readonly is: 'wants-turn' }
  | { readonly is: 'gives-back' }
  | { readonly is: 'done'; readonly report: FilmReport }
  | { readonly is: 'failed'; readonly code: ErrorCode; readonly detail: string };
export type ToThread = { readonly make: FilmWork } | 'stop' | 'turn' | { readonly ask: AskedPiece };

/** The turns of a thread: what it asks for it is given in its turn, and what it leaves is given back. */
const turnsOf = (takeTurn: TakeTurn, give: () => void) => {
  const held: (() => void)[] = [];
  let over = false;
  return {
    want: () =>
      void takeTurn().then((giveBack) => {
        if (over) giveBack();
        else {
          held.push(giveBack);
          give();
        }
      }),
    giveBack: () => held.shift()?.(),
    end: () => {
      over = true;
      held.splice(0).forEach((giveBack) => giveBack());
    },
  };
};

/** Threads that are started before there is work for them: it takes half a second, and somebody may wait for a film to begin. */
const startedBefore = (script: string) => {
  const start = () => {
    const thread = new Worker(script);
    // Nothing is kept from ending because of it.
    thread.unref();
    return thread;
  };
  let spare: Worker | null = start();
  const dropped = () => {
    spare = null;
  };
  spare.once('error', dropped).once('exit', dropped);
  return (): Worker => {
    const thread = spare ?? start();
    thread.off('error', dropped).off('exit', dropped);
    thread.ref();
    spare = start();
    spare.once('error', dropped).once('exit', dropped);
    return thread;
  };
};

/** Makes a film in a thread of its own, started from a built script. */
export const inThread = (script: string): Work => {
  const next = startedBefore(script);
  return (work, onProgress, signal, takeTurn, asked) =>
    new Promise((resolve, reject) => {
      const thread = next();
      const tell = (message: ToThread) => thread.postMessage(message);
      const mine = turnsOf(takeTurn, () => tell('turn'));
      const stop = () => stopThread(thread);
      tell({ make: work });
      asked.passOnTo((piece) => tell({ ask: piece }));
      // Called off before there was anything to call off: the thread is told all the same.
      if (signal.aborted) stop();
      signal.addEventListener('abort', stop, { once: true });
      thread.on('message', (message: FromThread) => {
        if (message.is === 'progress') onProgress(message.progress);
        else if (message.is === 'wants-turn') mine.want();
        else if (message.is === 'gives-back') mine.giveBack();
        else if (message.is === 'done') resolve(message.report);
        else reject(new AppError(message.code, message.detail));
      });
      thread.once('error', reject);
      thread.once('exit', (code) => {
        mine.end();
        signal.removeEventListener('abort', stop);
        reject(new Error(`the film's thread ended with ${code} and no result`));
      });
    });
};
