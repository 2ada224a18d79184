import type Hls from 'hls.js';
import { useEffect, useRef, type RefObject } from 'react';
import { fetchHls, likelyBits, readerOf } from './stream-reader';

/** Where a film comes from. */
export interface FilmSource {
  /** For the video itself: the whole file, or a playlist that this browser reads by itself; null where pieces are put together here. */
  readonly src: string | null;
  /** Begins to fetch, if nothing has been fetched yet. @param playing it is to play as soon as there is something */
  readonly begin: (playing: boolean) => void;
  /** Tries again after it had failed. */
  readonly again: () => void;
}

interface Wanted {
  readonly video: RefObject<HTMLVideoElement | null>;
  /** The playlist; null: there is only the whole file. */
  readonly playlist: string | null;
  readonly file: string;
  /** Where it begins, s. */
  readonly fromS: number;
  readonly onFailed: () => void;
}

/**
 * A piece may have to be made before it comes, and a line may be gone for a while: it is waited for as long as somebody
 * might be patient, and asked for again.
 */
const PATIENCE = {
  default: {
    ...{ maxTimeToFirstByteMs: 60_000, maxLoadTimeMs: 120_000 },
    timeoutRetry: { maxNumRetry: 2, retryDelayMs: 0, maxRetryDelayMs: 0 },
    errorRetry: { maxNumRetry: 6, retryDelayMs: 500, maxRetryDelayMs: 8_000 },
  },
};

/** Has a film fetched for a video: in pieces where that can be, which it can before all are made; else the whole file. */
export const useFilmSource = ({ video, playlist, file, fromS, onFailed }: Wanted): FilmSource => {
  const reader = readerOf(playlist);
  const hls = useRef<Hls | null>(null);
  /** It was to begin, and to play, before there was anything to begin with. */
  const begun = useRef(false);
  const plays = useRef(false);
  const failed = useRef(onFailed);
  useEffect(() => {
    failed.current = onFailed;
  });
  useEffect(() => {
    const film = video.current;
    if (reader !== 'ours' || !film || playlist === null) return;
    let over = false;
    const open = async () => {
      const { default: Player } = await fetchHls();
      if (over) return;
      const player = new Player({
        ...{ autoStartLoad: false, startPosition: fromS, enableWorker: false },
        ...{ maxBufferLength: 30, backBufferLength: 90, abrEwmaDefaultEstimate: likelyBits() },
        ...{ testBandwidth: false, fragLoadPolicy: PATIENCE },
      });
      hls.current = player;
      let mended = false;
      player.on(Player.Events.ERROR, (_event, { fatal, type }) => {
        if (!fatal) return;
        if (type === Player.ErrorTypes.MEDIA_ERROR && !mended) {
          mended = true;
          player.recoverMediaError();
        } else failed.current();
      });
      // What was to play before is stopped by being given something to play (HTML, media element load algorithm).
      player.on(Player.Events.MEDIA_ATTACHED, () => {
        if (plays.current) film.play().catch(() => undefined);
      });
      player.on(Player.Events.MANIFEST_PARSED, () => {
        if (begun.current) player.startLoad(fromS);
      });
      player.attachMedia(film);
      player.loadSource(playlist);
    };
    open().catch(() => failed.current());
    return () => {
      over = true;
      hls.current?.destroy();
      hls.current = null;
    };
  }, [video, reader, playlist, fromS]);
  return {
    // A media fragment (W3C Media Fragments URI 1.0, §4.2.1).
    src:
      reader === 'ours'
        ? null
        : `${reader === 'browser' ? playlist : file}${fromS > 0 ? `#t=${fromS}` : ''}`,
    begin: (playing) => {
      plays.current ||= playing;
      if (begun.current) return;
      begun.current = true;
      hls.current?.startLoad(fromS);
    },
    again: () => {
      const player = hls.current;
      if (!player) return video.current?.load();
      const at = video.current?.currentTime ?? fromS;
      if (player.levels.length === 0 && playlist !== null) player.loadSource(playlist);
      else player.startLoad(at);
    },
  };
};
