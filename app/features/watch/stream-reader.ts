/** Who reads a film's playlist, and how fast its line may be. No interface code: a student's page runs this first of all. */

export const fetchHls = () => import('hls.js');

/** Addresses in a playlist: a line each, or in a tag (RFC 8216, 4.1, 4.3.4.1). */
const ADDRESS = /URI="([^"]+)"|^([^#\s].*)$/gm;

/**
 * Has what reads a playlist come, and the playlists that it will ask for one after another: they are held when it does.
 * @throws TypeError where there is no line
 */
export const fetchReader = async (playlist: string): Promise<void> => {
  const reader = fetchHls();
  const answer = await fetch(playlist);
  // Told by whoever asks for it in earnest.
  if (!answer.ok) return;
  const tracks = [...(await answer.text()).matchAll(ADDRESS)].map(([, tag, line]) => tag ?? line!);
  const base = new URL(playlist, location.href);
  await Promise.all([reader, ...tracks.map((track) => fetch(new URL(track, base)))]);
};

const MIME = 'application/vnd.apple.mpegurl';

/**
 * Who reads the playlist: browsers that do so on their own and have no other way to put pieces together do; else we do. Null:
 * nobody can, and it takes the whole file.
 */
export const readerOf = (playlist: string | null): 'browser' | 'ours' | null => {
  if (playlist === null || typeof window === 'undefined') return null;
  const native = document.createElement('video').canPlayType(MIME) !== '';
  // What has `ManagedMediaSource` reads playlists well by itself, and can then show the film elsewhere too.
  if (native && 'ManagedMediaSource' in window) return 'browser';
  if ('MediaSource' in window) return 'ours';
  return native ? 'browser' : null;
};

/** Bits a second that a line is taken for where nothing is known of it. */
const LIKELY_BITS = 4_000_000;
/** Shorter than this, a time says more of the server than of the line, ms; and fewer bytes say nothing. */
const LEAST_MS = 50;
const LEAST_BYTES = 20_000;

/** What of a file's coming tells how fast the line is (W3C Resource Timing). */
export interface Came {
  readonly transferSize: number;
  readonly responseStart: number;
  readonly responseEnd: number;
}

/**
 * Bits a second that a line is likely to have: the slowest of what a browser says and of how the page itself came, file by file;
 * what came beside others had a share only, so the best of the files counts.
 */
export const likelyBits = (
  came: readonly Came[] = performance
    .getEntriesByType('resource')
    .filter((entry) => entry instanceof PerformanceResourceTiming),
): number => {
  const rates = came
    .filter(
      ({ transferSize, responseStart, responseEnd }) =>
        transferSize >= LEAST_BYTES && responseEnd - responseStart >= LEAST_MS,
    )
    .map(
      ({ transferSize, responseStart, responseEnd }) =>
        (transferSize * 8_000) / (responseEnd - responseStart),
    );
  const { downlink } = (navigator as { connection?: { downlink?: number } }).connection ?? {};
  return Math.min(
    downlink ? downlink * 1e6 : LIKELY_BITS,
    ...(rates.length > 0 ? [Math.max(...rates)] : []),
  );
};
