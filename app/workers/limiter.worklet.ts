import { Limiter } from '@under-chalk/core/sound/limiter';

/** What an AudioWorklet has (Web Audio API §1.32), as far as it is used here. */
declare const sampleRate: number;
declare abstract class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare const registerProcessor: (name: string, processor: new () => object) => void;

const CHANNELS = 2;
/** Samples that come at once. */
const QUANTUM = 128;
const SILENCE = Array.from({ length: CHANNELS }, () => new Float32Array(QUANTUM));

/** Brings down what would be too loud, as the film has it (`core/src/sound/limiter`). */
class LimiterProcessor extends AudioWorkletProcessor {
  readonly #limiter = new Limiter(sampleRate, CHANNELS);

  process(
    [input]: readonly (readonly Float32Array[])[],
    [output]: readonly (readonly Float32Array[])[],
  ): boolean {
    // Without anything that plays, what has come is played to its end.
    this.#limiter.process(input?.length === CHANNELS ? input : SILENCE, output!);
    return true;
  }
}

registerProcessor('limiter', LimiterProcessor);
