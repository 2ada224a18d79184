import type { HeardSound } from '@under-chalk/core/sound/voice-memory';

/**
 * Plays a stretch of what was heard. Resolves at its end, and at once when there is none.
 *
 * @param signal breaks it off
 */
export const playSound = async (
  sound: HeardSound,
  startUs: number,
  endUs: number,
  signal?: AbortSignal,
): Promise<void> => {
  const sample = (us: number) => Math.round(((us - sound.fromUs) * sound.sampleRate) / 1e6);
  const samples = sound.samples.subarray(Math.max(0, sample(startUs)), Math.max(0, sample(endUs)));
  if (samples.length === 0) return;
  const audio = new AudioContext({ sampleRate: sound.sampleRate });
  try {
    const buffer = audio.createBuffer(1, samples.length, sound.sampleRate);
    buffer.copyToChannel(new Float32Array(samples), 0);
    const source = new AudioBufferSourceNode(audio, { buffer });
    source.connect(audio.destination);
    source.start();
    await new Promise<void>((resolve) => {
      source.onended = () => resolve();
      signal?.addEventListener('abort', () => resolve(), { once: true });
      // A browser that lets no sound out (it waits for a press) must not hold the recorder up.
      setTimeout(resolve, (samples.length / sound.sampleRate) * 1000 + 400);
    });
  } finally {
    await audio.close();
  }
};

const TICK = { hz: 880, lastHz: 1_320, seconds: 0.05, loudness: 0.12 } as const;

/** A soft tick of the count-in; the last second's is higher. It is over before anything is recorded. */
export const playTick = (last: boolean): void => {
  const audio = new AudioContext();
  const tone = new OscillatorNode(audio, { frequency: last ? TICK.lastHz : TICK.hz });
  const fade = new GainNode(audio, { gain: TICK.loudness });
  const endsAt = audio.currentTime + TICK.seconds;
  fade.gain.setTargetAtTime(0, audio.currentTime + TICK.seconds / 2, TICK.seconds / 6);
  tone.connect(fade).connect(audio.destination);
  tone.start();
  tone.stop(endsAt + TICK.seconds);
  tone.onended = () => void audio.close();
};
