import { useEffect, useState, type RefObject } from 'react';
import * as z from 'zod';
import { cameTo } from '@under-chalk/core/film/in-film';
import { readOutUs, type ReadDescription } from '@under-chalk/core/words/audio-description';
import { useSetting } from '../../data/kept-setting';
import { readOut, useDeviceVoice } from './device-voice';

/** How a student is told what is seen: not at all, by a voice of the device, or by their own screen reader. */
const howSchema = z.enum(['off', 'aloud', 'reader']);
export type HowDescribed = z.infer<typeof howSchema>;

export interface HowTold {
  readonly how: HowDescribed;
  /** A voice of this device in the language of the film; null: it has none. */
  readonly voice: SpeechSynthesisVoice | null;
  readonly choose: (how: HowDescribed) => void;
  readonly toggle: () => void;
}

/** How what is seen is told: remembered for every film. */
export const useHowTold = (described: readonly ReadDescription[], language: string): HowTold => {
  const [kept, keep] = useSetting('described', howSchema, 'off');
  const voice = useDeviceVoice(language);
  const how = described.length === 0 ? 'off' : kept === 'aloud' && !voice ? 'reader' : kept;
  return {
    ...{ how, voice, choose: keep },
    toggle: () => keep(how === 'off' ? (voice ? 'aloud' : 'reader') : 'off'),
  };
};

export interface Described {
  /** What is being told now, while the film waits. */
  readonly told: ReadDescription | null;
  /** Goes on without waiting for its end. */
  readonly goOn: () => void;
}

/** Longest between two looks at where the film is, µs of its time at its own speed: what is more is a jump. */
const MOST_STEP_US = 1_500_000;

/** Tells what is seen where the film comes to it, and lets it wait meanwhile. */
export const useDescribed = (
  video: RefObject<HTMLVideoElement | null>,
  described: readonly ReadDescription[],
  { how, voice }: HowTold,
): Described => {
  const [told, setTold] = useState<ReadDescription | null>(null);

  useEffect(() => {
    const film = video.current;
    if (!film || how === 'off') return;
    let fromUs = film.currentTime * 1e6 - 1;
    let stop: (() => void) | null = null;
    const end = () => {
      stop?.();
      stop = null;
      setTold(null);
    };
    const goOn = () => {
      end();
      film.play().catch(() => undefined);
    };
    const tell = (next: ReadDescription) => {
      film.pause();
      setTold(next);
      const lastsUs = readOutUs(next.text);
      if (how === 'aloud' && voice) stop = readOut(next.text, voice, lastsUs, goOn);
      else {
        const waited = setTimeout(goOn, lastsUs / 1000);
        stop = () => clearTimeout(waited);
      }
    };
    const look = () => {
      const toUs = film.currentTime * 1e6;
      const most = MOST_STEP_US * Math.max(1, film.playbackRate);
      const next = film.paused || stop ? undefined : cameTo(described, { fromUs, toUs }, most);
      // Another may come at once: it is looked for from where this one is.
      fromUs = next ? next.filmUs : toUs;
      if (next) tell(next);
    };
    // Whoever plays it or goes elsewhere in it doesn't wait for the end.
    const moved = () => {
      fromUs = film.currentTime * 1e6 - 1;
      if (stop) goOn();
    };
    film.addEventListener('timeupdate', look);
    film.addEventListener('seeking', moved);
    film.addEventListener('play', end);
    return () => {
      film.removeEventListener('timeupdate', look);
      film.removeEventListener('seeking', moved);
      film.removeEventListener('play', end);
      if (stop) goOn();
    };
  }, [video, described, how, voice]);

  return { told, goOn: () => void video.current?.play().catch(() => undefined) };
};
