import { AppError } from '@under-chalk/core/errors/errors';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FilmStore, StoredFilm } from '../../store/film-store';
import type { MediaStore } from '../../store/media-store';
import { FilmStreams } from './film-streams';

/** A film of one piece of sound, in a state, whose pieces nobody makes. */
const open = async (state: StoredFilm['state']) => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-streams-'));
  const film = { id: 'film-one', manifest_id: 'manifest', film_us: 2e6, state } as StoredFilm;
  const asked: unknown[] = [];
  const streams = new FilmStreams({
    films: {
      get: () => Promise.resolve(film),
      streamOf: () =>
        Promise.resolve({
          size: { widthPx: 320, heightPx: 180 },
          chunks: [{ key: 'a'.repeat(64), frames: 60 }],
          sound: [{ key: 'b'.repeat(64), frames: 96_000 }],
        }),
    } as unknown as FilmStore,
    media: {} as MediaStore,
    maker: { ask: async (_, piece) => void asked.push(piece), pathOf: () => join(folder, 'none') },
    chunksFolder: folder,
    longestMs: 120,
  });
  const segment = () =>
    streams.segment(film, 'sound', 0, new AbortController().signal).then(
      () => 'it came',
      (error: unknown) => (error instanceof AppError ? error.code : String(error)),
    );
  return { segment, asked, remove: () => rm(folder, { recursive: true, force: true }) };
};

it('has whoever waits long for a piece ask again, and says where none will come', async () => {
  for (const state of ['making', 'waiting'] as const) {
    const { segment, asked, remove } = await open(state);
    expect(await segment()).toBe('being-made');
    expect(asked).toEqual([{ of: 'sound', index: 0 }]);
    await remove();
  }
  for (const state of ['failed', 'cancelled'] as const) {
    const { segment, remove } = await open(state);
    expect(await segment()).toBe('not-ready');
    await remove();
  }
});
