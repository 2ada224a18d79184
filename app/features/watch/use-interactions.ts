import { useEffect, useRef, useState, type RefObject } from 'react';
import { cameTo } from '@under-chalk/core/film/in-film';
import type { ShownInteraction } from '@under-chalk/core/interaction/shown';

/** Longest between two looks at where the film is, µs of its time at its own speed: what is more is a jump. */
const MOST_STEP_US = 1_500_000;
/** So near to an interaction, it is the one that was gone to, µs. */
const NEAR_US = 700_000;

/** Whether the film stops there. */
export const stops = ({ does }: ShownInteraction): boolean =>
  does.is === 'question' || does.is === 'pause';

export interface AtInteractions {
  /** What the film has come to. */
  readonly now: ShownInteraction | null;
  /** Goes to one, and shows it. */
  readonly open: (interaction: ShownInteraction) => void;
  /** Leaves it; where the film has stopped for it, it goes on. */
  readonly leave: () => void;
}

/**
 * Shows what is asked or said where the film comes to it, and stops the film where it has to be answered. What was answered before is
 * passed by.
 */
export const useInteractions = (
  video: RefObject<HTMLVideoElement | null>,
  interactions: readonly ShownInteraction[],
  isAnswered: (interactionId: string) => boolean,
  seek: (seconds: number) => void,
): AtInteractions => {
  const [now, setNow] = useState<ShownInteraction | null>(null);
  const latest = useRef({ now, isAnswered });
  useEffect(() => {
    latest.current = { now, isAnswered };
  });

  useEffect(() => {
    const film = video.current;
    if (!film || interactions.length === 0) return;
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
      const next = film.paused ? undefined : cameTo(interactions, { fromUs, toUs }, most);
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
  }, [video, interactions]);

  return {
    now,
    open: (interaction) => {
      video.current?.pause();
      seek(interaction.filmUs / 1e6);
      setNow(interaction);
    },
    leave: () => {
      const goesOn = now !== null && stops(now);
      setNow(null);
      if (goesOn) void video.current?.play().catch(() => undefined);
    },
  };
};
