/** Lays photographed sheets flat: on a phone that is a second's work, and the page must not stand still meanwhile. */
import type { Corners } from '@under-chalk/core/material/sheet/corners';
import { evened } from '@under-chalk/core/material/sheet/even-light';
import { findSheet } from '@under-chalk/core/material/sheet/find-sheet';
import { straightened, type Pixels } from '@under-chalk/core/material/sheet/straighten';
import type { FromSheetWorker, ToSheetWorker } from '../features/materials/sheet-messages';

/** As wide as a sheet is looked for in, px. */
const LOOKED_AT_PX = 320;
/** Of the JPEG that it becomes. */
const QUALITY = 0.9;

const scope = self as unknown as DedicatedWorkerGlobalScope;

const pixelsOf = (photo: ImageBitmap, widthPx: number): Pixels => {
  const heightPx = Math.max(1, Math.round((photo.height * widthPx) / photo.width));
  const context = new OffscreenCanvas(widthPx, heightPx).getContext('2d')!;
  context.fillStyle = '#fff';
  context.fillRect(0, 0, widthPx, heightPx);
  context.drawImage(photo, 0, 0, widthPx, heightPx);
  return { widthPx, heightPx, data: context.getImageData(0, 0, widthPx, heightPx).data };
};

const find = (photo: ImageBitmap): Corners => {
  const { widthPx, heightPx, data } = pixelsOf(photo, Math.min(photo.width, LOOKED_AT_PX));
  const luma = Uint8Array.from(
    { length: widthPx * heightPx },
    // Brightness of sRGB (ITU-R BT.601).
    (_, at) => 0.299 * data[at * 4]! + 0.587 * data[at * 4 + 1]! + 0.114 * data[at * 4 + 2]!,
  );
  return findSheet(luma, widthPx, heightPx);
};

const make = (photo: ImageBitmap, corners: Corners, evenLight: boolean): Promise<Blob> => {
  const flat = straightened(pixelsOf(photo, photo.width), corners);
  const { widthPx, heightPx, data } = evenLight ? evened(flat) : flat;
  const canvas = new OffscreenCanvas(widthPx, heightPx);
  const pixels = new ImageData(new Uint8ClampedArray(data), widthPx, heightPx);
  canvas.getContext('2d')!.putImageData(pixels, 0, 0);
  return canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
};

const answer = async (asked: ToSheetWorker): Promise<FromSheetWorker> => {
  try {
    if (asked.do === 'find') return { is: 'found', corners: find(asked.photo) };
    return { is: 'made', sheet: await make(asked.photo, asked.corners, asked.evenLight) };
  } catch (error) {
    return { is: 'failed', why: String(error) };
  } finally {
    asked.photo.close();
  }
};

scope.onmessage = ({ data }: MessageEvent<ToSheetWorker>) =>
  void answer(data).then((told) => scope.postMessage(told));
