import { fromSeconds, type Us } from '../time/us';
import { levelOf } from './level';
import { LEVEL_STEP_US, toLevelByte, type LevelLine } from './level-line';

/** Samples of one channel, from a recorded time on. */
export interface HeardSound {
  readonly fromUs: Us;
  readonly sampleRate: number;
  readonly samples: Float32Array<ArrayBuffer>;
}

interface Block {
  readonly atUs: Us;
  readonly samples: Float32Array;
}

/**
 * What has just been said: the last seconds of a voice, to be played back at once, and its levels since
 * the start of the take.
 */
export class VoiceMemory {
  readonly #reachUs: Us;
  #blocks: Block[] = [];
  #sampleRate = 48_000;
  #levels: number[] = [];

  /** @param reachUs how far back it can be played, µs */
  constructor(reachUs: Us = fromSeconds(25)) {
    this.#reachUs = reachUs;
  }

  /** Takes in samples of one channel (full scale ±1) that begin at a recorded time. */
  hear(samples: Float32Array, atUs: Us, sampleRate: number): void {
    this.#sampleRate = sampleRate;
    this.#blocks.push({ atUs, samples });
    while (this.#blocks[0] && atUs - this.#blocks[0].atUs > this.#reachUs) this.#blocks.shift();
    const byte = toLevelByte(levelOf(samples).rmsDbfs);
    const first = Math.floor(atUs / LEVEL_STEP_US);
    const last = Math.floor((atUs + (samples.length * 1e6) / sampleRate - 1) / LEVEL_STEP_US);
    for (let step = first; step <= last; step++) {
      // Steps in which nothing came (a microphone that stood still) are silent.
      while (this.#levels.length <= step) this.#levels.push(0);
      this.#levels[step] = Math.max(this.#levels[step]!, byte);
    }
  }

  /** Levels from the start of the take, a byte for each 20 ms. */
  levels(): LevelLine {
    return Uint8Array.from(this.#levels);
  }

  /** The sound of a stretch, as far as it is still remembered. Where nothing came there is silence. */
  between(startUs: Us, endUs: Us): HeardSound {
    const fromUs = Math.max(0, startUs, this.#blocks[0]?.atUs ?? endUs);
    const rate = this.#sampleRate;
    const samples = new Float32Array(Math.max(0, Math.round(((endUs - fromUs) * rate) / 1e6)));
    for (const block of this.#blocks) {
      const at = Math.round(((block.atUs - fromUs) * rate) / 1e6);
      if (at >= samples.length || at + block.samples.length <= 0) continue;
      const part = block.samples.subarray(Math.max(0, -at), samples.length - at);
      samples.set(part, Math.max(0, at));
    }
    return { fromUs, sampleRate: rate, samples };
  }
}
