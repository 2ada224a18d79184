import type { Take } from '@under-chalk/core/lesson/take';
import { join } from 'node:path';
import { run, type MediaFile } from '../ffmpeg/run';

/**
 * Footage with known content, for tests and benchmarks: a moving test picture as the surface, another
 * as the camera, and a voice that is silent but for a 40 ms beep of 1 kHz at each whole second.
 *
 * @param seconds length
 * @returns where each track of `take` is; tracks are told apart by their kind
 */
export const makeFootage = async (
  folder: string,
  take: Take,
  seconds: number,
): Promise<(trackId: string) => MediaFile> => {
  const pictures = ['-c:v', 'libx264', '-preset', 'ultrafast', '-g', '30', '-pix_fmt', 'yuv420p'];
  const source = (name: string) => join(folder, `${name}.mp4`);
  const lavfi = (graph: string) => ['-f', 'lavfi', '-i', graph, '-t', String(seconds)];
  await run('ffmpeg', [
    ...lavfi('testsrc2=size=1280x720:rate=30,eq=saturation=0.6'),
    ...pictures,
    source('surface'),
  ]);
  await run('ffmpeg', [...lavfi('testsrc=size=640x480:rate=20'), ...pictures, source('camera')]);
  await run('ffmpeg', [
    ...lavfi(String.raw`aevalsrc=if(lt(mod(t\,1)\,0.04)\,0.5*sin(2*PI*1000*t)\,0):s=48000`),
    '-c:a',
    'aac',
    source('voice'),
  ]);
  const kinds = new Map(take.tracks.map((track) => [track.id, track.kind]));
  return (trackId) => ({ path: source(kinds.get(trackId) ?? 'none'), demuxer: 'mov' });
};
