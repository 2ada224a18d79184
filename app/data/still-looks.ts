/** A still is looked at as so many grey points. */
const WIDE = 40;
const HIGH = 22;
/** Two that differ by no more than this on average, of 255, show the same: the noise of pictures that were compressed. */
const MOST_MEAN = 1.2;
/** A point that differs by more than this has changed; so many may, for a pointer goes from one place to another. */
const POINT_CHANGED = 22;
const MOST_POINTS = 6;
/** Looks that are held: the pictures of a few screens. */
const MOST_HELD = 600;

type Look = Uint8ClampedArray;

const looks = new Map<string, Promise<Look | null>>();

const lookOf = async (uri: string): Promise<Look | null> => {
  try {
    const image = new Image();
    image.src = uri;
    await image.decode();
    const canvas = Object.assign(document.createElement('canvas'), { width: WIDE, height: HIGH });
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    context.filter = 'grayscale(1)';
    context.imageSmoothingQuality = 'high';
    context.drawImage(image, 0, 0, WIDE, HIGH);
    return context.getImageData(0, 0, WIDE, HIGH).data;
  } catch {
    // It can't be had: then it is not said to be like another.
    return null;
  }
};

const heldLook = (uri: string): Promise<Look | null> => {
  const known = looks.get(uri);
  if (known) return known;
  for (const [first] of looks) {
    if (looks.size < MOST_HELD) break;
    looks.delete(first);
  }
  const look = lookOf(uri);
  looks.set(uri, look);
  return look;
};

/** Whether two looks are of the same picture. */
export const looksSame = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  let sum = 0;
  let changed = 0;
  // Grey: the first of the four values of a point is all there is to it.
  for (let at = 0; at < a.length; at += 4) {
    const by = Math.abs(a[at]! - b[at]!);
    if (by > POINT_CHANGED && ++changed > MOST_POINTS) return false;
    sum += by;
  }
  return sum <= (MOST_MEAN * a.length) / 4;
};

/** Whether two stills show the same; false where one of them can't be had. */
export const sameStill = async (one: string, other: string): Promise<boolean> => {
  const [a, b] = await Promise.all([heldLook(one), heldLook(other)]);
  return a !== null && b !== null && looksSame(a, b);
};
