import type { Corners } from '@under-chalk/core/material/sheet/corners';
import { fetchedPicture } from '../../data/page-pictures';
import type { FromSheetWorker, ToSheetWorker } from './sheet-messages';

const ask = (question: ToSheetWorker): Promise<FromSheetWorker> =>
  new Promise((resolve, reject) => {
    const worker = new Worker(new URL('../../workers/sheet.worker.ts', location.href));
    worker.onmessage = ({ data }: MessageEvent<FromSheetWorker>) => {
      worker.terminate();
      if (data.is === 'failed') reject(new Error(data.why));
      else resolve(data);
    };
    worker.onerror = ({ message }) => {
      worker.terminate();
      reject(new Error(message));
    };
    worker.postMessage(question, [question.photo]);
  });

/** Where a sheet may lie in a photograph. @throws Error when the picture can't be had */
export const sheetIn = async (address: string): Promise<Corners> => {
  const told = await ask({ do: 'find', photo: await fetchedPicture(address) });
  if (told.is !== 'found') throw new Error(told.is);
  return told.corners;
};

/** A photographed sheet, laid flat: a JPEG. @throws Error when the picture can't be had, or is too large for this device */
export const sheetOf = async (
  address: string,
  corners: Corners,
  evenLight: boolean,
): Promise<Blob> => {
  const told = await ask({ do: 'make', photo: await fetchedPicture(address), corners, evenLight });
  if (told.is !== 'made') throw new Error(told.is);
  return told.sheet;
};
