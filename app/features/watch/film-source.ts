import { TICKET_MS } from '@under-chalk/core/contract/stream';
import type Hls from 'hls.js';
import { useEffect, useRef, type RefObject } from 'react';
import { fetchHls, likelyBits, readerOf } from './stream-reader';
import { heldTicket, type Given } from './ticket';

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
  /** Has another ticket for its pieces given. */
  readonly giveTicket: () => Promise<Given>;
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

/** What a piece is answered with by a ticket that is over (`ticket-over`). */
const TICKET_OVER = 410;

/** Has a film fetched for a video: in pieces where that can be, which it can before all are made; else the whole file. */
export const useFilmSource = ({
  video,
  playlist,
  giveTicket,
  file,
  fromS,
  onFailed,
}: Wanted): FilmSource => {
  const reader = readerOf(playlist);
  const hls = useRef<Hls | null>(null);
  /** It was to begin, and to play, before there was anything to begin with. */
  const begun = useRef(false);
  const plays = useRef(false);
  const failed = useRef(onFailed);
  const give = useRef(giveTicket);
  useEffect(() => {
    failed.current = onFailed;
    give.current = giveTicket;
  });
  useEffect(() => {
    const film = video.current;
    if (reader !== 'ours' || !film || playlist === null) return;
    let over = false;
    const open = async () => {
      const { default: Player } = await fetchHls();
      if (over) return;
      const tickets = heldTicket(() => give.current());
      const player = new Player({
        xhrSetup: async (request, address) => {
          const good = await tickets.addressOf(address);
          // It is asked once more where the first try failed, opened then.
          if (request.readyState === XMLHttpRequest.UNSENT) request.open('GET', good, true);
        },
        ...{ autoStartLoad: false, startPosition: fromS, enableWorker: false },
        ...{ maxBufferLength: 30, backBufferLength: 90, abrEwmaDefaultEstimate: likelyBits() },
        ...{ testBandwidth: false, fragLoadPolicy: PATIENCE },
      });
      hls.current = player;
      let mended = false;
      let renewed = false;
      player.on(Player.Events.ERROR, (_event, { fatal, type, response }) => {
        if (!fatal) return;
        if (response?.code === TICKET_OVER && !renewed) {
          renewed = true;
          tickets.over();
          return player.startLoad(film.currentTime);
        }
        if (type === Player.ErrorTypes.MEDIA_ERROR && !mended) {
          mended = true;
          player.recoverMediaError();
        } else failed.current();
      });
      // What was to play before is stopped by being given something to play (HTML, media element load algorithm).
      player.on(Player.Events.MEDIA_ATTACHED, () => {
        if (plays.current) film.play().catch(() => undefined);
      });
      player.on(Player.Events.FRAG_LOADED, () => {
        renewed = false;
      });
      player.on(Player.Events.MANIFEST_PARSED, () => {
        tickets.came(TICKET_MS);
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
        : `${reader === 'browser' ? `${playlist}?alone=1` : file}${fromS > 0 ? `#t=${fromS}` : ''}`,
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
