/** A place in a picture, px. */
export type Place = readonly [x: number, y: number];

/** Six places about an eye: a corner, two along the upper lid, the other corner, and two back along the lower lid. */
export type EyeOutline = readonly [Place, Place, Place, Place, Place, Place];

/** A face that is seen in a picture. */
export interface FaceSeen {
  /** Share of the picture's height. */
  readonly high: number;
  readonly eyes: readonly [EyeOutline, EyeOutline];
}

/** In less of a picture, a share of its height, nobody sees whether eyes are open, and nothing can tell. */
const LEAST_HIGH = 0.15;
/** An eye is open from about this on; open ones have 0.3, those that laugh a little less. */
const OPEN = 0.2;

const apart = ([ax, ay]: Place, [bx, by]: Place): number => Math.hypot(ax - bx, ay - by);

/**
 * How far an eye is open: its height by its width.
 * T. Soukupová, J. Čech, *Real-Time Eye Blink Detection using Facial Landmarks*, 2016, (1).
 */
export const availabilityOf = ([
  corner,
  upper,
  upperOn,
  other,
  lowerOn,
  lower,
]: EyeOutline): number =>
  (apart(upper, lower) + apart(upperOn, lowerOn)) / (2 * apart(corner, other));

/** Whether the face that a picture is of, its largest, has its eyes shut. False where there is none to tell of. */
export const areEyesShut = (faces: readonly FaceSeen[]): boolean => {
  const [largest] = [...faces].sort((a, b) => b.high - a.high);
  if (!largest || largest.high < LEAST_HIGH) return false;
  const [one, other] = largest.eyes.map(availabilityOf) as [number, number];
  return (one + other) / 2 < OPEN;
};
