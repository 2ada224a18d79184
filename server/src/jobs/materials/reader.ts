import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { limited, watchWork, type WorkClock } from '@under-chalk/render';
import { spawn, type ChildProcess } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import type { Answers, FromReader, Question } from './reading';

/** What a reader may take: a file made to do harm ends its own process, and nothing else. */
const MOST_MEMORY_BYTES = 1_000_000_000;
/** Of room that it asks for and mostly doesn't use. */
const MOST_ROOM_BYTES = 4_000_000_000;
const MOST_HEAP_MB = 512;
const LOOK_MS = 200;
/** Linux tells memory in pages of this size, bytes. */
const PAGE_BYTES = 4_096;
/** Longest that a reader may work or stand still over each question, ms. */
const DEADLINES: Readonly<Record<Question['ask'], number>> = {
  warm: 20_000,
  open: 30_000,
  words: 20_000,
  paint: 20_000,
};

interface Waiting {
  readonly resolve: (answer: never) => void;
  readonly reject: (error: Error) => void;
  readonly clock: WorkClock;
}

/** A process that has one material open. It ends by itself when this process does. */
export class Reader {
  readonly #child: ChildProcess;
  readonly #watch: NodeJS.Timeout;
  readonly #waiting = new Map<number, Waiting>();
  #count = 0;
  #over: AppError | null = null;
  #tail = '';

  /** @param script the built reader's process (`reader-process`) */
  constructor(script: string) {
    const [program, ...args] = limited(
      [process.execPath, `--max-old-space-size=${MOST_HEAP_MB}`, script],
      { dataBytes: MOST_ROOM_BYTES },
    );
    this.#child = spawn(program!, args, {
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
      // Of this process's own environment it gets what finds programs, and nothing that is secret.
      env: { PATH: process.env['PATH'] ?? '' },
    });
    this.#child.stderr!.setEncoding('utf8').on('data', (text: string) => {
      this.#tail = (this.#tail + text).slice(-500);
    });
    this.#child.on('message', (told: FromReader) => this.#hear(told));
    this.#watch = setInterval(() => void this.#look(), LOOK_MS);
    this.#watch.unref();
    this.#child.once('error', (error) => this.#end('material-unreadable', String(error)));
    this.#child.once('exit', (code, signal) =>
      this.#end('material-too-heavy', `its reader ended with ${code ?? signal}: ${this.#tail}`),
    );
  }

  /** Whether it has ended, or was ended. */
  get over(): boolean {
    return this.#over !== null;
  }

  /**
   * Asks; questions are answered one after another.
   *
   * @throws AppError what is wrong with the file; `material-too-heavy` when it took too long, or too much memory
   */
  ask<Q extends Question>(question: Q): Promise<Answers[Q['ask']]> {
    return new Promise((resolve, reject) => {
      if (this.#over) return reject(this.#over);
      const id = this.#count++;
      const late = () => {
        this.#end('material-too-heavy', `${question.ask} took too long`);
        this.#child.kill('SIGKILL');
      };
      // Those before it have their own time.
      const deadlineMs = DEADLINES[question.ask] * (this.#waiting.size + 1);
      const clock = watchWork(this.#child.pid, { deadlineMs }, late);
      this.#waiting.set(id, { resolve: resolve as never, reject, clock });
      this.#child.send({ ...question, id }, (error) => {
        if (error) this.#end('material-unreadable', String(error));
      });
    });
  }

  /** Ends it; what it is asked still is answered with an error. */
  close(): void {
    this.#end('not-ready', 'its reader was closed');
    this.#child.kill('SIGKILL');
  }

  #hear(told: FromReader): void {
    const waiting = this.#waiting.get(told.id);
    if (!waiting) return;
    this.#waiting.delete(told.id);
    waiting.clock.stop();
    if ('code' in told) waiting.reject(new AppError(told.code, told.detail));
    else waiting.resolve(told.answer as never);
  }

  /** Ends it where it takes more memory than it may; where the system doesn't tell, it has its heap's limit alone. */
  async #look(): Promise<void> {
    const told = await readFile(`/proc/${this.#child.pid}/statm`, 'utf8').catch(() => '');
    const used = Number(told.split(' ')[1] ?? 0) * PAGE_BYTES;
    if (used <= MOST_MEMORY_BYTES) return;
    this.#end('material-too-heavy', `its reader took ${used} bytes`);
    this.#child.kill('SIGKILL');
  }

  #end(code: ErrorCode, detail: string): void {
    clearInterval(this.#watch);
    this.#over ??= new AppError(code, detail);
    for (const { reject, clock } of this.#waiting.values()) {
      clock.stop();
      reject(this.#over);
    }
    this.#waiting.clear();
  }
}
