/** Whether an arrow key points the other way here: text runs from right to left. */
export const isMirrored = (element: Element, key: string): boolean =>
  (key === 'ArrowLeft' || key === 'ArrowRight') && getComputedStyle(element).direction === 'rtl';
