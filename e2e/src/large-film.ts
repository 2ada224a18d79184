import type { FilmRow } from '@under-chalk/core/contract/films';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { ffmpeg } from './media';
import type { RealServer } from './server';

/** Length of the film, s. */
export const LARGE_FILM_S = 4;
/** A size limit that the film exceeds, bytes. */
export const LARGE_FILM_LIMIT = 1_000_000;

/** Creates a lesson with a rendered film of noise that is larger than {@link LARGE_FILM_LIMIT}. */
export const makeLargeFilm = async (
  server: RealServer,
  folder: string,
  id: string,
): Promise<FilmRow> => {
  const path = join(folder, `${id}.mp4`);
  ffmpeg(
    ...['-f', 'lavfi', '-i', `testsrc2=s=640x360:r=30:d=${LARGE_FILM_S},noise=alls=8:allf=t`],
    ...['-f', 'lavfi', '-i', `sine=f=440:r=48000:d=${LARGE_FILM_S}`],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0', '-g', '30', '-pix_fmt', 'yuv420p'],
    ...['-c:a', 'aac', path],
  );
  await server.ask('POST', '/api/lessons', { id, title: 'Set and drift' });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `take-${id}`, source: 'film', practice: false },
    tracks: [
      { id: `take-${id}-surface`, kind: 'surface' },
      { id: `take-${id}-voice`, kind: 'voice' },
    ],
  });
  const bytes = await readFile(path);
  for (const kind of ['surface', 'voice']) await server.send(`take-${id}-${kind}`, bytes);
  await server.ask('POST', `/api/takes/take-${id}/stop`, {});
  await server.takeWhen(id);
  await server.ask('POST', `/api/lessons/${id}/films`, { size: 'as-recorded' });
  for (;;) {
    const [film] = await server.ask<FilmRow[]>('GET', `/api/lessons/${id}/films`);
    if (film?.state === 'done') return film;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
};
