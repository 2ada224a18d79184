import type { Corners } from '@under-chalk/core/material/sheet/corners';

/** What a page asks the worker that lays sheets flat. Each is answered by one {@link FromSheetWorker}. */
export type ToSheetWorker =
  | { readonly do: 'find'; readonly photo: ImageBitmap }
  | {
      readonly do: 'make';
      readonly photo: ImageBitmap;
      readonly corners: Corners;
      /** Shadows and the colour of the light are taken off. */
      readonly evenLight: boolean;
    };

export type FromSheetWorker =
  | { readonly is: 'found'; readonly corners: Corners }
  | { readonly is: 'made'; readonly sheet: Blob }
  | { readonly is: 'failed'; readonly why: string };
