import { useWindowDimensions } from 'react-native';
import { WIDE } from './theme';

/** How the parts of a page stand, by the room there is. */
export interface Layout {
  readonly width: number;
  readonly height: number;
  /** Room for two columns and more. */
  readonly wide: boolean;
  /** The picture stands beside the rest, and not above it: on a wide screen, and on a phone held sideways. */
  readonly beside: boolean;
  /** Little height: what stands at the top scrolls away with the page. */
  readonly low: boolean;
  /** So little room (at 400 % zoom) that nothing stays in its place but what has the focus. */
  readonly tiny: boolean;
}

/** Below this height the head scrolls away, px; below the smaller one, or this width, the foot does too. */
const LOW = 520;
const TINY = 340;
const NARROW = 300;
/** From this width on a picture can stand beside a column, px. */
const BESIDE = 640;

export const layoutOf = (width: number, height: number): Layout => ({
  width,
  height,
  wide: width >= WIDE,
  beside: width >= WIDE || (width >= BESIDE && width > height),
  low: height < LOW,
  tiny: height < TINY || width < NARROW,
});

export const useLayout = (): Layout => {
  const { width, height } = useWindowDimensions();
  return layoutOf(width, height);
};
