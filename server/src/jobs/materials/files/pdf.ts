import * as canvas from '@napi-rs/canvas';
import { MOST_PAGES } from '@under-chalk/core/material/material';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { aspectOf, MOST_WORDS, paintableWidth, Unreadable, type MaterialFile } from '../reading';

/** Pictures inside of a PDF that are larger than this are left out, px. */
const MOST_PICTURE_PX = 60_000_000;

type Canvas = ReturnType<typeof canvas.createCanvas>;

/** Canvases of this machine, for the parts of a page that are painted by themselves. */
class CanvasFactory {
  create(width: number, height: number) {
    const made = canvas.createCanvas(Math.max(1, width), Math.max(1, height));
    return { canvas: made, context: made.getContext('2d') };
  }
  reset(of: { canvas: Canvas }, width: number, height: number) {
    of.canvas.width = Math.max(1, width);
    of.canvas.height = Math.max(1, height);
  }
  destroy(of: { canvas: Canvas | null; context: unknown }) {
    if (of.canvas) of.canvas.width = of.canvas.height = 0;
    of.canvas = null;
    of.context = null;
  }
}

/** pdf.js takes these from the browser, or from a canvas package of its own that ours doesn't mix with. */
const loadPdfjs = async () => {
  const { DOMMatrix, ImageData, Path2D } = canvas;
  Object.assign(globalThis, { DOMMatrix, ImageData, Path2D });
  return import('pdfjs-dist/legacy/build/pdf.mjs');
};

export const warm = async (): Promise<void> => void (await loadPdfjs());

const codeOf = (error: unknown) => {
  const name = error instanceof Error ? error.name : '';
  return name === 'PasswordException' ? 'material-locked' : 'material-unreadable';
};

/**
 * Opens a PDF (ISO 32000). Nothing in it is run, and nothing outside of it is fetched: a page is what it looks like.
 *
 * @throws Unreadable
 */
export const openPdf = async (data: Uint8Array): Promise<MaterialFile> => {
  const pdfjs = await loadPdfjs();
  const folder = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
  const inFolder = (name: string) => `${join(folder, name)}/`;
  const document = await pdfjs
    .getDocument({
      data,
      CanvasFactory,
      isEvalSupported: false,
      enableXfa: false,
      disableFontFace: true,
      useSystemFonts: false,
      stopAtErrors: false,
      maxImageSize: MOST_PICTURE_PX,
      verbosity: pdfjs.VerbosityLevel.ERRORS,
      ...{ cMapUrl: inFolder('cmaps'), cMapPacked: true },
      ...{ standardFontDataUrl: inFolder('standard_fonts'), wasmUrl: inFolder('wasm') },
      iccUrl: inFolder('iccs'),
    })
    .promise.catch((error: unknown) => {
      throw new Unreadable(codeOf(error), String(error));
    });
  const { numPages } = document;
  if (numPages > MOST_PAGES) throw new Unreadable('material-too-long', `${numPages} pages`);
  const sizeOf = async (page: number) =>
    (await document.getPage(page + 1)).getViewport({ scale: 1 });
  const aspects: number[] = [];
  for (let page = 0; page < numPages; page++) {
    // A page that can't be found is a blank one among the others.
    const { width, height } = await sizeOf(page).catch(() => ({ width: 595, height: 842 }));
    aspects.push(width > 0 && height > 0 ? aspectOf(width, height) : 1);
  }
  if (aspects.length === 0) throw new Unreadable('material-unreadable', 'no pages');
  return {
    aspects,
    async words(page) {
      const { items } = await (await document.getPage(page + 1)).getTextContent();
      const text = items
        .map((item) => ('str' in item ? item.str + (item.hasEOL ? '\n' : '') : ''))
        .join('');
      return text.slice(0, MOST_WORDS);
    },
    async paint(number, widthPx, format) {
      const page = await document.getPage(number + 1);
      const { width } = page.getViewport({ scale: 1 });
      const scale = paintableWidth(widthPx, aspects[number]!) / width;
      const viewport = page.getViewport({ scale });
      const sheet = canvas.createCanvas(
        Math.max(1, Math.round(viewport.width)),
        Math.max(1, Math.round(viewport.width / aspects[number]!)),
      );
      await page.render({ canvas: sheet as never, viewport, background: '#fff' }).promise;
      page.cleanup();
      return format === 'png' ? sheet.encode('png') : sheet.encode('webp', 90);
    },
  };
};
