import type { Context2D, Sheet } from '@under-chalk/paint';

/** What a canvas of the browser is painted with. */
export const onCanvas = (canvas: HTMLCanvasElement): Context2D<CanvasImageSource> =>
  canvas.getContext('2d') as unknown as Context2D<CanvasImageSource>;

/** A canvas to paint on beside the one that is seen. */
export const makeSheet = (width: number, height: number): Sheet<CanvasImageSource> => {
  const image = Object.assign(document.createElement('canvas'), { width, height });
  return { image, context: onCanvas(image) };
};
