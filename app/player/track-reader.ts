import type { AudioBufferSink, Input, VideoSample, VideoSampleSink } from 'mediabunny';
import { pathTo } from '@under-chalk/core/contract/api';
import type { NoiseReduction } from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import { HALF_FRAME_US } from '@under-chalk/core/time/frames';
import { toSeconds, type Us } from '@under-chalk/core/time/us';

type Library = typeof import('mediabunny');

const MOST_CACHED_BYTES = 24_000_000;

/** Where sound is read. */
export interface SoundSource {
  /** Samples a second; null where it has none. */
  soundRate(): Promise<number | null>;
  /** Sound from a recorded time on, in order, with recorded times in seconds. */
  soundFrom(
    takeUs: Us,
    endUs: Us,
  ): AsyncGenerator<{ buffer: AudioBuffer; timestamp: number; duration: number }, void, unknown>;
}

/** Reads the pictures or the sound of one track from the server, by ranges. */
export class TrackReader implements SoundSource {
  /** Null when it was closed before it was there. */
  readonly #input: Promise<{ library: Library; input: Input } | null>;
  #closed = false;
  #video: Promise<VideoSampleSink | null> | null = null;
  #audio: Promise<{ sink: AudioBufferSink; rate: number } | null> | null = null;

  /** @param reduction its sound without the room; null: as it was recorded */
  constructor(trackId: string, reduction: NoiseReduction | null = null) {
    const url = new URL(pathTo('media', { trackId }), location.origin);
    if (reduction) url.searchParams.set('reduction', reduction);
    // Fetched with the first track that is read: pages that play nothing do without it.
    this.#input = import('mediabunny').then((library) => {
      if (this.#closed) return null;
      const source = new library.UrlSource(url, { maxCacheSize: MOST_CACHED_BYTES });
      return { library, input: new library.Input({ source, formats: library.ALL_FORMATS }) };
    });
  }

  #pictures(): Promise<VideoSampleSink | null> {
    this.#video ??= this.#input.then(async (opened) => {
      const track = await opened?.input.getPrimaryVideoTrack();
      return opened && track ? new opened.library.VideoSampleSink(track) : null;
    });
    return this.#video;
  }

  /** The picture a film's frame shows: the last that starts before the frame's middle. The caller closes it. */
  async pictureAt(takeUs: Us): Promise<VideoSample | null> {
    const sink = await this.#pictures();
    if (!sink) return null;
    const at = toSeconds(takeUs + HALF_FRAME_US);
    return (await sink.getSample(at)) ?? (await sink.getSample(await this.#firstTime()));
  }

  async #firstTime(): Promise<number> {
    return (await this.#input)?.input.getFirstTimestamp() ?? 0;
  }

  /** Pictures from a recorded time on, in order. The caller closes each. */
  async *picturesFrom(takeUs: Us, endUs: Us): AsyncGenerator<VideoSample, void, unknown> {
    const sink = await this.#pictures();
    if (sink) yield* sink.samples(toSeconds(takeUs), toSeconds(endUs));
  }

  #sound(): Promise<{ sink: AudioBufferSink; rate: number } | null> {
    this.#audio ??= this.#input.then(async (opened) => {
      const track = await opened?.input.getPrimaryAudioTrack();
      if (!opened || !track) return null;
      return { sink: new opened.library.AudioBufferSink(track), rate: track.sampleRate };
    });
    return this.#audio;
  }

  /** Samples a second of its sound; null where it has none. */
  async soundRate(): Promise<number | null> {
    return (await this.#sound())?.rate ?? null;
  }

  /** Sound from a recorded time on, in order, with recorded times in seconds. */
  async *soundFrom(
    takeUs: Us,
    endUs: Us,
  ): AsyncGenerator<{ buffer: AudioBuffer; timestamp: number; duration: number }, void, unknown> {
    const opened = await this.#sound();
    if (opened) yield* opened.sink.buffers(toSeconds(takeUs), toSeconds(endUs));
  }

  close(): void {
    this.#closed = true;
    void this.#input.then((opened) => opened?.input.dispose());
  }
}
