import { frameToUs } from '@under-chalk/core/time/frames';
import type { Film } from '@under-chalk/core/film/film';
import { FADE_US, heardOf, type Heard } from '@under-chalk/core/sound/heard';
import {
  blocksOf,
  neededFor,
  stretchedBlock,
  type RecordedSound,
} from '@under-chalk/core/sound/time-stretch';
import { AT_SPEED, sameRate } from '@under-chalk/core/time/rate';
import { clickSamples, type ClicksOf } from '@under-chalk/core/pointer/click-sound';
import type { NoiseReduction } from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import { factorOf } from '@under-chalk/core/sound/levelling';
import type { TrackSound, TrackSoundOf } from '@under-chalk/core/sound/track-sound';
import { gainAt, pointsBetween, type LoudnessPoint } from '@under-chalk/core/sound/ducking';
import type { Track } from '@under-chalk/core/lesson/take';
import { toSeconds, type Us } from '@under-chalk/core/time/us';
import type { SoundSource } from './track-reader';

/** How far ahead sound is scheduled, seconds. */
const AHEAD = 1.2;

/** How loud one channel is in each of the film’s two: ffmpeg keeps its power. */
const MONO = Math.SQRT1_2;

/** What is left of something heard, from where playing begins. */
interface Part {
  readonly heard: Heard;
  /** How much of it has passed, and how much is left, µs of the film. */
  readonly intoUs: Us;
  readonly lastsUs: Us;
  /** Time of the audio context at which it begins, seconds. */
  readonly time: number;
}

/** How long after a part's beginning a recorded time comes in the film; negative before it. */
const intoPart = ({ heard: { rate, step }, intoUs }: Part, atUs: Us): Us =>
  (atUs * rate.film) / rate.recorded - frameToUs(step) - intoUs;

/** Where a track's sound is read from a recorded time on, as it was recorded or without the room. */
export type SoundReaderOf = (
  track: Track,
  reduction: NoiseReduction | null,
  fromUs: Us,
) => SoundSource;

/** Schedules the sound of a film from a moment on, until it is closed. */
export class SoundFeed {
  #closed = false;
  readonly #nodes = new Set<AudioBufferSourceNode>();
  readonly #audio: AudioContext;
  readonly #clicksOf: ClicksOf;
  readonly #soundOf: TrackSoundOf;
  readonly #out: AudioNode;
  #click: AudioBuffer | null = null;

  /**
   * @param fromUs film time to begin at
   * @param atTime time of the audio context at which that moment sounds, seconds
   * @param soundOf how tracks are heard
   * @param out what it is heard through
   */
  constructor(
    audio: AudioContext,
    film: Film,
    fromUs: Us,
    atTime: number,
    readerOf: SoundReaderOf,
    clicksOf: ClicksOf,
    soundOf: TrackSoundOf,
    out: AudioNode = audio.destination,
  ) {
    this.#audio = audio;
    this.#clicksOf = clicksOf;
    this.#soundOf = soundOf;
    this.#out = out;
    void this.#run(film, fromUs, atTime, readerOf);
  }

  close(): void {
    this.#closed = true;
    this.#nodes.forEach((node) => node.stop());
    this.#nodes.clear();
  }

  async #run(film: Film, fromUs: Us, atTime: number, readerOf: SoundReaderOf): Promise<void> {
    try {
      const all = heardOf(film);
      // What is spoken over it goes on beside it.
      await Promise.all(
        [false, true].map(async (over) => {
          for (const heard of all) {
            if (heard.over === over) await this.#playOne(heard, fromUs, atTime, readerOf);
            if (this.#closed) return;
          }
        }),
      );
    } catch (error) {
      if (!this.#closed) console.error('the sound can’t be played', error);
    }
  }

  async #playOne(heard: Heard, fromUs: Us, atTime: number, readerOf: SoundReaderOf): Promise<void> {
    const heardUs = frameToUs(heard.filmFrame);
    const endsUs = frameToUs(heard.filmFrame + heard.frames);
    if (endsUs <= fromUs) return;
    const beginUs = Math.max(heardUs, fromUs);
    const part: Part = {
      ...{ heard, intoUs: beginUs - heardUs, lastsUs: endsUs - beginUs },
      time: atTime + toSeconds(beginUs - fromUs),
    };
    // Not before its turn: what is spoken over a film may begin late in it.
    await this.#until(part.time);
    if (this.#closed) return;
    const gain = this.#faded(part);
    const { rate, step } = heard;
    const fromTakeUs = ((frameToUs(step) + part.intoUs) * rate.recorded) / rate.film;
    await Promise.all([
      ...heard.tracks.map((track) => {
        const sound = this.#soundOf(track, heard.take, heard.over);
        const into = this.#levelled(sound, part, gain);
        const reader = readerOf(track, sound.reduction, fromTakeUs);
        return sameRate(heard.rate, AT_SPEED)
          ? this.#playAsRecorded(reader, part, into)
          : this.#playStretched(reader, part, into);
      }),
      ...(heard.over ? [] : [this.#playClicks(part)]),
    ]);
    if (this.#closed) return;
    await this.#until(part.time + toSeconds(part.lastsUs));
  }

  /** Waits until the context's clock comes within reach of a time. */
  async #until(time: number): Promise<void> {
    while (!this.#closed && time - this.#audio.currentTime > AHEAD) {
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }

  /** Presses that are heard, by the very samples that the export mixes in. */
  async #playClicks(part: Part): Promise<void> {
    const { heard, lastsUs, time } = part;
    for (const { atUs, level } of this.#clicksOf(heard.take.id)) {
      const intoFilm = intoPart(part, atUs);
      if (intoFilm < 0 || intoFilm >= lastsUs) continue;
      const at = time + toSeconds(intoFilm);
      await this.#until(at);
      if (this.#closed) return;
      if (!this.#click) {
        const samples = clickSamples(this.#audio.sampleRate);
        this.#click = this.#audio.createBuffer(1, samples.length, this.#audio.sampleRate);
        this.#click.copyToChannel(samples, 0);
      }
      const gain = new GainNode(this.#audio, { gain: level });
      gain.connect(this.#out);
      this.#start(this.#click, gain, at);
    }
  }

  /** What a part is played through: it fades in and out as in the export; begun in its middle, in a moment. */
  #faded({ heard, intoUs, lastsUs, time }: Part): GainNode {
    const gain = new GainNode(this.#audio);
    gain.connect(this.#out);
    const fadeIn = intoUs > 0 ? FADE_US : heard.fadeInUs;
    if (fadeIn > 0) {
      gain.gain.setValueAtTime(0, time);
      gain.gain.linearRampToValueAtTime(1, time + toSeconds(Math.min(fadeIn, lastsUs)));
    }
    if (heard.fadeOutUs > 0) {
      const from = Math.max(Math.min(fadeIn, lastsUs), lastsUs - heard.fadeOutUs);
      gain.gain.setValueAtTime(1, time + toSeconds(from));
      gain.gain.linearRampToValueAtTime(0, time + toSeconds(lastsUs));
    }
    return gain;
  }

  /** What a track is played through, as loud as it is in the film; told how many channels it has. */
  #levelled(
    { gainDb, envelopes }: TrackSound,
    part: Part,
    into: AudioNode,
  ): (channels: number) => AudioNode {
    let gain: GainNode | null = null;
    return (channels) => {
      if (!gain) {
        const factor = factorOf(gainDb);
        gain = new GainNode(this.#audio, { gain: channels === 1 ? factor * MONO : factor });
        const through = envelopes.reduce(
          (next, points) => this.#changing(points, part, next),
          into,
        );
        gain.connect(through);
      }
      return gain;
    };
  }

  /** Becomes louder and quieter as in the export. */
  #changing(points: readonly LoudnessPoint[], part: Part, into: AudioNode): AudioNode {
    const { heard, intoUs, lastsUs, time } = part;
    const { rate, step } = heard;
    const recorded = (us: Us) => ((frameToUs(step) + us) * rate.recorded) / rate.film;
    const [fromUs, toUs] = [recorded(intoUs), recorded(intoUs + lastsUs)];
    const node = new GainNode(this.#audio);
    node.gain.setValueAtTime(gainAt(points, fromUs), time);
    for (const { atUs, gain } of pointsBetween(points, fromUs, toUs)) {
      if (atUs <= fromUs) continue;
      node.gain.linearRampToValueAtTime(gain, time + toSeconds(intoPart(part, atUs)));
    }
    node.connect(into);
    return node;
  }

  /** Starts a buffer at a time of the context, or as much of it as is still to come. */
  #start(buffer: AudioBuffer, into: AudioNode, at: number, from = 0, lasts?: number): void {
    const length = lasts ?? buffer.duration - from;
    const late = Math.max(0, this.#audio.currentTime - at);
    if (late >= length) return;
    const node = new AudioBufferSourceNode(this.#audio, { buffer });
    node.connect(into);
    node.start(at + late, from + late, length - late);
    this.#nodes.add(node);
    node.onended = () => this.#nodes.delete(node);
  }

  async #playAsRecorded(
    reader: SoundSource,
    part: Part,
    into: (channels: number) => AudioNode,
  ): Promise<void> {
    const { heard, intoUs, lastsUs, time } = part;
    const fromUs = frameToUs(heard.step) + intoUs;
    const [start, end] = [toSeconds(fromUs), toSeconds(fromUs + lastsUs)];
    for await (const { buffer, timestamp } of reader.soundFrom(fromUs, fromUs + lastsUs)) {
      if (this.#closed) return;
      const from = Math.max(start, timestamp);
      const to = Math.min(end, timestamp + buffer.duration);
      if (to <= from) continue;
      const at = time + from - start;
      await this.#until(at);
      if (this.#closed) return;
      const through = into(buffer.numberOfChannels);
      this.#start(buffer, through, at, from - timestamp, to - from);
    }
  }

  /** At another speed: by the very blocks that the export is made of. */
  async #playStretched(
    reader: SoundSource,
    part: Part,
    into: (channels: number) => AudioNode,
  ): Promise<void> {
    const { heard, intoUs, lastsUs, time } = part;
    const sampleRate = await reader.soundRate();
    if (!sampleRate) return;
    const inSamples = (us: Us) => Math.round(toSeconds(us) * sampleRate);
    const from = inSamples(frameToUs(heard.step) + intoUs);
    const to = from + inSamples(lastsUs);
    for (const block of blocksOf(heard.rate, { from, to }, sampleRate)) {
      const needed = neededFor(block, sampleRate);
      const sound = await recorded(reader, needed, sampleRate);
      if (this.#closed) return;
      const made = stretchedBlock(sound, block, heard.rate);
      const length = made.channels[0]?.length ?? 0;
      const [first, end] = [Math.max(from, made.from), Math.min(to, made.from + length)];
      if (end <= first) continue;
      const at = time + (first - from) / sampleRate;
      await this.#until(at);
      if (this.#closed) return;
      const buffer = this.#audio.createBuffer(made.channels.length, length, sampleRate);
      made.channels.forEach((channel, index) =>
        buffer.copyToChannel(channel as Float32Array<ArrayBuffer>, index),
      );
      const through = into(made.channels.length);
      const lasts = (end - first) / sampleRate;
      this.#start(buffer, through, at, (first - made.from) / sampleRate, lasts);
    }
  }
}

/** A part of a track's sound as samples, silent where there is none. */
const recorded = async (
  reader: SoundSource,
  { from, to }: { readonly from: number; readonly to: number },
  sampleRate: number,
): Promise<RecordedSound> => {
  const channels: Float32Array[] = [];
  const inUs = (sample: number): Us => Math.round((sample * 1e6) / sampleRate);
  for await (const { buffer, timestamp } of reader.soundFrom(inUs(from), inUs(to))) {
    while (channels.length < buffer.numberOfChannels) channels.push(new Float32Array(to - from));
    const at = Math.round(timestamp * sampleRate) - from;
    channels.forEach((channel, index) => {
      // One that is lacking is as the others are.
      const samples = buffer.getChannelData(Math.min(index, buffer.numberOfChannels - 1));
      const skipped = Math.max(0, -at);
      const count = Math.min(samples.length - skipped, channel.length - Math.max(0, at));
      if (count > 0) channel.set(samples.subarray(skipped, skipped + count), Math.max(0, at));
    });
  }
  return { sampleRate, from, channels };
};
