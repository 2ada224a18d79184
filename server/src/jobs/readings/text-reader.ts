import type { ShownText } from '@under-chalk/core/picture/reading';
import english from '@tesseract.js-data/eng';
import load from 'tesseract.js-core/tesseract-core-simd-lstm.js';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import * as z from 'zod';

/** What it has learnt, of the forms that there are: the one for neural recognition alone, a quarter as large. */
const TRAINED = join('4.0.0_best_int', 'eng.traineddata.gz');
/** Less sure than this, 0 to 100, it is no text but something that looks like it. */
const LEAST_SURE = 55;
/** Text anywhere in the picture, in no order: a screen has no columns. */
const SPARSE = '11';
const NEURAL = 1;
/** A row's height is believed up to so many times that of its letters; in what is small there is a least one. */
const ROW_TIMES = 1.5;

/** Pictures are read in this width, px: letters of a large screen are still to be told apart; and with so many px at most. */
const READ_WIDTH_PX = 1_920;
const MOST_PX = 8_300_000;

/** The size in which a picture of a shape (width over height) is read; one that is far too long is read smaller. */
export const readSizeOf = (aspect: number): { widthPx: number; heightPx: number } => {
  const widthPx = Math.max(2, Math.min(READ_WIDTH_PX, Math.floor(Math.sqrt(MOST_PX * aspect))));
  return { widthPx, heightPx: Math.max(2, Math.round(widthPx / aspect)) };
};

const boxSchema = z.object({ x0: z.number(), y0: z.number(), x1: z.number(), y1: z.number() });
const lineSchema = z.object({
  bbox: boxSchema,
  rowAttributes: z.object({ rowHeight: z.number() }),
  words: z.array(z.object({ text: z.string(), confidence: z.number(), bbox: boxSchema })),
});
const foundSchema = z.object({
  blocks: z.array(z.object({ paragraphs: z.array(z.object({ lines: z.array(lineSchema) })) })),
});

/** Reads what is written in pictures. */
export interface TextReader {
  /**
   * @param picture a PNG or PGM
   * @param widthPx of it
   * @throws Error where it is no picture
   */
  read(picture: Uint8Array, widthPx: number, heightPx: number): ShownText[];
  close(): void;
}

/** One that reads Latin letters; of other scripts it makes nothing that it is sure of. */
export const openTextReader = async (): Promise<TextReader> => {
  // What it has to say about a picture is nobody's concern.
  const recogniser = await load({ print: () => undefined, printErr: () => undefined });
  const trained = await readFile(join(english.langPath, '..', TRAINED));
  recogniser.FS.writeFile('eng.traineddata', gunzipSync(trained));
  const api = new recogniser.TessBaseAPI();
  if (api.Init(null, 'eng', NEURAL) === -1) throw new Error('the text reader can’t begin');
  api.SetVariable('tessedit_pageseg_mode', SPARSE);
  return {
    read(picture, widthPx, heightPx) {
      recogniser.FS.writeFile('/input', picture);
      if (api.SetImageFile(1, 0) === 1) throw new Error('no picture that text can be read in');
      api.Recognize(null);
      const { blocks } = foundSchema.parse(JSON.parse(api.GetJSONText()));
      api.Clear();
      const lines = blocks.flatMap(({ paragraphs }) => paragraphs.flatMap((one) => one.lines));
      return lines.flatMap(({ words, bbox, rowAttributes }): ShownText[] => {
        const sure = words.filter(
          ({ confidence, text }) => confidence >= LEAST_SURE && text.trim(),
        );
        const signs = sure.reduce((sum, { text }) => sum + text.replaceAll(/\s/g, '').length, 0);
        if (signs === 0) return [];
        const [left, right] = [sure[0]!.bbox.x0, sure.at(-1)!.bbox.x1];
        const high = bbox.y1 - bbox.y0;
        const { rowHeight } = rowAttributes;
        const letters = rowHeight > high && rowHeight <= ROW_TIMES * high ? rowHeight : high;
        const share = (px: number, of: number) => Math.min(1, Math.max(0, px / of));
        return [
          {
            x: share(left, widthPx),
            y: share(bbox.y0, heightPx),
            width: share(right - left, widthPx),
            height: share(high, heightPx),
            letters: share(letters, heightPx),
            text: sure
              .map(({ text }) => text.trim())
              .join(' ')
              .slice(0, 1_000),
            signs,
          },
        ];
      });
    },
    close: () => api.End(),
  };
};
