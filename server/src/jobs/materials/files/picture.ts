import sharp from 'sharp';
import { aspectOf, paintableWidth, Unreadable, type MaterialFile } from '../reading';

/** Larger pictures are not opened, px. */
const MOST_PX = 120_000_000;

// One file at a time, each painted once: nothing is gained by keeping.
sharp.cache(false);
sharp.concurrency(1);

/** A page of one picture, decoded anew in the size that is asked for; what it lets through stays so. @throws Unreadable */
export const pictureFile = async (input: string | Uint8Array): Promise<MaterialFile> => {
  const open = () => sharp(input, { limitInputPixels: MOST_PX, failOn: 'error' }).autoOrient();
  const { autoOrient } = await open()
    .metadata()
    .catch((error: unknown) => {
      const heavy = /pixel limit/.test(String(error));
      throw new Unreadable(heavy ? 'material-too-heavy' : 'material-unreadable', String(error));
    });
  const aspect = aspectOf(autoOrient.width, autoOrient.height);
  return {
    aspects: [aspect],
    words: async () => '',
    async paint(_page, widthPx, format) {
      const width = paintableWidth(widthPx, aspect);
      const height = Math.max(1, Math.round(width / aspect));
      const sized = open().resize({ width, height, fit: 'fill' }).toColourspace('srgb');
      return format === 'png'
        ? sized.png({ compressionLevel: 3 }).toBuffer()
        : sized.webp({ quality: 88 }).toBuffer();
    },
  };
};

export const openPicture = (path: string): Promise<MaterialFile> => pictureFile(path);
