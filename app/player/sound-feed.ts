import { frameToUs, inFrames } from '@under-chalk/core/time/frames';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import type { Film } from '@under-chalk/core/film/film';
import { recordedIn, type Span } from '@under-chalk/core/film/span';
import { clickSamples, type ClicksOf } from '@under-chalk/core/pointer/click-sound';
import { toSeconds, type Us } from '@under-chalk/core/time/us';
import type { TrackReader } from './track-reader';

/** How far ahead sound is scheduled, seconds. */
const AHEAD = 1.2;
/** The same short fade at cuts as in the export, seconds. */
const FADE = 0.006;

/** Schedules the sound of a film from a moment on, until it is closed. */
export class SoundFeed {
  #closed = false;
  readonly #nodes = new Set<AudioBufferSourceNode>();
  readonly #audio: AudioContext;
  readonly #clicksOf: ClicksOf;
  #click: AudioBuffer | null = null;

  /**
   * @param fromUs film time to begin at
   * @param atTime time of the audio context at which that moment sounds, seconds
   */
  constructor(
    audio: AudioContext,
    film: Film,
    fromUs: Us,
    atTime: number,
    readerOf: (trackId: string) => TrackReader,
    clicksOf: ClicksOf,
  ) {
    this.#audio = audio;
    this.#clicksOf = clicksOf;
    void this.#run(film, fromUs, atTime, readerOf);
  }

  close(): void {
    this.#closed = true;
    this.#nodes.forEach((node) => node.stop());
    this.#nodes.clear();
  }

  async #run(
    film: Film,
    fromUs: Us,
    atTime: number,
    readerOf: (trackId: string) => TrackReader,
  ): Promise<void> {
    try {
      for (const span of film.spans) {
        const spanUs = frameToUs(span.filmFrame);
        const spanEndUs = frameToUs(span.filmFrame + span.frames);
        if (spanEndUs <= fromUs) continue;
        const beginUs = Math.max(spanUs, fromUs);
        const time = atTime + toSeconds(beginUs - fromUs);
        const tracks = ofMedium(span.take.tracks, 'sound');
        const takeUs = recordedIn(span, inFrames(beginUs));
        await Promise.all([
          ...tracks.map((track) => this.#playSpan(readerOf(track.id), span, takeUs, time)),
          this.#playClicks(span, takeUs, time),
        ]);
        if (this.#closed) return;
        await this.#until(time + toSeconds(spanEndUs - beginUs));
        if (this.#closed) return;
      }
    } catch (error) {
      if (!this.#closed) console.error('the sound can’t be played', error);
    }
  }

  /** Waits until the context's clock comes within reach of a time. */
  async #until(time: number): Promise<void> {
    while (!this.#closed && time - this.#audio.currentTime > AHEAD) {
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }

  /** Presses that are heard, by the very samples that the export mixes in. */
  async #playClicks(span: Span, takeUs: Us, time: number): Promise<void> {
    for (const { atUs, level } of this.#clicksOf(span.take.id)) {
      if (atUs < takeUs || atUs >= frameToUs(span.endFrame)) continue;
      const at = time + toSeconds(atUs - takeUs);
      await this.#until(at);
      if (this.#closed) return;
      if (!this.#click) {
        const samples = clickSamples(this.#audio.sampleRate);
        this.#click = this.#audio.createBuffer(1, samples.length, this.#audio.sampleRate);
        this.#click.copyToChannel(samples, 0);
      }
      const gain = new GainNode(this.#audio, { gain: level });
      gain.connect(this.#audio.destination);
      const node = new AudioBufferSourceNode(this.#audio, { buffer: this.#click });
      node.connect(gain);
      node.start(Math.max(this.#audio.currentTime, at));
      this.#nodes.add(node);
      node.onended = () => this.#nodes.delete(node);
    }
  }

  async #playSpan(reader: TrackReader, span: Span, takeUs: Us, time: number): Promise<void> {
    const start = toSeconds(takeUs);
    const end = toSeconds(frameToUs(span.endFrame));
    const gain = new GainNode(this.#audio);
    gain.connect(this.#audio.destination);
    gain.gain.setValueAtTime(0, time);
    gain.gain.linearRampToValueAtTime(1, time + FADE);
    gain.gain.setValueAtTime(1, Math.max(time + FADE, time + end - start - FADE));
    gain.gain.linearRampToValueAtTime(0, time + end - start);
    for await (const { buffer, timestamp } of reader.soundFrom(takeUs, frameToUs(span.endFrame))) {
      if (this.#closed) return;
      const from = Math.max(start, timestamp);
      const to = Math.min(end, timestamp + buffer.duration);
      if (to <= from) continue;
      const at = time + from - start;
      await this.#until(at);
      if (this.#closed) return;
      const node = new AudioBufferSourceNode(this.#audio, { buffer });
      node.connect(gain);
      const late = Math.max(0, this.#audio.currentTime - at);
      if (late < to - from) node.start(at + late, from - timestamp + late, to - from - late);
      this.#nodes.add(node);
      node.onended = () => this.#nodes.delete(node);
    }
  }
}
