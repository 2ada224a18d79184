import { open } from 'node:fs/promises';

/** Sound that is listened to: 16-bit samples, one channel, as a file without any header; so many a second. */
export const HEARD_RATE = 16_000;
const BYTES = 2;

/** A stretch of a file of samples; times in µs. */
export const samplesIn = async (path: string, fromUs: number, toUs: number): Promise<Buffer> => {
  const sample = (us: number) => Math.round((us * HEARD_RATE) / 1e6);
  const [from, to] = [sample(fromUs), sample(toUs)];
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
