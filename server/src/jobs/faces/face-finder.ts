import type { FaceSeen } from '@under-chalk/core/checks/eyes';
import { Worker } from 'node:worker_threads';

/** A picture in which faces are looked for: RGBA, a byte each. */
export interface FacePicture {
  readonly pixels: Uint8Array;
  readonly widthPx: number;
  readonly heightPx: number;
}
export type ToFaces = FacePicture & { readonly id: number };
export interface FromFaces {
  readonly id: number;
  /** Null where the picture can't be looked at. */
  readonly faces: readonly FaceSeen[] | null;
}

/** What was learnt takes 100 MB while it is held: it isn't for longer, ms. */
const IDLE_MS = 15_000;

type Answer = (faces: readonly FaceSeen[] | null) => void;

/** Finds faces in pictures, in a thread that is there while somebody asks. */
export class FaceFinder {
  readonly #script: string;
  readonly #waiting = new Map<number, Answer>();
  #thread: Worker | null = null;
  #idle: NodeJS.Timeout | null = null;
  #asked = 0;
  /** It couldn't be begun: it isn't tried for every picture. */
  #failed = false;

  /** @param script the built thread (`face-thread`); empty: nothing is found */
  constructor(script: string) {
    this.#script = script;
  }

  /** Null where it can't be told: a cover can be chosen without. */
  find(picture: FacePicture): Promise<readonly FaceSeen[] | null> {
    if (this.#script === '' || this.#failed) return Promise.resolve(null);
    if (this.#idle) clearTimeout(this.#idle);
    const thread = (this.#thread ??= this.#started());
    const id = this.#asked++;
    return new Promise((resolve) => {
      this.#waiting.set(id, resolve);
      // By value: the picture goes on to be looked at here.
      thread.postMessage({ ...picture, id } satisfies ToFaces);
    });
  }

  async close(): Promise<void> {
    if (this.#idle) clearTimeout(this.#idle);
    await this.#thread?.terminate();
  }

  #started(): Worker {
    const thread = new Worker(this.#script);
    // Nothing is kept from ending because of it.
    thread.unref();
    thread.on('message', ({ id, faces }: FromFaces) => {
      this.#waiting.get(id)?.(faces);
      this.#waiting.delete(id);
      if (this.#waiting.size > 0) return;
      this.#idle = setTimeout(() => void thread.terminate(), IDLE_MS);
      this.#idle.unref();
    });
    thread.once('error', () => {
      this.#failed = true;
    });
    thread.once('exit', () => {
      this.#thread = null;
      for (const answer of this.#waiting.values()) answer(null);
      this.#waiting.clear();
    });
    return thread;
  }
}
