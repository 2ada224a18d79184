import { SourceClock } from '@under-chalk/core/time/source-clock';
import type { TakeClock } from '@under-chalk/core/time/take-clock';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import { pictureBitrate } from '@under-chalk/core/record/storage-left';
import { nowUs } from '../../capture/common-clock';
import { PictureRun } from './picture-run';
import type { PieceLine } from './piece-line';
import { Runs } from './runs';
import { SourceReader } from './source-reader';
import type { TrackEvents } from './track-events';

/** A key frame this often: a piece ends at one, and seeking starts at one. */
const KEY_US = 1_000_000;
/** A still screen sends no frames; the last one is repeated, so that pieces keep leaving. */
const REPEAT_US = 500_000;
/** Frames the encoder may be behind before one is left out. */
const MOST_QUEUED = 8;

/** Best first: H.264 plays and decodes everywhere, VP8 can be encoded by all browsers that have WebCodecs. */
const CODECS = ['avc1.640028', 'avc1.4d0028', 'avc1.42e028', 'vp8'];

const even = (value: number) => Math.max(2, 2 * Math.floor(value / 2));

/** What this browser says it can encode pictures of a size with, best first: whole, then half as large. */
const settingsFor = async (
  kind: TrackKind,
  width: number,
  height: number,
): Promise<VideoEncoderConfig[]> => {
  const settings: VideoEncoderConfig[] = [];
  for (const scale of [1, 0.5]) {
    const size = { width: even(width * scale), height: even(height * scale) };
    for (const codec of CODECS) {
      const config: VideoEncoderConfig = {
        codec,
        ...size,
        bitrate: pictureBitrate(kind, size.width * size.height),
        framerate: 30,
        latencyMode: 'realtime',
        ...(codec.startsWith('avc') ? { avc: { format: 'avc' } } : {}),
      };
      if ((await VideoEncoder.isConfigSupported(config)).supported) settings.push(config);
    }
  }
  return settings;
};

/**
 * One picture track being recorded: frames in, encoded pieces out, on the clock of the take. An encoder
 * that fails is followed by another; what was encoded before stays.
 */
export class PictureTrack {
  readonly trackId: string;
  readonly kind: TrackKind;
  frames = 0;
  dropped = 0;
  #clock = new SourceClock();
  readonly #take: TakeClock;
  #line: PieceLine | null = null;
  readonly #events: TrackEvents;
  readonly #runs: Runs<VideoEncoderConfig, PictureRun>;
  #held: VideoFrame | null = null;
  #lastUs = -1;
  #lastKeyUs = -KEY_US;
  #first = true;
  readonly #source = new SourceReader<VideoFrame>();
  #encoding: Promise<void> = Promise.resolve();
  #over = false;
  #failed: unknown = null;

  constructor(trackId: string, kind: TrackKind, take: TakeClock, events: TrackEvents) {
    this.trackId = trackId;
    this.kind = kind;
    this.#take = take;
    this.#events = events;
    this.#runs = new Runs({
      what: kind,
      open: (config) => {
        // A run begins with a key frame.
        this.#lastKeyUs = -KEY_US;
        return new PictureRun(config, this.#line!);
      },
      recovered: (recovery) => events.recovered(recovery),
    });
  }

  /** From here on what falls into recorded time goes out on this line. */
  begin(line: PieceLine): void {
    this.#line = line;
  }

  /**
   * Reads until the source ends. Before the take begins this only finds the source's place in time. A
   * second source takes the place of the first.
   *
   * @returns whether the source ended by itself, and not because another took its place; the track can
   *   still be finished
   */
  read(frames: ReadableStream<VideoFrame>): Promise<boolean> {
    this.#clock = new SourceClock();
    return this.#source.read(frames, (frame) => {
      const atUs = this.#clock.place(frame.timestamp, nowUs());
      this.#held?.close();
      this.#held = frame;
      const takeUs = this.#take.recordedAt(atUs);
      if (takeUs !== null) this.#record(takeUs);
    });
  }

  /** The take has started, or time has passed: a still picture is recorded again. */
  repeat(): void {
    const takeUs = this.#take.recordedAt(nowUs());
    if (takeUs === null || !this.#held || this.#over) return;
    if (this.#lastUs < 0) this.#record(0);
    else if (takeUs - this.#lastUs > REPEAT_US) this.#record(takeUs);
  }

  #record(takeUs: number): void {
    if (takeUs <= this.#lastUs || !this.#held || !this.#line) return;
    this.frames++;
    const run = this.#runs.present;
    run?.checkStalled();
    if (run?.failed === null && run.queued > MOST_QUEUED) {
      this.dropped++;
      return;
    }
    // The first frame shows from the very start, so that no track begins with nothing.
    const atUs = this.#lastUs < 0 ? 0 : takeUs;
    this.#lastUs = takeUs;
    const frame = new VideoFrame(this.#held, { timestamp: atUs });
    this.#encoding = this.#encoding
      .then(() => this.#encode(frame))
      .catch((error: unknown) => {
        this.#failed ??= error;
      })
      .finally(() => frame.close());
  }

  async #encode(frame: VideoFrame): Promise<void> {
    const settings = () =>
      settingsFor(this.kind, even(frame.displayWidth), even(frame.displayHeight));
    for (;;) {
      const run = await this.#runs.working(settings);
      if (!run) return;
      const key = frame.timestamp - this.#lastKeyUs >= KEY_US;
      if (!run.encode(frame, key)) continue;
      if (key) this.#lastKeyUs = frame.timestamp;
      if (this.#first) {
        this.#first = false;
        this.#events.first();
      }
      return;
    }
  }

  /** Encoded so far. */
  get packets(): number {
    return this.#runs.packets;
  }

  /** Ends the file. Rejects when encoding failed; what had been written before is safe. */
  async finish(): Promise<void> {
    this.#over = true;
    this.#source.end();
    await this.#encoding;
    try {
      await this.#runs.end();
    } finally {
      this.#held?.close();
      this.#line?.close();
    }
    if (this.#failed) throw this.#failed;
  }
}
