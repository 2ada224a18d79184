import { SourceClock } from '@under-chalk/core/time/source-clock';
import type { TakeClock } from '@under-chalk/core/time/take-clock';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import { pictureBitrate } from '@under-chalk/core/record/room';
import { nowUs } from './now';
import type { PieceLine } from './piece-line';
import { SourceReader } from './source-reader';
import { TrackFile } from './track-file';

/** A key frame this often: a piece ends at one, and seeking starts at one. */
const KEY_US = 1_000_000;
/** A still screen sends no frames; the last one is repeated, so that pieces keep leaving. */
const REPEAT_US = 500_000;
/** Frames the encoder may be behind before one is left out. */
const MOST_QUEUED = 8;

/** Best first: H.264 plays and decodes everywhere, VP8 can be encoded by all browsers that have WebCodecs. */
const CODECS = ['avc1.640028', 'avc1.4d0028', 'avc1.42e028', 'vp8'];

const configFor = async (
  kind: TrackKind,
  width: number,
  height: number,
): Promise<VideoEncoderConfig | null> => {
  for (const codec of CODECS) {
    const config: VideoEncoderConfig = {
      codec,
      width,
      height,
      bitrate: pictureBitrate(kind, width * height),
      framerate: 30,
      latencyMode: 'realtime',
      ...(codec.startsWith('avc') ? { avc: { format: 'avc' } } : {}),
    };
    if ((await VideoEncoder.isConfigSupported(config)).supported) return config;
  }
  return null;
};

const even = (value: number) => Math.max(2, value - (value % 2));

/** One picture track being recorded: frames in, encoded pieces out, on the clock of the take. */
export class PictureTrack {
  readonly trackId: string;
  readonly kind: TrackKind;
  frames = 0;
  dropped = 0;
  #clock = new SourceClock();
  readonly #take: TakeClock;
  #line: PieceLine | null = null;
  readonly #onFirst: () => void;
  #encoder: VideoEncoder | null = null;
  #file: TrackFile | null = null;
  #size = { width: 0, height: 0 };
  #fitted: OffscreenCanvas | null = null;
  #held: VideoFrame | null = null;
  #lastUs = -1;
  #lastKeyUs = -KEY_US;
  #first = true;
  readonly #source = new SourceReader<VideoFrame>();
  #encoding: Promise<void> = Promise.resolve();
  #over = false;
  #failed: unknown = null;

  constructor(trackId: string, kind: TrackKind, take: TakeClock, onFirst: () => void) {
    this.trackId = trackId;
    this.kind = kind;
    this.#take = take;
    this.#onFirst = onFirst;
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
    if ((this.#encoder?.encodeQueueSize ?? 0) > MOST_QUEUED) {
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
    if (!this.#encoder) await this.#open(frame);
    const key = frame.timestamp - this.#lastKeyUs >= KEY_US;
    if (key) this.#lastKeyUs = frame.timestamp;
    const fitted = this.#fit(frame);
    this.#encoder!.encode(fitted, { keyFrame: key });
    if (fitted !== frame) fitted.close();
    if (this.#first) {
      this.#first = false;
      this.#onFirst();
    }
  }

  async #open(frame: VideoFrame): Promise<void> {
    const width = even(frame.displayWidth);
    const height = even(frame.displayHeight);
    const config = await configFor(this.kind, width, height);
    if (!config) throw new Error(`no encoder for ${width}×${height}`);
    this.#size = { width, height };
    const codec = config.codec === 'vp8' ? 'vp8' : 'avc';
    const file = new TrackFile(codec, this.#line!);
    this.#file = file;
    this.#encoder = new VideoEncoder({
      output: (chunk, meta) => file.addVideo(chunk, meta),
      error: (error) => {
        this.#failed ??= error;
      },
    });
    this.#encoder.configure(config);
  }

  /** A window that changes its size while it is recorded is shown whole in the size it began with. */
  #fit(frame: VideoFrame): VideoFrame {
    const { width, height } = this.#size;
    if (frame.displayWidth === width && frame.displayHeight === height) return frame;
    this.#fitted ??= new OffscreenCanvas(width, height);
    const context = this.#fitted.getContext('2d')!;
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

  /** Encoded so far. */
  get packets(): number {
    return this.#file?.packets ?? 0;
  }

  /** Ends the file. Rejects when encoding failed; what had been written before is safe. */
  async finish(): Promise<void> {
    this.#over = true;
    this.#source.end();
    await this.#encoding;
    try {
      if (this.#encoder?.state === 'configured') {
        await this.#encoder.flush();
        this.#encoder.close();
      }
      await this.#file?.finish();
    } finally {
      this.#held?.close();
      this.#line?.close();
    }
    if (this.#failed) throw this.#failed;
  }
}
