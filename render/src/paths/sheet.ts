import { createCanvas } from '@napi-rs/canvas';
import type { Sheet } from '@under-chalk/paint';

/** A canvas of this machine to paint on, and to be painted as a picture. */
export const makeSheet = <P>(widthPx: number, heightPx: number): Sheet<P> => {
  const canvas = createCanvas(widthPx, heightPx);
  return { image: canvas as P, context: canvas.getContext('2d') as never };
};
