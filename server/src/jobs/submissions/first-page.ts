import { AppError } from '@under-chalk/core/errors/errors';
import type { SubmissionFile } from '@under-chalk/core/submission/submission';
import pLimit from 'p-limit';
import { existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { Reader } from '../materials/reader';

const WIDTH_PX = 960;
/** Kinds of which a picture can be made. */
const PAINTED: readonly SubmissionFile['kind'][] = ['picture', 'pdf'];

const inTurn = pLimit(2);

/** What there is to be seen of a file that was handed in, at a glance. */
export class FirstPages {
  readonly #script: string;
  readonly #making = new Map<string, Promise<string>>();

  /** @param script the built reader's process; empty: nothing is made */
  constructor(script: string) {
    this.#script = script;
  }

  /**
   * A picture, or the first page: decoded in a process of its own, for whoever made it may mean harm. Made once, beside the file.
   *
   * @param path of the file
   * @returns its path, WebP
   * @throws AppError `not-found` where there can't be any
   */
  async of({ kind, name }: SubmissionFile, path: string): Promise<string> {
    if (this.#script === '' || !PAINTED.includes(kind))
      throw new AppError('not-found', 'a picture of the file');
    const out = `${path}.webp`;
    if (existsSync(out)) return out;
    let making = this.#making.get(out);
    if (!making) {
      making = inTurn(() => this.#make(path, name, out)).finally(() => this.#making.delete(out));
      this.#making.set(out, making);
    }
    return making;
  }

  async #make(path: string, name: string, out: string): Promise<string> {
    const reader = new Reader(this.#script);
    const draft = `${path}.draft`;
    try {
      await reader.ask({ ask: 'open', path, name });
      await reader.ask({ ask: 'paint', page: 0, widthPx: WIDTH_PX, format: 'webp', out: draft });
      await rename(draft, out);
      return out;
    } catch (error) {
      throw new AppError('not-found', `a picture of the file: ${String(error)}`);
    } finally {
      reader.close();
      await rm(draft, { force: true });
    }
  }
}
