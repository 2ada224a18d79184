import jsQR from 'jsqr';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ffmpeg, probe } from './media';

/** What a code in a picture says (QR), as a phone reads it; undefined where there is none. @param picture PNG */
export const readCode = (picture: Buffer): string | undefined => {
  const folder = mkdtempSync(join(tmpdir(), 'under-chalk-code-'));
  try {
    const file = join(folder, 'code.png');
    writeFileSync(file, picture);
    const { video } = probe(file);
    const pixels = ffmpeg('-i', file, '-f', 'rawvideo', '-pix_fmt', 'rgba', '-');
    return jsQR(new Uint8ClampedArray(pixels), Number(video!['width']), Number(video!['height']))
      ?.data;
  } finally {
    rmSync(folder, { recursive: true });
  }
};
