/** What an AudioWorklet has (Web Audio API §1.32), as far as it is used here. */
declare const sampleRate: number;
declare abstract class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare const registerProcessor: (name: string, processor: new () => object) => void;

/** Samples as they are sent: one plane a channel after another. */
export interface SentSamples {
  readonly planes: Float32Array<ArrayBuffer>;
  readonly channels: number;
  readonly sampleRate: number;
}

/** Samples sent at once: 10.7 ms at 48 kHz. */
const BLOCK = 512;
const MOST_CHANNELS = 2;

/** Gathers samples into blocks and sends them on the port that it is given first. */
class SoundReader extends AudioWorkletProcessor {
  #to: MessagePort | null = null;
  #planes = new Float32Array(0);
  #channels = 0;
  #filled = 0;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<MessagePort>) => {
      this.#to = data;
    };
  }

  process([input]: readonly (readonly Float32Array[])[]): boolean {
    const channels = Math.min(MOST_CHANNELS, input?.length ?? 0);
    if (!input || channels === 0 || !this.#to) return true;
    if (channels !== this.#channels || this.#planes.length === 0) {
      this.#channels = channels;
      this.#begin();
    }
    // A block holds a whole number of the quanta that come in.
    input.slice(0, channels).forEach((plane, channel) => {
      this.#planes.set(plane, channel * BLOCK + this.#filled);
    });
    this.#filled += input[0]!.length;
    if (this.#filled >= BLOCK) {
      const sent: SentSamples = {
        planes: this.#planes as Float32Array<ArrayBuffer>,
        channels,
        sampleRate,
      };
      this.#to.postMessage(sent, [this.#planes.buffer as ArrayBuffer]);
      this.#begin();
    }
    return true;
  }

  #begin(): void {
    this.#planes = new Float32Array(BLOCK * this.#channels);
    this.#filled = 0;
  }
}

registerProcessor('sound-reader', SoundReader);
