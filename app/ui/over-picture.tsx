import { lazy, Suspense, type ComponentProps } from 'react';
import type { CropBox, InsetDrag } from './drag-parts';

const LazyCropBox = lazy(() =>
  import('./drag-parts').then((parts) => ({ default: parts.CropBox })),
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

/** {@link InsetDrag}, there as soon as it has been fetched. */
export const DraggedInset = (props: ComponentProps<typeof InsetDrag>) => (
  <Suspense fallback={null}>
    <LazyInsetDrag {...props} />
  </Suspense>
);
