import { useEffect } from 'react';

/** How often what couldn't be told is told again, ms. */
const AGAIN_MS = 10_000;

/** What is told again later; anything else will not be taken, however often. */
export const isForLater = (code: string): boolean =>
  ['server-unreachable', 'not-ready', 'unexpected', 'disk-full', 'too-busy'].includes(code);

/** Tells at once, now and then, and when the line is back. @param tell does nothing where nothing waits */
export const useToldAgain = (tell: () => Promise<void>): void => {
  useEffect(() => {
    const again = () => void tell();
    const timer = setInterval(again, AGAIN_MS);
    const first = setTimeout(again, 0);
    addEventListener('online', again);
    return () => {
      clearInterval(timer);
      clearTimeout(first);
      removeEventListener('online', again);
    };
  }, [tell]);
};
