import { LookAheadClock } from '@under-chalk/core/time/source-clock';
import type { TakeClock } from '@under-chalk/core/time/take-clock';
import { soundBitrate } from '@under-chalk/core/record/storage-left';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import { nowUs } from '../../capture/common-clock';
import type { PieceLine } from './piece-line';
import { inForm, type Block, type Form } from './sound-block';
import { Runs } from './runs';
import { SoundRun, type SoundSettings } from './sound-run';
import { SourceReader } from './source-reader';
import type { TrackEvents } from './track-events';

/**
 * What a source delivers first was waiting while this worker was being started, some of it was thrown
 * away, and its timestamps are of another time (seen: seconds off). None of it is listened to.
 */
const STALE_US = 400_000;

/**
 * Packets are never nearer to each other than this, also when a source that had stood still catches up:
 * nearer ones would fall on the same tick of a file, and one of them be left out when it is copied.
 */
const LEAST_APART_US = 1_000;

/** What this browser says it can encode sound of a form with, best first. */
const settingsFor = async ({ sampleRate, channels }: Form): Promise<SoundSettings[]> => {
  const choices = [
    { codec: 'opus', inFile: 'opus' },
    { codec: 'mp4a.40.2', inFile: 'aac' },
  ] as const;
  const settings: SoundSettings[] = [];
  for (const { codec, inFile } of choices) {
    const config: AudioEncoderConfig = {
      codec,
      sampleRate,
      numberOfChannels: channels,
      bitrate: soundBitrate(channels),
    };
    if ((await AudioEncoder.isConfigSupported(config)).supported) settings.push({ config, inFile });
  }
  return settings;
};

/** Listens in on a track: to everything at once, and to what is recorded. */
export interface Ear {
  /** Samples of the first channel, just arrived; they are lent. */
  sense(samples: Float32Array): void;
  /** Samples of the first channel, and the recorded time of the first one. */
  hear(samples: Float32Array, takeUs: number, sampleRate: number): void;
}

/**
 * One sound track being recorded. The encoder counts samples; a microphone's crystal is not the
 * computer's clock. So each block is placed on the take's clock as it arrives, and encoded packets get
 * the recorded time of the samples they were made from, whatever the encoder counted.
 */
export class SoundTrack {
  readonly trackId: string;
  readonly kind: TrackKind;
  readonly #source = new SourceReader<AudioData>();
  #clock = new LookAheadClock<Block>();
  readonly #take: TakeClock;
  #line: PieceLine | null = null;
  readonly #events: TrackEvents;
  readonly #ear: Ear | null;
  readonly #runs: Runs<SoundSettings, SoundRun>;
  /** Length of what the source has delivered, µs: its stamps, for they follow on one another exactly. */
  #countedUs = 0;
  /** Time given to the encoder so far, µs: its own count. */
  #fedUs = 0;
  /** Which recorded time a count of the encoder stands for, oldest first. */
  #anchors: { fedUs: number; takeUs: number }[] = [];
  #lastPacketUs = -1;
  #first = true;
  /** One block after another, also while another encoder is opened. */
  #order: Promise<void> = Promise.resolve();
  /** What the encoder was opened for, by the first block. */
  #form: Form | null = null;
  #failed: unknown = null;

  constructor(
    trackId: string,
    kind: TrackKind,
    take: TakeClock,
    events: TrackEvents,
    ear: Ear | null,
  ) {
    this.trackId = trackId;
    this.kind = kind;
    this.#take = take;
    this.#events = events;
    this.#ear = ear;
    this.#runs = new Runs({
      what: kind,
      open: (settings) =>
        new SoundRun(settings, this.#line!, (countUs) => this.#recordedTimeOf(countUs)),
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
  async read(samples: ReadableStream<AudioData>): Promise<boolean> {
    await this.#placeTheRest();
    this.#clock = new LookAheadClock();
    this.#countedUs = 0;
    let openedUs: number | null = null;
    return this.#source.read(samples, async (data) => {
      openedUs ??= nowUs();
      try {
        if (nowUs() - openedUs >= STALE_US) await this.#takeIn(data);
      } catch (error) {
        this.#failed ??= error;
      } finally {
        data.close();
      }
    });
  }

  async #takeIn(data: AudioData): Promise<void> {
    const channels = Math.min(2, data.numberOfChannels);
    const frames = data.numberOfFrames;
    const planes = new Float32Array(frames * channels);
    for (let channel = 0; channel < channels; channel++) {
      const plane = planes.subarray(channel * frames, (channel + 1) * frames);
      data.copyTo(plane, { planeIndex: channel, format: 'f32-planar' });
      if (channel === 0) this.#ear?.sense(plane);
    }
    const lengthUs = (frames * 1e6) / data.sampleRate;
    const block = { planes, frames, channels, sampleRate: data.sampleRate, lengthUs };
    this.#countedUs += lengthUs;
    // A block arrives when its last sample has been taken.
    for (const { item, atUs } of this.#clock.place(block, Math.round(this.#countedUs), nowUs())) {
      await this.#record(item, atUs - item.lengthUs);
    }
  }

  async #placeTheRest(): Promise<void> {
    for (const { item, atUs } of this.#clock.flush()) {
      await this.#record(item, atUs - item.lengthUs);
    }
  }

  /** @param atUs when its first sample was taken, on the common clock */
  #record(given: Block, atUs: number): Promise<void> {
    this.#order = this.#order.catch(() => undefined).then(() => this.#recordNext(given, atUs));
    return this.#order;
  }

  async #recordNext(given: Block, atUs: number): Promise<void> {
    const takeUs = this.#take.recordedAt(atUs);
    if (takeUs === null || !this.#line) return;
    this.#form ??= { sampleRate: given.sampleRate, channels: given.channels };
    const block = inForm(given, this.#form);
    this.#ear?.hear(block.planes.subarray(0, block.frames), takeUs, block.sampleRate);
    if (this.#runs.gone) return;
    this.#anchors.push({ fedUs: this.#fedUs, takeUs });
    const data = new AudioData({
      format: 'f32-planar',
      sampleRate: block.sampleRate,
      numberOfFrames: block.frames,
      numberOfChannels: block.channels,
      timestamp: Math.round(this.#fedUs),
      data: block.planes,
    });
    this.#fedUs += block.lengthUs;
    try {
      await this.#encode(data, this.#form);
    } finally {
      data.close();
    }
  }

  async #encode(data: AudioData, form: Form): Promise<void> {
    for (;;) {
      const run = await this.#runs.working(() => settingsFor(form));
      if (!run) return;
      if (!run.encode(data)) continue;
      if (this.#first) {
        this.#first = false;
        this.#events.first();
      }
      return;
    }
  }

  /** Recorded time of a place in the encoder's count; never runs backwards. */
  #recordedTimeOf(fedUs: number): number {
    while (this.#anchors[1] && this.#anchors[1].fedUs <= fedUs) this.#anchors.shift();
    const anchor = this.#anchors[0]!;
    const takeUs = Math.max(0, Math.round(anchor.takeUs + fedUs - anchor.fedUs));
    this.#lastPacketUs = Math.max(takeUs, this.#lastPacketUs + LEAST_APART_US);
    return this.#lastPacketUs;
  }

  /** Encoded so far. */
  get packets(): number {
    return this.#runs.packets;
  }

  /** Ends the file. Rejects when encoding failed; what had been written before is safe. */
  async finish(): Promise<void> {
    this.#source.end();
    try {
      await this.#placeTheRest();
      await this.#order;
      await this.#runs.end();
    } finally {
      this.#line?.close();
    }
    if (this.#failed) throw this.#failed;
  }
}
