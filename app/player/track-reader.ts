import {
  ALL_FORMATS,
  AudioBufferSink,
  Input,
  UrlSource,
  VideoSampleSink,
  type VideoSample,
} from 'mediabunny';
import { pathTo } from '@under-chalk/core/contract/api';
import { HALF_FRAME_US } from '@under-chalk/core/time/frames';
import { toSeconds, type Us } from '@under-chalk/core/time/us';

const MOST_CACHED_BYTES = 24_000_000;

/** Reads the pictures or the sound of one track from the server, by ranges. */
export class TrackReader {
  readonly #input: Input;
  #video: Promise<VideoSampleSink | null> | null = null;
  #audio: Promise<AudioBufferSink | null> | null = null;

  constructor(trackId: string) {
    const url = new URL(pathTo('media', { trackId }), location.origin);
    this.#input = new Input({
      source: new UrlSource(url, { maxCacheSize: MOST_CACHED_BYTES }),
      formats: ALL_FORMATS,
    });
  }

  #pictures(): Promise<VideoSampleSink | null> {
    this.#video ??= this.#input
      .getPrimaryVideoTrack()
      .then((track) => (track ? new VideoSampleSink(track) : null));
    return this.#video;
  }

  /** The picture a film's frame shows: the last that starts before the frame's middle. The caller closes it. */
  async pictureAt(takeUs: Us): Promise<VideoSample | null> {
    const sink = await this.#pictures();
    if (!sink) return null;
    const at = toSeconds(takeUs + HALF_FRAME_US);
    return (await sink.getSample(at)) ?? (await sink.getSample(await this.#firstTime()));
  }

  #firstTime(): Promise<number> {
    return this.#input.getFirstTimestamp();
  }

  /** Pictures from a recorded time on, in order. The caller closes each. */
  async *picturesFrom(takeUs: Us, endUs: Us): AsyncGenerator<VideoSample, void, unknown> {
    const sink = await this.#pictures();
    if (sink) yield* sink.samples(toSeconds(takeUs), toSeconds(endUs));
  }

  /** Sound from a recorded time on, in order, with recorded times in seconds. */
  async *soundFrom(
    takeUs: Us,
    endUs: Us,
  ): AsyncGenerator<{ buffer: AudioBuffer; timestamp: number; duration: number }, void, unknown> {
    this.#audio ??= this.#input
      .getPrimaryAudioTrack()
      .then((track) => (track ? new AudioBufferSink(track) : null));
    const sink = await this.#audio;
    if (sink) yield* sink.buffers(toSeconds(takeUs), toSeconds(endUs));
  }

  close(): void {
    this.#input.dispose();
  }
}
