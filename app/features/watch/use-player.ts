import { useEffect, useRef, useState, type RefObject } from 'react';
import { useFilmSource } from './film-source';
import type { Given } from './ticket';

/** How it stands with a film that is watched. */
export interface Playing {
  readonly playing: boolean;
  /** It should play, and what comes next isn't here yet. */
  readonly waiting: boolean;
  readonly failed: boolean;
  /** Where it stands, s. */
  readonly atS: number;
  readonly speed: string;
  /** The player fills the screen. */
  readonly full: boolean;
  /** The card of keys is in sight. */
  readonly keysShown: boolean;
  /** Width by height of the picture; null until it is known. */
  readonly aspect: number | null;
}

export interface Player extends Playing {
  readonly video: RefObject<HTMLVideoElement | null>;
  readonly box: RefObject<HTMLDivElement | null>;
  readonly toggle: () => void;
  readonly seek: (seconds: number) => void;
  readonly fill: () => void;
  readonly setSpeed: (speed: string) => void;
  readonly again: () => void;
  /** Shows it over other windows, or back in its place; null where browsers can't. */
  readonly ownWindow: (() => void) | null;
  readonly showKeys: () => void;
  /** Of the video; null: pieces are put into it. */
  readonly src: string | null;
  /** To be given to the video. */
  readonly events: Readonly<Record<string, () => void>>;
}

const NOT_YET: Playing = {
  playing: false,
  waiting: false,
  failed: false,
  atS: 0,
  speed: '1',
  full: false,
  keysShown: false,
  aspect: null,
};

/** Seconds that an arrow key goes, and those that a button does. */
const ARROW_S = 5;
export const STEP_S = 10;
export const SPEEDS = ['0.75', '1', '1.25', '1.5', '2'];

type FilmElement = HTMLVideoElement & { webkitEnterFullscreen?(): void };

interface Played {
  /** Null: there are none. */
  readonly switchCaptions: (() => void) | null;
  /** Null: nothing is described. */
  readonly switchDescribed: (() => void) | null;
  /** Of its pieces; null: there is only the whole file. */
  readonly playlist: string | null;
  /** Has another ticket for its pieces given. */
  readonly giveTicket: () => Promise<Given>;
  readonly file: string;
  /** Where it begins, s. */
  readonly fromS: number;
}

/** A video and what can be done with it, by press and by key (`key-card`). */
export const usePlayer = (played: Played): Player => {
  const { switchCaptions, switchDescribed, playlist, giveTicket, file, fromS } = played;
  const video = useRef<HTMLVideoElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [now, setNow] = useState({ ...NOT_YET, atS: fromS });
  const set = (change: Partial<Playing>) => setNow((before) => ({ ...before, ...change }));

  const source = useFilmSource({
    ...{ video, playlist, giveTicket, file, fromS },
    onFailed: () => set({ failed: true, waiting: false, playing: false }),
  });

  const toggle = () => {
    const film = video.current;
    if (!film) return;
    if (!film.paused) return film.pause();
    set({ waiting: true });
    source.begin(true);
    film.play().catch((error: unknown) => {
      // Stopped by being given its film: it plays when that is there.
      if ((error as Error).name === 'AbortError') return;
      set({ failed: true, waiting: false });
    });
  };
  const seek = (seconds: number) => {
    source.begin(false);
    if (video.current) video.current.currentTime = Math.max(0, seconds);
    set({ atS: Math.max(0, seconds) });
  };
  const fill = () => {
    if (document.fullscreenElement) void document.exitFullscreen();
    else if (box.current?.requestFullscreen) void box.current.requestFullscreen();
    // A phone of the kind that only lets the film itself fill the screen; it has a way out of its own there.
    else (video.current as FilmElement | null)?.webkitEnterFullscreen?.();
  };

  const setSpeed = (speed: string) => {
    if (video.current) video.current.playbackRate = Number(speed);
    set({ speed });
  };
  const changeSpeed = (by: number) => {
    const next = SPEEDS[SPEEDS.indexOf(now.speed) + by];
    if (next) setSpeed(next);
  };
  const showKeys = () => set({ keysShown: !now.keysShown });
  const ownWindow = () => {
    if (document.pictureInPictureElement) void document.exitPictureInPicture();
    else {
      source.begin(false);
      // Refused until there is a picture to be shown.
      video.current?.requestPictureInPicture().catch(() => undefined);
    }
  };

  const keys = useRef<(event: KeyboardEvent) => void>(() => undefined);
  useEffect(() => {
    keys.current = (event) => {
      const on = event.target as HTMLElement;
      // Keys that a control under the focus has a use for are its own.
      if (event.ctrlKey || event.metaKey || event.altKey || on.closest('input, [role=radio]'))
        return;
      const at = video.current?.currentTime ?? 0;
      const does: Record<string, () => void> = {
        ArrowLeft: () => seek(at - ARROW_S),
        ArrowRight: () => seek(at + ARROW_S),
        j: () => seek(at - STEP_S),
        l: () => seek(at + STEP_S),
        Home: () => seek(0),
        End: () => seek(video.current?.duration ?? 0),
        '<': () => changeSpeed(-1),
        '>': () => changeSpeed(1),
        '?': showKeys,
        f: fill,
        k: toggle,
        ...(switchCaptions ? { c: switchCaptions } : {}),
        ...(switchDescribed ? { d: switchDescribed } : {}),
      };
      if (!on.closest('[role=button]')) does[' '] = toggle;
      if (!does[event.key]) return;
      event.preventDefault();
      does[event.key]!();
    };
  });
  useEffect(() => {
    const heard = (event: KeyboardEvent) => keys.current(event);
    const filled = () => set({ full: document.fullscreenElement === box.current });
    document.addEventListener('keydown', heard);
    document.addEventListener('fullscreenchange', filled);
    return () => {
      document.removeEventListener('keydown', heard);
      document.removeEventListener('fullscreenchange', filled);
    };
  }, []);

  return {
    ...now,
    video,
    box,
    toggle,
    seek,
    fill,
    setSpeed,
    showKeys,
    ownWindow: document.pictureInPictureEnabled ? ownWindow : null,
    again: () => {
      set({ failed: false });
      source.again();
    },
    src: source.src,
    events: {
      onPlay: () => set({ playing: true }),
      onPause: () => set({ playing: false, waiting: false }),
      onWaiting: () => set({ waiting: true }),
      onPlaying: () => set({ waiting: false }),
      onError: () => set({ failed: true, waiting: false, playing: false }),
      onTimeUpdate: () => set({ atS: video.current?.currentTime ?? 0 }),
      onLoadedMetadata: () => {
        const { videoWidth = 0, videoHeight = 0 } = video.current ?? {};
        if (videoHeight > 0) set({ aspect: videoWidth / videoHeight });
      },
    },
  };
};
