import type { Recovery } from '../../capture/recorder-messages';
import { Attempts } from './attempts';
import { nowUs } from '../../capture/common-clock';
import type { TrackFile } from './track-file';

/** A stretch of a track made by one encoder. */
export interface Run {
  readonly beganUs: number;
  readonly file: Pick<TrackFile, 'packets'>;
  /** Why it makes nothing any more; null while it works. */
  readonly failed: unknown;
  /** Writes all that has been made. */
  end(): Promise<void>;
}

/** Where the runs of a track come from, and who is told of them. */
export interface RunMaker<S, R extends Run> {
  /** What is encoded, for the log. */
  readonly what: string;
  /** @throws what the browser throws at settings that it can't use after all */
  open(settings: S): R;
  recovered(recovery: Recovery): void;
}

/** The runs of a track, one after another: an encoder that fails is followed by another. */
export class Runs<S, R extends Run> {
  readonly #maker: RunMaker<S, R>;
  #attempts: Attempts<S> | null = null;
  #present: R | null = null;
  #packetsBefore = 0;
  #gone = false;

  constructor(maker: RunMaker<S, R>) {
    this.#maker = maker;
  }

  /** The run that is being made, if there is one. It may have failed since. */
  get present(): R | null {
    return this.#present;
  }

  /** Nothing more can be encoded. */
  get gone(): boolean {
    return this.#gone;
  }

  /** Encoded so far, in all of them. */
  get packets(): number {
    return this.#packetsBefore + (this.#present?.file.packets ?? 0);
  }

  /**
   * The run that works: the present one, or the one that follows it.
   *
   * @param settings what encoders can be opened with, best first; asked for once
   * @returns null when none can be had
   */
  async working(settings: () => Promise<readonly S[]>): Promise<R | null> {
    const { what } = this.#maker;
    if (this.#gone) return null;
    if (this.#present?.failed === null) return this.#present;
    this.#attempts ??= new Attempts(await settings());
    if (this.#present) {
      const { failed, beganUs } = this.#present;
      console.error(`the encoder of the ${what} failed`, failed);
      await this.#endPresent();
      this.#maker.recovered(this.#attempts.failed(nowUs() - beganUs));
    }
    for (let tried = this.#attempts.present; tried; tried = this.#attempts.present) {
      try {
        this.#present = this.#maker.open(tried);
        return this.#present;
      } catch (error) {
        console.error(`no encoder of the ${what} with`, tried, error);
        this.#maker.recovered(this.#attempts.failed(0));
      }
    }
    this.#gone = true;
    return null;
  }

  /** Ends the last one. @throws why not everything was encoded; what was is written all the same */
  async end(): Promise<void> {
    const failed = await this.#endPresent();
    if (this.#gone) throw new Error(`no encoder for the ${this.#maker.what}`);
    if (failed) throw failed;
  }

  async #endPresent(): Promise<unknown> {
    const run = this.#present;
    this.#present = null;
    if (!run) return null;
    await run.end();
    this.#packetsBefore += run.file.packets;
    return run.failed;
  }
}
