/** Whether an arrow key points the other way here: text runs from right to left. */
export const isMirrored = (element: Element, key: string): boolean =>
  (key === 'ArrowLeft' || key === 'ArrowRight') && getComputedStyle(element).direction === 'rtl';

/** For what runs to the right whatever way the words run: time and level. Spread on a view. */
export const TO_THE_RIGHT = { dir: 'ltr' } as object;
