import { lazy, Suspense, type ComponentProps } from 'react';
import type { CornerBox, CropBox, InsetDrag } from './drag-parts';

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
