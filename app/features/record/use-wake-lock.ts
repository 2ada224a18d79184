import { useEffect } from 'react';

/** Keeps the screen on for as long as `on` holds (Screen Wake Lock); asked for anew when the page is seen again. */
export const useWakeLock = (on: boolean): void => {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return undefined;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const take = () => {
      if (document.visibilityState !== 'visible') return;
      navigator.wakeLock.request('screen').then(
        (given) => {
          if (over) void given.release();
          else lock = given;
        },
        // Refused when the battery is low: the recording goes on all the same.
        (error: unknown) => console.warn('the screen may go dark', error),
      );
    };
    take();
    document.addEventListener('visibilitychange', take);
    return () => {
      over = true;
      document.removeEventListener('visibilitychange', take);
      void lock?.release();
    };
  }, [on]);
};
