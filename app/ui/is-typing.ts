/** Whether what is pressed on some part of the page is being typed there. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof Element &&
  target.closest('input, textarea, select, [contenteditable]') !== null;
