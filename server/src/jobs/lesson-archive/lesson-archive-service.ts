import type { LessonImport } from '@under-chalk/core/contract/lesson-archives';
import { AppError } from '@under-chalk/core/errors/errors';
import pLimit from 'p-limit';
import type { Log } from '../../log';
import type { LessonArchiveStore } from '../../store/lesson-archive-store';
import type { MediaStore } from '../../store/media-store';
import type { MaterialService } from '../materials/material-service';
import type { TakeService } from '../take-service';
import { importLesson, type ImportParts } from './import-lesson';

/** What is known of an archive, and what is left of one, is let go of after this long. */
const LEFT_MS = 7 * 86_400_000;

interface TakeServiceParts extends ImportParts {
  readonly bundles: LessonArchiveStore;
  readonly media: MediaStore;
  readonly takeService: TakeService;
  readonly materialService: MaterialService;
  readonly log: Log;
}

/** Whether the archive may be fine, and is kept to be opened again. */
const mayBeFine = (problem: string | null) => problem === 'disk-full' || problem === 'unexpected';

/** Brings archives of lessons in: takes their bytes, and has them opened one after another. */
export class LessonArchiveService {
  readonly #parts: TakeServiceParts;
  /** How much of each that is being opened is looked through, 0 to 1. */
  readonly #done = new Map<string, number>();
  readonly #inTurn = pLimit(1);
  readonly #stop = new AbortController();
  readonly #works = new Set<Promise<void>>();

  constructor(parts: TakeServiceParts) {
    this.#parts = parts;
  }

  /** Goes on with what a stopped server had begun to open. */
  async start(): Promise<void> {
    for (const id of await this.#parts.bundles.opening()) this.#queue(id);
  }

  async close(): Promise<void> {
    this.#stop.abort(new Error('the server is stopping'));
    await Promise.all(this.#works);
  }

  /** Waits for the bytes of an archive. Said again it changes nothing. @throws AppError `exists-already` */
  async expect(id: string): Promise<LessonImport> {
    await this.#parts.bundles.expect(id);
    return this.stateOf(id);
  }

  isComing(id: string): Promise<boolean> {
    return this.#parts.bundles.isComing(id);
  }

  /** @throws AppError `not-found` */
  async stateOf(id: string): Promise<LessonImport> {
    const known = await this.#parts.bundles.get(id);
    return { ...known, done: known.state === 'in' ? 1 : (this.#done.get(id) ?? 0) };
  }

  /**
   * Has an archive opened whose bytes have all come, or that a full disk was in the way of.
   *
   * @throws AppError `not-found`; `not-ready` while bytes are missing
   */
  async open(id: string): Promise<LessonImport> {
    const { bundles, media } = this.#parts;
    const { state, problem } = await bundles.get(id);
    if (state === 'coming' || (state === 'refused' && mayBeFine(problem))) {
      if (!(await media.isWhole(id))) throw new AppError('not-ready', id);
      await bundles.open(id);
      this.#queue(id);
    }
    return this.stateOf(id);
  }

  #queue(id: string): void {
    if (this.#done.has(id)) return;
    this.#done.set(id, 0);
    const work = this.#inTurn(() => this.#open(id));
    this.#works.add(work);
    void work.finally(() => {
      this.#done.delete(id);
      this.#works.delete(work);
    });
  }

  /** Never rejects: what goes wrong stands with the archive. */
  async #open(id: string): Promise<void> {
    const { bundles, media, log } = this.#parts;
    try {
      await this.openFile(media.incoming(id), id, (done) => this.#done.set(id, done));
      await media.forgetIncoming(id);
    } catch (error) {
      // A stopped server goes on with it when it starts again.
      if (this.#stop.signal.aborted) return;
      const problem = error instanceof AppError ? error.code : 'unexpected';
      log.warn(`archive ${id} can’t be opened`, error);
      await bundles
        .refuse(id, problem)
        .catch((failed: unknown) => log.error(`archive ${id}`, failed));
      if (!mayBeFine(problem)) await media.forgetIncoming(id).catch(() => undefined);
    }
  }

  /**
   * Makes a lesson of an archive on this disk, and has it made ready.
   *
   * @returns its id
   * @throws what {@link importLesson} does
   */
  async openFile(
    path: string,
    id: string,
    onProgress: (done: number) => void = () => undefined,
  ): Promise<string> {
    const lessonId = await importLesson(path, id, this.#parts, onProgress, this.#stop.signal);
    await this.#parts.takeService.sweep();
    await this.#parts.materialService.takeUp();
    return lessonId;
  }

  /** Lets go of archives that nobody went on with, and of those that are lessons. Never rejects. `now` in ms since 1970. */
  async sweep(now = Date.now()): Promise<void> {
    const { bundles, media, log } = this.#parts;
    try {
      for (const id of await bundles.leftSince(now - LEFT_MS)) {
        await media.forgetIncoming(id);
        await bundles.forget(id);
      }
    } catch (error) {
      log.warn('archives that were left can’t be cleared away', error);
    }
  }
}
