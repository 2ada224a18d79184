import { levelOf } from '@under-chalk/core/sound/level';
import { LEVEL_STEP_US, toLevelByte, type LevelLine } from '@under-chalk/core/sound/level-line';
import { decodeRecordedSound, type MediaFile } from '@under-chalk/render';

const RATE = 16_000;
const STEP = (RATE * LEVEL_STEP_US) / 1_000_000;

/** Measures the loudness of a sound track over recorded time. */
export const measureLevels = async (media: MediaFile): Promise<LevelLine> => {
  const decoder = decodeRecordedSound(media, { rate: RATE, channels: 1 });
  const levels: number[] = [];
  let held: Buffer = Buffer.alloc(0);
  const stepBytes = STEP * 4;
  for await (const part of decoder.stdout as AsyncIterable<Buffer>) {
    held = held.length > 0 ? Buffer.concat([held, part]) : part;
    const whole = Math.floor(held.length / stepBytes);
    // Copied, so that the floats lie on their border.
    const samples = new Float32Array(whole * STEP);
    Buffer.from(samples.buffer).set(held.subarray(0, whole * stepBytes));
    held = held.subarray(whole * stepBytes);
    for (let step = 0; step < whole; step++) {
      levels.push(toLevelByte(levelOf(samples.subarray(step * STEP, (step + 1) * STEP)).rmsDbfs));
    }
  }
  await decoder.ended;
  return Uint8Array.from(levels);
};
