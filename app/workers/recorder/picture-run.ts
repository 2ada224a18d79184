import { nowUs } from '../../capture/common-clock';
import type { PieceLine } from './piece-line';
import { TrackFile } from './track-file';

/** An encoder that has been given pictures and has made nothing of them for this long stands still, µs. */
const STALLED_US = 3_000_000;

/**
 * A stretch of a picture track made by one encoder: a whole file inside the track's own, so that another
 * encoder, with other settings, can follow it.
 */
export class PictureRun {
  readonly file: TrackFile;
  readonly beganUs = nowUs();
  readonly width: number;
  readonly height: number;
  readonly #encoder: VideoEncoder;
  #failed: unknown = null;
  #lastMadeUs = nowUs();
  #given = 0;
  #made = 0;
  #fitted: OffscreenCanvas | null = null;

  /** @throws what the browser throws at settings that it can't use after all */
  constructor(config: VideoEncoderConfig, line: PieceLine) {
    this.width = config.width;
    this.height = config.height;
    const file = new TrackFile(config.codec === 'vp8' ? 'vp8' : 'avc', line);
    this.file = file;
    this.#encoder = new VideoEncoder({
      output: (chunk, meta) => {
        this.#made++;
        this.#lastMadeUs = nowUs();
        file.addVideo(chunk, meta);
      },
      error: (error) => this.fail(error),
    });
    this.#encoder.configure(config);
  }

  /** Why it makes nothing any more; null while it works. */
  get failed(): unknown {
    return this.#failed;
  }

  /** Pictures given that nothing has been made of. */
  get queued(): number {
    return this.#encoder.encodeQueueSize;
  }

  /** Whether it has been waited for too long; from then on it counts as failed. */
  checkStalled(): void {
    const waiting = this.#given > this.#made && nowUs() - this.#lastMadeUs > STALLED_US;
    if (waiting) this.fail(new Error('the encoder stands still'));
  }

  fail(error: unknown): void {
    this.#failed ??= error;
  }

  /** Encodes a picture in the run's own size. @returns false when the encoder has failed; the picture is not in it */
  encode(frame: VideoFrame, keyFrame: boolean): boolean {
    if (this.#failed !== null) return false;
    const fitted = this.#fit(frame);
    try {
      if (this.#given === this.#made) this.#lastMadeUs = nowUs();
      this.#encoder.encode(fitted, { keyFrame });
      this.#given++;
      return true;
    } catch (error) {
      this.fail(error);
      return false;
    } finally {
      if (fitted !== frame) fitted.close();
    }
  }

  /** A window that changes its size while it is recorded is shown whole in the size it began with. */
  #fit(frame: VideoFrame): VideoFrame {
    const { width, height } = this;
    if (frame.displayWidth === width && frame.displayHeight === height) return frame;
    this.#fitted ??= new OffscreenCanvas(width, height);
    const context = this.#fitted.getContext('2d', { alpha: false })!;
    const scale = Math.min(width / frame.displayWidth, height / frame.displayHeight);
    const shown = { width: frame.displayWidth * scale, height: frame.displayHeight * scale };
    context.fillStyle = '#000';
    context.fillRect(0, 0, width, height);
    context.drawImage(
      frame,
      (width - shown.width) / 2,
      (height - shown.height) / 2,
      shown.width,
      shown.height,
    );
    return new VideoFrame(this.#fitted, { timestamp: frame.timestamp });
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
