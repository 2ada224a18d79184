import { useCallback, useEffect, useRef } from 'react';
import type { NativeScrollEvent, NativeSyntheticEvent, ScrollView } from 'react-native';

/** How far each page had been scrolled when it was left, px. */
const left = new Map<string, number>();

/** Keeps how far a page is scrolled while another is shown, and comes back to it. Without a name, nothing is kept. */
export const useKeptScroll = (name: string | undefined) => {
  const scroll = useRef<ScrollView>(null);
  // What was there may have to be fetched first: it is tried until the page is long enough, or moved by hand.
  const wanted = useRef(name ? (left.get(name) ?? 0) : 0);
  const reach = useCallback(() => {
    if (wanted.current > 0) scroll.current?.scrollTo({ y: wanted.current, animated: false });
  }, []);
  useEffect(reach, [reach]);
  const onScroll = (event: NativeSyntheticEvent<NativeScrollEvent>) => {
    const { y } = event.nativeEvent.contentOffset;
    if (y >= wanted.current - 1) wanted.current = 0;
    if (name && wanted.current === 0) left.set(name, y);
  };
  return { scroll, onScroll, onContentSizeChange: reach, scrollEventThrottle: 100 };
};
