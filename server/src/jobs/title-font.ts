import { TITLE_FONT } from '@under-chalk/paint';
import { GlobalFonts } from '@napi-rs/canvas';
import { existsSync } from 'node:fs';

/** Has titles, and words that were written, painted in the font of the app; once a thread. Null: in whatever there is. */
export const registerTitleFont = (fontFile: string | null): void => {
  if (fontFile && existsSync(fontFile) && !GlobalFonts.has(TITLE_FONT)) {
    GlobalFonts.registerFromPath(fontFile, TITLE_FONT);
  }
};
