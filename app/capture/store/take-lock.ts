const nameOf = (takeId: string) => `take ${takeId}`;

/** Holds a take for this tab until let go or closed; by it other tabs tell what is recorded or sent now. */
export const holdTake = (takeId: string): (() => void) => {
  let release = () => {};
  const held = new Promise<void>((resolve) => {
    release = resolve;
  });
  if ('locks' in navigator) void navigator.locks.request(nameOf(takeId), () => held);
  return () => release();
};

/** Whether a take is held by some tab of this browser: being recorded, or being sent. */
export const isHeld = async (takeId: string): Promise<boolean> => {
  if (!('locks' in navigator)) return false;
  const { held = [] } = await navigator.locks.query();
  return held.some((lock) => lock.name === nameOf(takeId));
};

/** Does something while holding a take, unless another tab does. @returns whether it was done */
export const withTake = async (takeId: string, work: () => Promise<void>): Promise<boolean> => {
  if (!('locks' in navigator)) {
    await work();
    return true;
  }
  return navigator.locks.request(nameOf(takeId), { ifAvailable: true }, async (lock) => {
    if (!lock) return false;
    await work();
    return true;
  });
};
