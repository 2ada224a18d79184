import { defaultRangeExtractor, useVirtualizer, type Virtualizer } from '@tanstack/react-virtual';
import {
  useCallback,
  useLayoutEffect,
  useRef,
  useState,
  type ReactNode,
  type RefObject,
} from 'react';
import { View } from 'react-native';
import { elementOf } from './focus';
import { scrollDown } from './kept-scroll';
import { useScrollElement } from './screen';
import { SPACE } from './theme';

/** How far below the top of what scrolls a part begins, px; followed when anything above it grows. */
const useOffset = (part: RefObject<View | null>, scroll: HTMLElement | null): number => {
  const [offset, setOffset] = useState(0);
  useLayoutEffect(() => {
    const element = elementOf(part.current);
    const inside = scroll?.firstElementChild;
    if (!element || !scroll || !inside || typeof ResizeObserver === 'undefined') return undefined;
    const measure = () => {
      const at = element.getBoundingClientRect().top - scroll.getBoundingClientRect().top;
      setOffset(Math.round(at + scroll.scrollTop));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(inside);
    return () => observer.disconnect();
  }, [part, scroll]);
  return offset;
};

interface Props {
  readonly label: string;
  readonly count: number;
  readonly keyOf: (index: number) => string;
  readonly row: (index: number) => ReactNode;
  /** Height of a row before it has been measured, px. */
  readonly likelyHeight: number;
  /** Height of what stays at the top of the page and would cover a row, px. */
  readonly covered: number;
  /** This row is brought into sight when it is another than before; null: none. */
  readonly shown: number | null;
}

/**
 * A long list in a page of which only what is in sight is drawn. The row with the focus stays, however far it is
 * scrolled away; a screen reader hears how many there are.
 */
export const VirtualList = (props: Props) => {
  const { label, count, keyOf, row, likelyHeight, covered, shown } = props;
  const list = useRef<View>(null);
  const scroll = useScrollElement();
  const offset = useOffset(list, scroll);
  const [focused, setFocused] = useState<number | null>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- nothing of it is passed on
  const virtual: Virtualizer<HTMLElement, HTMLElement> = useVirtualizer<HTMLElement, HTMLElement>({
    count,
    getScrollElement: () => scroll,
    estimateSize: () => likelyHeight,
    getItemKey: keyOf,
    overscan: 6,
    gap: SPACE.small,
    scrollMargin: offset,
    scrollToFn: (to, { adjustments = 0 }) => {
      if (scroll) scrollDown(scroll, to + adjustments);
    },
    scrollPaddingStart: covered + SPACE.small,
    // Before the page is measured: as if it were a phone's.
    initialRect: { width: 390, height: 844 },
    rangeExtractor: (range) => {
      const near = defaultRangeExtractor(range);
      return focused === null || focused >= count || near.includes(focused)
        ? near
        : [...near, focused].sort((a, b) => a - b);
    },
  });
  const indexAt = (target: unknown): number | null => {
    const at = (target as Element | null)?.closest?.('[data-index]')?.getAttribute('data-index');
    return at === null || at === undefined ? null : Number(at);
  };
  const before = useRef(shown);
  useLayoutEffect(() => {
    if (shown === null || shown === before.current) return;
    before.current = shown;
    virtual.scrollToIndex(shown, { align: 'auto' });
  }, [shown, virtual]);
  const measure = useCallback(
    (part: View | null) => virtual.measureElement(elementOf(part)),
    [virtual],
  );
  return (
    <View
      ref={list}
      role="list"
      aria-label={label}
      style={{ height: virtual.getTotalSize() }}
      {...({
        onFocus: (event: { target: unknown }) => setFocused(indexAt(event.target)),
        onBlur: () => setFocused(null),
      } as object)}
    >
      {virtual.getVirtualItems().map((item) => (
        <View
          key={item.key}
          ref={measure}
          role="listitem"
          {...({
            dataSet: { index: item.index },
            'aria-setsize': count,
            'aria-posinset': item.index + 1,
          } as object)}
          style={{ position: 'absolute', left: 0, right: 0, top: item.start - offset }}
        >
          {row(item.index)}
        </View>
      ))}
    </View>
  );
};
