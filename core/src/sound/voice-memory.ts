import { fromSeconds, type Us } from '../time/us';
import { levelOf } from './level';
import { LEVEL_STEP_US, toLevelByte, type LevelLine } from './level-line';

/** Samples of one channel, from a recorded time on. */
export interface HeardSound {
  readonly fromUs: Us;
  readonly sampleRate: number;
  readonly samples: Float32Array<ArrayBuffer>;
}

/** Room for the levels of the first ten minutes; it doubles when that is full. */
const FIRST_STEPS = 30_000;

/**
 * What has just been said: the last seconds of a voice, to be played back at once, and its levels since
 * the start of the take. It takes the same memory however long the take is, but for a byte for each step
 * of the levels.
 */
export class VoiceMemory {
  readonly #reachUs: Us;
  #sampleRate = 48_000;
  /** The last seconds: sample `n` of the take is at `n` modulo its length. */
  #ring = new Float32Array(0);
  /** Samples of the take that are remembered: from the first of these to before the second. */
  #from = 0;
  #to = 0;
  #levels = new Uint8Array(FIRST_STEPS);
  #steps = 0;

  /** @param reachUs how far back it can be played, µs */
  constructor(reachUs: Us = fromSeconds(25)) {
    this.#reachUs = reachUs;
  }

  /**
   * Takes in samples of one channel (full scale ±1) that begin at a recorded time; they are copied. Where
   * two blocks overlap, the later one is kept. With another rate, what was heard before is forgotten.
   */
  hear(samples: Float32Array, atUs: Us, sampleRate: number): void {
    const first = this.#sampleAt(atUs, sampleRate);
    if (this.#ring.length === 0 || sampleRate !== this.#sampleRate) {
      this.#sampleRate = sampleRate;
      this.#ring = new Float32Array(Math.ceil((this.#reachUs * sampleRate) / 1e6));
      this.#from = this.#to = first;
    }
    // Where nothing came (a microphone that stood still) it is silent.
    const silentFrom = Math.max(this.#to, first - this.#ring.length);
    for (let at = silentFrom; at < first; at++) this.#ring[at % this.#ring.length] = 0;
    this.#to = Math.max(this.#to, first + samples.length);
    this.#from = Math.max(this.#from, this.#to - this.#ring.length);
    for (let index = Math.max(0, this.#from - first); index < samples.length; index++) {
      this.#ring[(first + index) % this.#ring.length] = samples[index]!;
    }
    this.#noteLevel(samples, atUs, sampleRate);
  }

  /** Levels from the start of the take, a byte for each 20 ms. */
  levels(): LevelLine {
    return this.#levels.slice(0, this.#steps);
  }

  /** The sound of a stretch, as far as it is still remembered. Where nothing came there is silence. */
  between(startUs: Us, endUs: Us): HeardSound {
    const sampleRate = this.#sampleRate;
    const first = Math.max(this.#from, this.#sampleAt(Math.max(0, startUs), sampleRate));
    const end = this.#sampleAt(endUs, sampleRate);
    const samples = new Float32Array(this.#ring.length === 0 ? 0 : Math.max(0, end - first));
    for (let at = first; at < Math.min(end, this.#to); at++) {
      samples[at - first] = this.#ring[at % this.#ring.length]!;
    }
    return { fromUs: Math.round((first * 1e6) / sampleRate), sampleRate, samples };
  }

  #sampleAt(us: Us, sampleRate: number): number {
    return Math.round((us * sampleRate) / 1e6);
  }

  #noteLevel(samples: Float32Array, atUs: Us, sampleRate: number): void {
    const byte = toLevelByte(levelOf(samples).rmsDbfs);
    const first = Math.floor(atUs / LEVEL_STEP_US);
    const last = Math.floor((atUs + (samples.length * 1e6) / sampleRate - 1) / LEVEL_STEP_US);
    if (last >= this.#levels.length) {
      const more = new Uint8Array(Math.max(last + 1, this.#levels.length * 2));
      more.set(this.#levels);
      this.#levels = more;
    }
    for (let step = first; step <= last; step++) {
      this.#levels[step] = Math.max(this.#levels[step]!, byte);
    }
    this.#steps = Math.max(this.#steps, last + 1);
  }
}
