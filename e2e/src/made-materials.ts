import PDFDocument from 'pdfkit';
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';
import { ROOT } from './server';

/** Slides as PDF, each told from the others at a glance. */
export const pagesPdf = async (pages: number): Promise<Buffer> => {
  const doc = new PDFDocument({ size: [960, 540], margin: 40 });
  const written = buffer(doc);
  for (let page = 1; page <= pages; page++) {
    if (page > 1) doc.addPage();
    doc.fillColor('#1d252c').fontSize(44).text(`Page ${page} of the slides`, 40, 40);
    doc.fontSize(22).text('Springs come twice a month, and so do neaps. '.repeat(3), 40, 120);
    // Stripes of a width of its own: no two pages are alike, to a measure that looks at structure.
    const step = 30 + page * 13;
    const colour = ['#1f5c63', '#9c2f22', '#8a5a00'][page % 3]!;
    for (let x = 0; x < 960; x += step) doc.rect(x, 220, step / 2, 180).fill(colour);
  }
  doc.end();
  return written;
};

const DRAWING = `
const [path, page, width, out] = process.argv.slice(1);
const { readFileSync, writeFileSync } = await import('node:fs');
const { createRequire } = await import('node:module');
const fonts = createRequire(process.cwd() + '/')
  .resolve('pdfjs-dist/package.json')
  .replace('package.json', 'standard_fonts/');
const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
const pdf = await getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0, standardFontDataUrl: fonts, disableFontFace: true }).promise;
const sheet = await pdf.getPage(Number(page) + 1);
const viewport = sheet.getViewport({ scale: Number(width) / sheet.getViewport({ scale: 1 }).width });
const made = pdf.canvasFactory.create(viewport.width, viewport.height);
await sheet.render({ canvas: made.canvas, viewport }).promise;
writeFileSync(out, made.canvas.toBuffer('image/png'));
`;

/** Draws a page of a PDF past all that is ours, as PNG. @param page from 0 */
export const drawPdf = (path: string, page: number, widthPx: number, out: string): void => {
  execFileSync(
    process.execPath,
    ['--input-type=module', '-e', DRAWING, path, String(page), String(widthPx), out],
    { cwd: join(ROOT, 'server'), stdio: ['ignore', 'ignore', 'inherit'] },
  );
};
