import { useEffect, type RefObject } from 'react';
import { MOST_PLAYED_AT_ONCE, type PlayedNote } from '@under-chalk/core/contract/watched';
import { WatchCounter } from '@under-chalk/core/watched/counter';
import { newId } from '../../capture/new-id';
import { codeOf } from '../../data/fetch';
import { tellPlayed } from './watch-data';

/** How often it is told what was played, ms. */
const TELL_MS = 15_000;
/** What is told again later; for anything else this page has nothing more to tell. */
const LATER = ['server-unreachable', 'not-ready', 'unexpected', 'too-busy'];
/** Most that waits for a line that is away: after that the oldest is let go. */
const MOST_WAITING = 200;

/**
 * Tells which seconds of a film are played here: now and then, when it is paused, and when the page is left. Kept until it is told; the
 * same part never counts twice. Who watches stays in this page's memory: nothing is written into the browser.
 *
 * @param version {@link Watch.stream}; null: nothing is counted
 */
export const useToldPlayed = (
  video: RefObject<HTMLVideoElement | null>,
  token: string,
  version: string | null,
): void => {
  useEffect(() => {
    const film = video.current;
    if (!film || version === null) return;
    const counter = new WatchCounter();
    const visit = newId();
    const waiting: PlayedNote[] = [];
    let part = 0;
    let busy = false;
    let ended = false;

    const collect = () => {
      while (!counter.isEmpty) {
        waiting.push({ version, visit, part: ++part, played: counter.take(MOST_PLAYED_AT_ONCE) });
      }
      waiting.splice(0, waiting.length - MOST_WAITING);
    };
    const tell = async () => {
      collect();
      if (busy || ended) return;
      busy = true;
      try {
        while (waiting[0]) {
          await tellPlayed(token, waiting[0]);
          waiting.shift();
        }
      } catch (error) {
        ended = !LATER.includes(codeOf(error));
      } finally {
        busy = false;
      }
    };
    /** All at once: there may be no later. What is told already counts once. */
    const leave = () => {
      collect();
      if (!ended) waiting.forEach((note) => void tellPlayed(token, note).catch(() => undefined));
    };
    const look = () => {
      if (!film.paused) counter.at(film.currentTime, film.playbackRate);
    };
    /** Where it stands still, s; null: it was moved since. On a busy machine it is heard late that it goes on. */
    let standsAtS: number | null = film.paused ? film.currentTime : null;
    const goesOn = () => {
      if (standsAtS !== null) counter.at(standsAtS, film.playbackRate);
      look();
    };
    const stopped = () => {
      counter.at(film.currentTime, film.playbackRate);
      counter.leaves();
      standsAtS = film.currentTime;
      void tell();
    };
    const elsewhere = () => {
      counter.leaves();
      standsAtS = null;
    };
    const hidden = () => {
      if (document.visibilityState === 'hidden') leave();
    };
    const timer = setInterval(() => void tell(), TELL_MS);
    const looks = ['timeupdate', 'seeked'] as const;
    for (const moment of looks) film.addEventListener(moment, look);
    film.addEventListener('play', goesOn);
    film.addEventListener('pause', stopped);
    film.addEventListener('seeking', elsewhere);
    document.addEventListener('visibilitychange', hidden);
    addEventListener('pagehide', leave);
    return () => {
      clearInterval(timer);
      for (const moment of looks) film.removeEventListener(moment, look);
      film.removeEventListener('play', goesOn);
      film.removeEventListener('pause', stopped);
      film.removeEventListener('seeking', elsewhere);
      document.removeEventListener('visibilitychange', hidden);
      removeEventListener('pagehide', leave);
      leave();
    };
  }, [video, token, version]);
};
