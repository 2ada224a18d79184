import { useEffect, useRef, useState, type RefObject } from 'react';
import { cameTo } from '@under-chalk/core/film/in-film';
import type { ShownMoment } from '@under-chalk/core/moment/shown';

/** Longest between two looks at where the film is, µs of its time at its own speed: what is more is a jump. */
const MOST_STEP_US = 1_500_000;
/** So near to a moment it is the one that was gone to, µs. */
const NEAR_US = 700_000;

/** Whether the film stops there. */
export const stops = ({ does }: ShownMoment): boolean =>
  does.is === 'question' || does.is === 'pause';

export interface AtMoments {
  /** What the film has come to. */
  readonly now: ShownMoment | null;
  /** Goes to one, and shows it. */
  readonly open: (moment: ShownMoment) => void;
  /** Leaves it; where the film has stopped for it, it goes on. */
  readonly leave: () => void;
}

/**
 * Shows what is asked or said where the film comes to it, and stops the film where it has to be answered. What was answered before is
 * passed by.
 */
export const useMoments = (
  video: RefObject<HTMLVideoElement | null>,
  moments: readonly ShownMoment[],
  isAnswered: (momentId: string) => boolean,
  seek: (seconds: number) => void,
): AtMoments => {
  const [now, setNow] = useState<ShownMoment | null>(null);
  const latest = useRef({ now, isAnswered });
  useEffect(() => {
    latest.current = { now, isAnswered };
  });

  useEffect(() => {
    const film = video.current;
    if (!film || moments.length === 0) return;
    let fromUs = film.currentTime * 1e6 - 1;
    const isHeld = () => {
      const shown = latest.current.now;
      return (
        shown?.does.is === 'question' && shown.does.waits && !latest.current.isAnswered(shown.id)
      );
    };
    const look = () => {
      const toUs = film.currentTime * 1e6;
      const most = MOST_STEP_US * Math.max(1, film.playbackRate);
      const next = film.paused ? undefined : cameTo(moments, { fromUs, toUs }, most);
      // Another may come at once: it is looked for from where this one is.
      fromUs = next ? next.filmUs : toUs;
      if (!next || (next.does.is === 'question' && latest.current.isAnswered(next.id))) return;
      setNow(next);
      if (stops(next)) film.pause();
    };
    // Played by somebody else's hand: what waits for an answer goes on waiting.
    const played = () => {
      if (isHeld()) film.pause();
      else setNow((shown) => (shown && stops(shown) ? null : shown));
    };
    const moved = () => {
      fromUs = film.currentTime * 1e6 - 1;
      const shown = latest.current.now;
      if (shown && Math.abs(shown.filmUs - fromUs) > NEAR_US) setNow(null);
    };
    film.addEventListener('timeupdate', look);
    film.addEventListener('play', played);
    film.addEventListener('seeking', moved);
    return () => {
      film.removeEventListener('timeupdate', look);
      film.removeEventListener('play', played);
      film.removeEventListener('seeking', moved);
    };
  }, [video, moments]);

  return {
    now,
    open: (moment) => {
      video.current?.pause();
      seek(moment.filmUs / 1e6);
      setNow(moment);
    },
    leave: () => {
      const goesOn = now !== null && stops(now);
      setNow(null);
      if (goesOn) void video.current?.play().catch(() => undefined);
    },
  };
};
