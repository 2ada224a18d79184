import { useEffect, useRef } from 'react';

const SAVE_AFTER_MS = 600;

/**
 * Saves what is typed a moment after the last key, and with the page when it is left. `pending` tells
 * whether something typed has not been saved: what comes from elsewhere must not overwrite it.
 */
export const useSaveSoon = (
  save: () => void,
): { soon: () => void; now: () => void; pending: () => boolean } => {
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const latest = useRef(save);
  useEffect(() => {
    latest.current = save;
  });
  const now = () => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    latest.current();
  };
  useEffect(() => {
    const flush = () => {
      if (timer.current) clearTimeout(timer.current);
      timer.current = null;
      latest.current();
    };
    addEventListener('pagehide', flush);
    return () => {
      removeEventListener('pagehide', flush);
      flush();
    };
  }, []);
  return {
    soon: () => {
      if (timer.current) clearTimeout(timer.current);
      timer.current = setTimeout(now, SAVE_AFTER_MS);
    },
    now,
    pending: () => timer.current !== null,
  };
};
