import type { PieceLine } from './piece-line';
import { nowUs } from '../../capture/common-clock';
import { TrackFile } from './track-file';

/** Settings of a sound encoder, and what its packets are called in a file. */
export interface SoundSettings {
  readonly config: AudioEncoderConfig;
  readonly inFile: 'opus' | 'aac';
}

/** A stretch of a sound track made by one encoder: a whole file inside the track's own. */
export class SoundRun {
  readonly file: TrackFile;
  readonly beganUs = nowUs();
  readonly #encoder: AudioEncoder;
  #failed: unknown = null;

  /**
   * @param recordedTimeOf recorded time of a place in the encoder's count, µs
   * @throws what the browser throws at settings that it can't use after all
   */
  constructor(
    { config, inFile }: SoundSettings,
    line: PieceLine,
    recordedTimeOf: (countUs: number) => number,
  ) {
    const file = new TrackFile(inFile, line);
    this.file = file;
    this.#encoder = new AudioEncoder({
      output: (chunk, meta) => file.addAudio(chunk, recordedTimeOf(chunk.timestamp), meta),
      error: (error) => this.fail(error),
    });
    this.#encoder.configure(config);
  }

  /** Why it makes nothing any more; null while it works. */
  get failed(): unknown {
    return this.#failed;
  }

  fail(error: unknown): void {
    this.#failed ??= error;
  }

  /** @returns false when the encoder has failed; the sound is not in it */
  encode(data: AudioData): boolean {
    if (this.#failed !== null) return false;
    try {
      this.#encoder.encode(data);
      return true;
    } catch (error) {
      this.fail(error);
      return false;
    }
  }

  /** Writes all that has been made. Never rejects for the encoder's sake: what failed is in `failed`. */
  async end(): Promise<void> {
    if (this.#failed === null) {
      await this.#encoder.flush().catch((error: unknown) => this.fail(error));
    }
    if (this.#encoder.state !== 'closed') this.#encoder.close();
    await this.file.finish();
  }
}
