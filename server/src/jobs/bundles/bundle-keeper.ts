import type { ComingBundle } from '@under-chalk/core/contract/bundles';
import { TellableError } from '@under-chalk/core/errors/errors';
import pLimit from 'p-limit';
import type { Log } from '../../log';
import type { MediaStore } from '../../store/media-store';
import type { MaterialKeeper } from '../materials/material-keeper';
import type { TakeKeeper } from '../take-keeper';
import { openBundle, type OpeningParts } from './open-bundle';

interface KeeperParts extends OpeningParts {
  readonly media: MediaStore;
  readonly keeper: TakeKeeper;
  readonly materialKeeper: MaterialKeeper;
  readonly log: Log;
}

/** Whether the archive may be fine, and is kept to be opened again. */
const mayBeFine = (problem: string) => problem === 'disk-full' || problem === 'unexpected';

/**
 * Archives of lessons that are brought in. What is known of one lives as long as the server; its bytes outlive it, and
 * whoever brings it goes on where they end.
 */
export class BundleKeeper {
  readonly #parts: KeeperParts;
  readonly #coming = new Map<string, ComingBundle>();
  readonly #inTurn = pLimit(1);
  readonly #stop = new AbortController();
  readonly #works = new Set<Promise<void>>();

  constructor(parts: KeeperParts) {
    this.#parts = parts;
  }

  async close(): Promise<void> {
    this.#stop.abort(new Error('the server is stopping'));
    await Promise.all(this.#works);
  }

  /** Waits for the bytes of an archive. Said again it changes nothing. */
  expect(id: string): ComingBundle {
    const known = this.#coming.get(id);
    if (known) return known;
    return this.#set({ id, state: 'coming', lessonId: null, problem: null, done: 0 });
  }

  isComing(id: string): boolean {
    return this.#coming.get(id)?.state === 'coming';
  }

  /** @throws TellableError `not-found` */
  stateOf(id: string): ComingBundle {
    const known = this.#coming.get(id);
    if (!known) throw new TellableError('not-found', `archive ${id}`);
    return known;
  }

  /**
   * Has an archive opened whose bytes have all come, or that a full disk was in the way of.
   *
   * @throws TellableError `not-found`; `not-ready` while bytes are missing
   */
  async open(id: string): Promise<ComingBundle> {
    const { state, problem } = this.stateOf(id);
    const again = state === 'refused' && problem !== null && mayBeFine(problem);
    if (state !== 'coming' && !again) return this.stateOf(id);
    if (!(await this.#parts.media.isWhole(id))) throw new TellableError('not-ready', id);
    const opening = this.#set({ id, state: 'opening', lessonId: null, problem: null, done: 0 });
    const work = this.#inTurn(() => this.#open(id));
    this.#works.add(work);
    void work.finally(() => this.#works.delete(work));
    return opening;
  }

  /** Never rejects. */
  async #open(id: string): Promise<void> {
    const { media, keeper, materialKeeper, log } = this.#parts;
    const opening = this.stateOf(id);
    try {
      const lessonId = await openBundle(
        media.incoming(id),
        id,
        this.#parts,
        (done) => this.#set({ ...opening, done }),
        this.#stop.signal,
      );
      this.#set({ ...opening, state: 'in', lessonId, done: 1 });
      await media.forgetIncoming(id);
      await keeper.sweep();
      await materialKeeper.takeUp();
    } catch (error) {
      if (this.#stop.signal.aborted) return;
      const problem = error instanceof TellableError ? error.code : 'unexpected';
      log.warn(`archive ${id} can’t be opened`, error);
      this.#set({ ...opening, state: 'refused', problem });
      if (!mayBeFine(problem)) await media.forgetIncoming(id).catch(() => undefined);
    }
  }

  #set(bundle: ComingBundle): ComingBundle {
    this.#coming.set(bundle.id, bundle);
    return bundle;
  }
}
