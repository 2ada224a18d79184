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
  // Colours as a browser's encoder leaves them, and as settled footage always says: BT.709, of full range.
  const pictures = [
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-g', '30', '-pix_fmt', 'yuvj420p'],
    ...['-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709'],
    ...['-color_range', 'pc'],
  ];
  const colours = 'scale=out_color_matrix=bt709:out_range=pc';
  const source = (name: string) => join(folder, `${name}.mp4`);
  const lavfi = (graph: string) => ['-f', 'lavfi', '-i', graph, '-t', String(seconds)];
  await run('ffmpeg', [
    ...lavfi(`testsrc2=size=1280x720:rate=30,eq=saturation=0.6,${colours}`),
    ...pictures,
    source('surface'),
  ]);
  await run('ffmpeg', [
    ...lavfi(`testsrc=size=640x480:rate=20,${colours}`),
    ...pictures,
    source('camera'),
  ]);
  await run('ffmpeg', [
    ...lavfi(String.raw`aevalsrc=if(lt(mod(t\,1)\,0.04)\,0.5*sin(2*PI*1000*t)\,0):s=48000`),
    '-c:a',
    'aac',
    source('voice'),
  ]);
  const kinds = new Map(take.tracks.map((track) => [track.id, track.kind]));
  return (trackId) => ({ path: source(kinds.get(trackId) ?? 'none'), demuxer: 'mov' });
};
