import type { WordsJob } from '@under-chalk/core/contract/words';
import { AppError } from '@under-chalk/core/errors/errors';
import { isDiskFull } from '@under-chalk/render';
import pLimit from 'p-limit';
import { heavyWork } from '../jobs/heavy-work';
import type { Log } from '../log';
import { newId } from '../store/ids';

/** Listens to a lesson: gives what came of it. @throws AppError; the signal's reason */
export type Listen = (
  onProgress: (share: number) => void,
  signal: AbortSignal,
) => Promise<Partial<Pick<WordsJob, 'timing' | 'draft'>>>;

interface Job {
  told: WordsJob;
  readonly stop: AbortController;
  over: Promise<void>;
}

/** What came of it is kept for so long, ms; it is asked for within a second, and can be had again. */
const KEPT_MS = 3_600_000;
/** Most that are kept or wait. */
const MOST = 50;

/**
 * Listening to lessons, one after another: it keeps a core busy, and films are made meanwhile. It lives in memory: what it
 * is about is in the lesson, so that a stopped server loses nothing but the time.
 */
export class WordsJobs {
  readonly #log: Log;
  readonly #jobs = new Map<string, Job>();
  readonly #inTurn = pLimit(1);

  constructor(log: Log) {
    this.#log = log;
  }

  /**
   * Begins to listen, or waits its turn. A lesson that is listened to already is listened to anew.
   *
   * @throws AppError `not-ready` where too many wait
   */
  async begin(lessonId: string, listen: Listen): Promise<WordsJob> {
    for (const { told, stop } of this.#jobs.values()) {
      if (told.lessonId === lessonId) stop.abort(new Error('asked for anew'));
    }
    this.#makeRoom();
    const id = newId();
    const stop = new AbortController();
    const job: Job = {
      told: { id, lessonId, state: 'waiting', done: 0, problem: null, timing: null, draft: null },
      stop,
      over: Promise.resolve(),
    };
    this.#jobs.set(id, job);
    job.over = this.#inTurn(() => this.#run(job, listen));
    return job.told;
  }

  /** What is over is let go of where there is too much, the oldest first. @throws AppError `not-ready` */
  #makeRoom(): void {
    for (const [id, { told }] of this.#jobs) {
      if (this.#jobs.size < MOST) return;
      if (told.state !== 'waiting' && told.state !== 'working') this.#jobs.delete(id);
    }
    if (this.#jobs.size >= MOST) throw new AppError('not-ready', 'too many wait to be listened to');
  }

  /** @throws AppError `not-found` */
  stateOf(id: string): WordsJob {
    const job = this.#jobs.get(id);
    if (!job) throw new AppError('not-found', `listening ${id}`);
    return job.told;
  }

  /** @throws AppError `not-found` */
  async callOff(id: string): Promise<WordsJob> {
    this.stateOf(id);
    const job = this.#jobs.get(id)!;
    job.stop.abort(new Error('called off'));
    await job.over;
    return job.told;
  }

  async close(): Promise<void> {
    const jobs = [...this.#jobs.values()];
    for (const { stop } of jobs) stop.abort(new Error('the server is stopping'));
    await Promise.all(jobs.map(({ over }) => over));
  }

  /** Never rejects: what goes wrong stands with the job. */
  async #run(job: Job, listen: Listen): Promise<void> {
    const { signal } = job.stop;
    const tell = (change: Partial<WordsJob>) => {
      job.told = { ...job.told, ...change };
    };
    try {
      const hear = () => {
        tell({ state: 'working' });
        return listen((done) => tell({ done }), signal);
      };
      const found = await heavyWork.run('captions', hear, signal);
      tell({ ...found, state: 'done', done: 1 });
    } catch (error) {
      if (signal.aborted) tell({ state: 'called-off' });
      else {
        const problem =
          error instanceof AppError ? error.code : isDiskFull(error) ? 'disk-full' : 'unexpected';
        if (problem === 'unexpected')
          this.#log.error(`lesson ${job.told.lessonId}: listening`, error);
        tell({ state: 'failed', problem });
      }
    }
    setTimeout(() => this.#jobs.delete(job.told.id), KEPT_MS).unref();
  }
}
