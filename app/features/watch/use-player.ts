import { useEffect, useRef, useState, type RefObject } from 'react';

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
  aspect: null,
};

/** Seconds that an arrow key goes. */
const STEP_S = 5;

type FilmElement = HTMLVideoElement & { webkitEnterFullscreen?(): void };

/**
 * A video and what can be done with it, by press and by key: Space or K, the arrows, F, C.
 *
 * @param switchCaptions null: there are none
 */
export const usePlayer = (switchCaptions: (() => void) | null): Player => {
  const video = useRef<HTMLVideoElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [now, setNow] = useState(NOT_YET);
  const set = (change: Partial<Playing>) => setNow((before) => ({ ...before, ...change }));

  const toggle = () => {
    const film = video.current;
    if (!film) return;
    if (!film.paused) return film.pause();
    set({ waiting: true });
    film.play().catch(() => set({ failed: true, waiting: false }));
  };
  const seek = (seconds: number) => {
    if (video.current) video.current.currentTime = Math.max(0, seconds);
    set({ atS: Math.max(0, seconds) });
  };
  const fill = () => {
    if (document.fullscreenElement) void document.exitFullscreen();
    else if (box.current?.requestFullscreen) void box.current.requestFullscreen();
    // A phone of the kind that only lets the film itself fill the screen; it has a way out of its own there.
    else (video.current as FilmElement | null)?.webkitEnterFullscreen?.();
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
        ArrowLeft: () => seek(at - STEP_S),
        ArrowRight: () => seek(at + STEP_S),
        f: fill,
        k: toggle,
        ...(switchCaptions ? { c: switchCaptions } : {}),
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
    setSpeed: (speed) => {
      if (video.current) video.current.playbackRate = Number(speed);
      set({ speed });
    },
    again: () => {
      set({ failed: false });
      video.current?.load();
    },
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
