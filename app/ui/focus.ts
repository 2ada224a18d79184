import { useEffect, useRef, type RefObject } from 'react';
import type { TextInput, View } from 'react-native';

/** What can have the focus. */
type Part = View | TextInput;

/** What a ref of a part holds on the web: its element. */
export const elementOf = (part: Part | null): HTMLElement | null =>
  part as unknown as HTMLElement | null;

/** Puts the focus on a part, and brings it into sight. */
export const focusOn = (part: Part | null): void => {
  const element = elementOf(part);
  element?.focus({ preventScroll: true });
  element?.scrollIntoView?.({ block: 'nearest' });
};

/**
 * Focus that follows what a press has done: the part whose ref this is gets it as soon as it is there and
 * `wanted` holds, once for each time it begins to hold.
 */
export const useFocusWhen = <P extends Part = View>(wanted: boolean): RefObject<P | null> => {
  const part = useRef<P>(null);
  useEffect(() => {
    if (wanted) focusOn(part.current);
  }, [wanted]);
  return part;
};

/** Whether some page has been shown before: only from one page to another does the focus move. */
let arrived = false;

/**
 * The focus goes to a page's heading when one comes from another page; the first one leaves it where browsers begin.
 *
 * @param page the part that holds the page
 * @param counts false for what stands there only until the page is fetched
 */
export const useArrival = (page: RefObject<View | null>, counts: boolean): void => {
  useEffect(() => {
    if (!counts) return;
    const heading = elementOf(page.current)?.querySelector<HTMLElement>('h1');
    if (arrived && heading) {
      heading.tabIndex = -1;
      heading.focus({ preventScroll: true });
    }
    arrived = true;
  }, [page, counts]);
};
