/** Whether an arrow key points the other way here: text runs from right to left. */
export const isMirrored = (element: Element, key: string): boolean =>
  (key === 'ArrowLeft' || key === 'ArrowRight') && getComputedStyle(element).direction === 'rtl';

const STEPS: Readonly<Record<string, 1 | -1>> = {
  ...{ ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 },
};

/** Which way an arrow key goes through a list: on or back, as the words run; 0: it is none. */
export const arrowStep = (event: {
  readonly key: string;
  readonly currentTarget: Element;
}): 1 | -1 | 0 => {
  const step = STEPS[event.key];
  if (step === undefined) return 0;
  return isMirrored(event.currentTarget, event.key) ? (step === 1 ? -1 : 1) : step;
};

/** For what runs to the right whatever way the words run: time and level. Spread on a view. */
export const TO_THE_RIGHT = { dir: 'ltr' } as object;
