import { lazy, Suspense, type ComponentProps } from 'react';
import { View } from 'react-native';
import { STRIP_HEIGHT } from './strip-height';
import type { CornerBox, CropBox, EndStrip, InsetDrag, PinchArea } from './drag-parts';

const LazyCropBox = lazy(() =>
  import('./drag-parts').then((parts) => ({ default: parts.CropBox })),
);
const LazyCornerBox = lazy(() =>
  import('./drag-parts').then((parts) => ({ default: parts.CornerBox })),
);
const LazyInsetDrag = lazy(() =>
  import('./drag-parts').then((parts) => ({ default: parts.InsetDrag })),
);

/** {@link CropBox}, there as soon as it has been fetched. */
export const DrawnCrop = (props: ComponentProps<typeof CropBox>) => (
  <Suspense fallback={null}>
    <LazyCropBox {...props} />
  </Suspense>
);

/** {@link CornerBox}, there as soon as it has been fetched. */
export const DraggedCorners = (props: ComponentProps<typeof CornerBox>) => (
  <Suspense fallback={null}>
    <LazyCornerBox {...props} />
  </Suspense>
);

/** {@link InsetDrag}, there as soon as it has been fetched. */
export const DraggedInset = (props: ComponentProps<typeof InsetDrag>) => (
  <Suspense fallback={null}>
    <LazyInsetDrag {...props} />
  </Suspense>
);

const LazyEndStrip = lazy(() =>
  import('./drag-parts').then((parts) => ({ default: parts.EndStrip })),
);

/** {@link EndStrip}, there as soon as it has been fetched; its room is there at once. */
export const DraggedEnd = (props: ComponentProps<typeof EndStrip>) => (
  <Suspense fallback={<View style={{ height: STRIP_HEIGHT }} />}>
    <LazyEndStrip {...props} />
  </Suspense>
);

const LazyPinchArea = lazy(() =>
  import('./drag-parts').then((parts) => ({ default: parts.PinchArea })),
);

/** {@link PinchArea}, there as soon as it has been fetched. */
export const PinchedPicture = (props: ComponentProps<typeof PinchArea>) => (
  <Suspense fallback={null}>
    <LazyPinchArea {...props} />
  </Suspense>
);
