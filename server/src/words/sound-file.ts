import { levelOf } from '@under-chalk/core/sound/level';
import { LEVEL_STEP_US, toLevelByte, type LevelLine } from '@under-chalk/core/sound/level-line';
import { open } from 'node:fs/promises';

/** Sound that is listened to: 16-bit samples, one channel, as a file without any header; so many a second. */
export const HEARD_RATE = 16_000;
/** Bytes of a sample. */
export const BYTES = 2;

/** The sample that is heard at a time, µs. */
export const sampleAt = (us: number): number => Math.round((us * HEARD_RATE) / 1e6);

/** A stretch of a file of samples; times in µs. */
export const samplesIn = async (path: string, fromUs: number, toUs: number): Promise<Buffer> => {
  const [from, to] = [sampleAt(fromUs), sampleAt(toUs)];
  const file = await open(path, 'r');
  try {
    const bytes = Buffer.alloc((to - from) * BYTES);
    const { bytesRead } = await file.read(bytes, 0, bytes.length, from * BYTES);
    return bytes.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
};

/** The header of a WAV file with so many bytes of samples in it (RIFF, 44 bytes). */
export const wavHeader = (bytes: number): Buffer => {
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + bytes, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(1, 22);
  head.writeUInt32LE(HEARD_RATE, 24);
  head.writeUInt32LE(HEARD_RATE * BYTES, 28);
  head.writeUInt16LE(BYTES, 32);
  head.writeUInt16LE(16, 34);
  head.write('data', 36);
  head.writeUInt32LE(bytes, 40);
  return head;
};

/** The middle of the quietest twentieth of a second in a stretch, µs. */
export const quietestIn = async (path: string, fromUs: number, toUs: number): Promise<number> => {
  const samples = await samplesIn(path, Math.max(0, fromUs), toUs);
  const step = HEARD_RATE / 20;
  let [least, best] = [Number.POSITIVE_INFINITY, 0];
  for (let at = 0; at + step <= samples.length / BYTES; at += step / 2) {
    let sum = 0;
    for (let n = at; n < at + step; n++) sum += samples.readInt16LE(n * BYTES) ** 2;
    // Of those that are alike, the latest.
    if (sum <= least) [least, best] = [sum, at + step / 2];
  }
  return Math.round(Math.max(0, fromUs) + (best * 1e6) / HEARD_RATE);
};

/** Samples of a step of a level line. */
export const LEVEL_STEP = sampleAt(LEVEL_STEP_US);

/** How loud samples are; what is left of a step at their end is left out. */
export const levelsIn = (samples: Buffer): LevelLine =>
  Uint8Array.from({ length: Math.floor(samples.length / (LEVEL_STEP * BYTES)) }, (_, step) => {
    const from = step * LEVEL_STEP * BYTES;
    const part = Float32Array.from(
      { length: LEVEL_STEP },
      (__, n) => samples.readInt16LE(from + n * BYTES) / 32_768,
    );
    return toLevelByte(levelOf(part).rmsDbfs);
  });

/** How much sound is held at a time while its loudness is measured, whole steps of it, µs. */
const READ_AT_ONCE_US = 10_000_000;

/** How loud all of a file of samples is. */
export const levelsOfFile = async (path: string, durationUs: number): Promise<LevelLine> => {
  const levels: number[] = [];
  for (let at = 0; at < durationUs; at += READ_AT_ONCE_US) {
    const samples = await samplesIn(path, at, Math.min(durationUs, at + READ_AT_ONCE_US));
    for (const level of levelsIn(samples)) levels.push(level);
  }
  return Uint8Array.from(levels);
};
