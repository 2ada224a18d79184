import { useEffect, useRef, useState } from 'react';

const SAVE_AFTER_MS = 600;

/** Saves a moment after the last key. The same object from one drawing to the next. */
export interface SaveSoon {
  readonly soon: () => void;
  readonly now: () => void;
  /** Whether something typed has not been saved: what comes from elsewhere must not overwrite it. */
  readonly pending: () => boolean;
}

/** Saves what is typed a moment after the last key, and with the page when it is left. */
export const useSaveSoon = (save: () => void): SaveSoon => {
  const latest = useRef(save);
  useEffect(() => {
    latest.current = save;
  });
  const [saving] = useState((): SaveSoon => {
    let timer: ReturnType<typeof setTimeout> | null = null;
    const now = () => {
      if (timer) clearTimeout(timer);
      timer = null;
      latest.current();
    };
    return {
      now,
      soon: () => {
        if (timer) clearTimeout(timer);
        timer = setTimeout(now, SAVE_AFTER_MS);
      },
      pending: () => timer !== null,
    };
  });
  // What was typed in the last half second is not lost with the page.
  useEffect(() => {
    addEventListener('pagehide', saving.now);
    return () => {
      removeEventListener('pagehide', saving.now);
      saving.now();
    };
  }, [saving]);
  return saving;
};
