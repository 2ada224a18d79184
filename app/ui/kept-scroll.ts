import { useCallback, useRef, useState } from 'react';
import type { NativeScrollEvent, NativeSyntheticEvent, ScrollView } from 'react-native';

/** Scrolls an element, px from its top. A scroll view's own has a `scrollTo` that means something else. */
export const scrollDown = (element: Element, px: number): void =>
  Reflect.apply(Element.prototype.scrollTo, element, [{ top: px }]);

/** How far each page had been scrolled when it was left, px. */
const left = new Map<string, number>();

/**
 * What scrolls a page, and how far it is scrolled: kept while another page is shown, and come back to. Without a name,
 * nothing is kept.
 */
export const useKeptScroll = (name: string | undefined) => {
  // On the web it is an element.
  const [element, setElement] = useState<HTMLElement | null>(null);
  // What was there may have to be fetched first: it is tried until the page is long enough, or moved by hand.
  const wanted = useRef(name ? (left.get(name) ?? 0) : 0);
  const ref = useCallback((view: ScrollView | null) => {
    setElement((view?.getScrollableNode() as HTMLElement | undefined) ?? null);
  }, []);
  const onContentSizeChange = () => {
    if (wanted.current > 0 && element) scrollDown(element, wanted.current);
  };
  const onScroll = (event: NativeSyntheticEvent<NativeScrollEvent>) => {
    const { y } = event.nativeEvent.contentOffset;
    if (y >= wanted.current - 1) wanted.current = 0;
    if (name && wanted.current === 0) left.set(name, y);
  };
  return { element, scroll: { ref, onScroll, onContentSizeChange, scrollEventThrottle: 100 } };
};
