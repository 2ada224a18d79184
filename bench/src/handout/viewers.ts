/** Many viewers of one film, as a player would ask for it: a few segments ahead of where it plays, at the film's own pace. */

interface Many {
  readonly url: string;
  readonly token: string;
  readonly version: string;
  readonly viewers: number;
  /** How much of the film each watches, s. */
  readonly seconds: number;
}

/** A player fetches no more than this ahead, s; and begins with so much. */
const AHEAD_S = 20;
const LEAST_S = 1;
/** They come within this time of one another, ms. */
const COMING_MS = 5_000;

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

interface Listed {
  readonly uri: string;
  readonly seconds: number;
}

const listedIn = (playlist: string): Listed[] => {
  const lines = playlist.split('\n');
  return lines.flatMap((line, at) =>
    line.startsWith('#EXTINF:')
      ? [{ seconds: Number.parseFloat(line.slice(8)), uri: lines[at + 1]! }]
      : [],
  );
};

/** What has come of a track, as film time that can be played without a gap, s. */
class Track {
  loadedS = 0;
  readonly #base: string;
  readonly #segments: readonly Listed[];

  constructor(base: string, segments: readonly Listed[]) {
    this.#base = base;
    this.#segments = segments;
  }

  async load(isWanted: () => boolean, playedS: () => number): Promise<void> {
    for (const { uri, seconds } of this.#segments) {
      while (isWanted() && this.loadedS - playedS() > AHEAD_S) await sleep(100);
      if (!isWanted()) return;
      const answer = await fetch(`${this.#base}/${uri}`);
      if (!answer.ok) throw new Error(`${uri}: ${answer.status}`);
      await answer.arrayBuffer();
      this.loadedS += seconds;
    }
    this.loadedS = Number.POSITIVE_INFINITY;
  }
}

const watch = async ({
  url,
  token,
  version,
  seconds,
}: Many): Promise<{ startMs: number; stallsMs: number }> => {
  const began = performance.now();
  const text = async (path: string) => (await fetch(url + path)).text();
  const films = await text(`/api/watch/${token}/stream/${version}/film.m3u8`);
  const [under] = /\/api\/media\/[\w-]+/.exec(films) ?? [''];
  const base = url + under;
  const lists = await Promise.all(
    ['picture', 'sound'].map((track) => text(`${under}/${track}.m3u8`)),
  );
  await Promise.all(
    ['picture', 'sound'].map(async (track) =>
      (await fetch(`${base}/${track}/head.mp4`)).arrayBuffer(),
    ),
  );
  const tracks = lists.map((list) => new Track(base, listedIn(list)));
  let playedS = 0;
  let over = false;
  const loading = tracks.map((track) =>
    track.load(
      () => !over,
      () => playedS,
    ),
  );
  const loadedS = () => Math.min(...tracks.map((track) => track.loadedS));
  const failed = Promise.all(loading).then(() => undefined);
  while (loadedS() < LEAST_S) await Promise.race([sleep(10), failed]);
  const startMs = performance.now() - began;
  let stallsMs = 0;
  let last = performance.now();
  while (playedS < seconds) {
    await sleep(50);
    const now = performance.now();
    const passedS = (now - last) / 1000;
    last = now;
    const canS = loadedS() - playedS;
    playedS += Math.min(passedS, canS);
    if (canS < passedS) stallsMs += (passedS - canS) * 1000;
  }
  over = true;
  await failed;
  return { startMs, stallsMs };
};

/** @returns how long all of them stood still together, ms; and how long it took until they played */
export const watchedByMany = async (
  many: Many,
): Promise<{ stallsMs: number; startMsP95: number }> => {
  const seen = await Promise.all(
    Array.from({ length: many.viewers }, async (_, viewer) => {
      await sleep((viewer / many.viewers) * COMING_MS);
      return watch(many);
    }),
  );
  const starts = seen.map(({ startMs }) => startMs).sort((a, b) => a - b);
  return {
    stallsMs: Math.round(seen.reduce((sum, { stallsMs }) => sum + stallsMs, 0)),
    startMsP95: Math.round(starts[Math.floor(starts.length * 0.95)]!),
  };
};
