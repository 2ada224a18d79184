import { setPriority } from 'node:os';
import { parentPort, Worker, workerData } from 'node:worker_threads';

type FromThread =
  | { readonly is: 'progress'; readonly share: number }
  | { readonly is: 'done'; readonly result: unknown }
  | { readonly is: 'failed'; readonly why: string };

/** A thread that was told to stop has so long for it, ms; then it is terminated, whatever it hangs in. */
export const STOPS_MS = 10_000;

/** Tells a thread to stop, and sees to it that it does. */
export const stopThread = (thread: Worker, stopsMs = STOPS_MS): void => {
  thread.postMessage('stop');
  const late = setTimeout(() => void thread.terminate(), stopsMs);
  late.unref();
  thread.once('exit', () => clearTimeout(late));
};

/**
 * Has a built thread do some work beside the server.
 *
 * @param script of the thread, whose body is {@link workInThread}
 * @param work a plain value
 * @throws the signal's reason; Error why it failed
 */
export const runThread = async <T>(
  script: string,
  work: object,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
  stopsMs?: number,
): Promise<T> => {
  signal?.throwIfAborted();
  const thread = new Worker(script, { workerData: work });
  const stop = () => stopThread(thread, stopsMs);
  signal?.addEventListener('abort', stop, { once: true });
  try {
    return await new Promise<T>((resolve, reject) => {
      thread.on('message', (message: FromThread) => {
        if (message.is === 'progress') onProgress(message.share);
        else if (message.is === 'done') resolve(message.result as T);
        else reject(new Error(message.why));
      });
      thread.once('error', reject);
      thread.once('exit', (code) => reject(new Error(`its thread ended with ${code}`)));
    });
  } catch (error) {
    signal?.throwIfAborted();
    throw error;
  } finally {
    signal?.removeEventListener('abort', stop);
  }
};

/** The body of a thread that {@link runThread} starts: it gives way to everything else. */
export const workInThread = <W>(
  does: (work: W, onProgress: (share: number) => void, signal: AbortSignal) => Promise<unknown>,
): void => {
  const stop = new AbortController();
  const tell = (message: FromThread) => parentPort?.postMessage(message);
  parentPort?.once('message', () => stop.abort(new Error('called off')));
  // Of this thread alone, on Linux.
  if (process.platform === 'linux') setPriority(10);
  does(workerData as W, (share) => tell({ is: 'progress', share }), stop.signal)
    .then((result) => tell({ is: 'done', result }))
    .catch((error: unknown) => tell({ is: 'failed', why: String(error) }))
    .finally(() => parentPort?.close());
};
