import type { Take, TrackKind } from '@under-chalk/core/lesson/take';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { run, type MediaFile } from '../ffmpeg/run';

/** Shorter footage is cut from a source of this length, s, so that each source is encoded once. */
const SOURCE_SECONDS = 20;
/** A lock older than this belongs to a process that died, ms. */
const STALE_LOCK_MS = 180_000;

const isStale = async (lock: string): Promise<boolean> => {
  const facts = await stat(lock).catch(() => null);
  return facts !== null && Date.now() - facts.mtimeMs > STALE_LOCK_MS;
};

/** Footage encoded with these arguments, cached for all tests and benchmarks of this checkout. */
const keptFootage = async (args: readonly string[], seconds: number): Promise<string> => {
  const all = [...args, '-t', String(seconds)];
  const kept = join(process.cwd(), '.build', 'footage');
  const digest = createHash('sha256').update(all.join(' ')).digest('hex').slice(0, 16);
  const path = join(kept, `${digest}.mp4`);
  const lock = `${path}.lock`;
  await mkdir(kept, { recursive: true });
  while (!existsSync(path)) {
    const isMine = await writeFile(lock, '', { flag: 'wx' }).then(
      () => true,
      () => false,
    );
    if (!isMine) {
      // Another test worker is encoding it.
      if (await isStale(lock)) await rm(lock, { force: true });
      await new Promise((resolve) => setTimeout(resolve, 100));
      continue;
    }
    try {
      const making = join(kept, `${digest}-${process.pid}.mp4`);
      await run('ffmpeg', [...all, making]);
      await rename(making, path);
    } finally {
      await rm(lock, { force: true });
    }
  }
  return path;
};

/** Halves the width and height of a take's pictures: a quarter of the work for tests that don't depend on the size. */
export const halfSize = (take: Take): Take => ({
  ...take,
  tracks: take.tracks.map((track) => ({
    ...track,
    widthPx: track.widthPx / 2,
    heightPx: track.heightPx / 2,
  })),
});

/**
 * Footage with known content, for tests and benchmarks: a moving test picture as the surface, another
 * as the camera, each in the size that the take says, and a voice that is silent but for a 40 ms beep of 1 kHz at each whole second.
 *
 * @param seconds length
 * @returns where each track of `take` is; tracks are told apart by their kind
 */
export const makeFootage = async (
  folder: string,
  take: Take,
  seconds: number,
): Promise<(trackId: string) => MediaFile> => {
  // Colours as a browser's encoder leaves them, and as processed footage always says: BT.709, of full range.
  const pictures = [
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-g', '30', '-pix_fmt', 'yuvj420p'],
    ...['-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709'],
    ...['-color_range', 'pc'],
  ];
  const colours = 'scale=out_color_matrix=bt709:out_range=pc';
  const source = (name: string) => join(folder, `${name}.mp4`);
  const lavfi = (graph: string) => ['-f', 'lavfi', '-i', graph];
  const from = async (kind: string, args: readonly string[]) => {
    const longer = await keptFootage(args, Math.max(seconds, SOURCE_SECONDS));
    await run('ffmpeg', ['-i', longer, '-t', String(seconds), '-c', 'copy', source(kind)]);
  };
  const sizeOf = (kind: TrackKind, usual: string) => {
    const track = take.tracks.find((one) => one.kind === kind);
    return track ? `${track.widthPx}x${track.heightPx}` : usual;
  };
  await from('surface', [
    ...lavfi(`testsrc2=size=${sizeOf('surface', '1280x720')}:rate=30,eq=saturation=0.6,${colours}`),
    ...pictures,
  ]);
  await from('camera', [
    ...lavfi(`testsrc=size=${sizeOf('camera', '640x480')}:rate=20,${colours}`),
    ...pictures,
  ]);
  const beep = String.raw`aevalsrc=if(lt(mod(t\,1)\,0.04)\,0.5*sin(2*PI*1000*t)\,0):s=48000`;
  await from('voice', [...lavfi(beep), '-c:a', 'aac']);
  const kinds = new Map(take.tracks.map((track) => [track.id, track.kind]));
  return (trackId) => ({ path: source(kinds.get(trackId) ?? 'none'), demuxer: 'mov' });
};
