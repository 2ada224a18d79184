import type { FilmRow } from '@under-chalk/core/contract/films';
import type { RealServer } from '@under-chalk/e2e/server';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';

interface Ahead {
  readonly server: RealServer;
  readonly id: string;
  /** Its tracks as a recorder sends them. */
  readonly tracks: readonly { readonly kind: string; readonly bytes: Buffer }[];
  readonly seconds: number;
  /** Whether the recorder says that it has time. */
  readonly atEase: boolean;
}

/** How a lesson that was recorded at the pace at which it is spoken came out. */
export interface MadeAhead {
  /** From the stop to the whole film as a file, ms. */
  readonly stopToFilmMs: number;
  /** Pieces of its pictures that were there at the stop, of how many. */
  readonly early: number;
  readonly pieces: number;
  /** How far off was what it was said to take beforehand, of what it took; null where nothing was said. */
  readonly sizeOff: number | null;
}

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Records a lesson in real time, stops it, and has its film made. */
export const recordedLive = async ({
  server,
  id,
  tracks,
  seconds,
  atEase,
}: Ahead): Promise<MadeAhead> => {
  const trackOf = (kind: string) => `${id}-${kind}`;
  const pieces = async () => {
    const names = await readdir(join(server.home, 'cache', 'chunks')).catch(() => []);
    return names.filter((name) => name.endsWith('.mp4')).length;
  };
  const before = await pieces();
  await server.ask('POST', '/api/lessons', { id, title: 'Set and drift' });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `take-${id}`, source: 'screen', practice: false },
    tracks: tracks.map(({ kind }) => ({ kind, id: trackOf(kind) })),
  });
  const began = Date.now();
  for (let second = 0; second < seconds; second++) {
    for (const { kind, bytes } of tracks) {
      const at = (of: number) => Math.floor((bytes.length * of) / seconds);
      await server.more(
        trackOf(kind),
        bytes.subarray(at(second), at(second + 1)),
        at(second),
        bytes.length,
      );
    }
    if (second % 5 === 4) await server.ask('POST', `/api/takes/take-${id}/heartbeat`, { atEase });
    await sleep(Math.max(0, began + (second + 1) * 1_000 - Date.now()));
  }
  const early = (await pieces()) - before;
  const stopped = performance.now();
  await server.ask('POST', `/api/takes/take-${id}/stop`, {});
  await server.takeWhen(id, 120, 50);
  const { made } = await server.ask<{ made: { bytes: number } | null }>(
    'GET',
    `/api/lessons/${id}/made/720p`,
  );
  const { id: filmId } = await server.ask<FilmRow>('POST', `/api/lessons/${id}/films`, {
    size: '720p',
  });
  for (;;) {
    const films = await server.ask<FilmRow[]>('GET', `/api/lessons/${id}/films`);
    const film = films.find((one) => one.id === filmId);
    if (film?.state === 'failed') throw new Error(`its film failed: ${film.problemDetail}`);
    if (film?.state === 'done') {
      return {
        stopToFilmMs: Math.round(performance.now() - stopped),
        ...{ early, pieces: (await pieces()) - before },
        sizeOff: made ? Math.abs(made.bytes - film.bytes) / film.bytes : null,
      };
    }
    await sleep(100);
  }
};
