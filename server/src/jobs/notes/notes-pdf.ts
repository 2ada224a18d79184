import { DRAWING, drawingOf, type DrawnMark } from '@under-chalk/core/ink/drawing';
import type { NotesPage } from '@under-chalk/core/ink/notes';
import { placeOnPage } from '@under-chalk/core/material/page-place';
import { formatClock, type Us } from '@under-chalk/core/time/us';
import PDFDocument from 'pdfkit';
import { buffer } from 'node:stream/consumers';

/** Width of a page, points: A4 laid down. Its height is that of what was written, and a line below. */
const WIDTH_PT = 842;
const FOOT_PT = 34;
const SCALE = WIDTH_PT / DRAWING.width;
const DRAWN_PT = DRAWING.height * SCALE;

export interface NotesPdf {
  readonly title: string;
  readonly author: string;
  readonly pages: readonly NotesPage[];
  /** Pictures of the materials that lie on some of them: files of PNG. */
  readonly pictures: ReadonlyMap<NotesPage, string>;
  /** The font of the words that were written; null: one that every reader has. */
  readonly fontFile: string | null;
  /** The address at which the film plays from a time; null where it isn't handed out. */
  readonly linkTo: ((filmUs: Us) => string) | null;
}

const paintMark = (doc: PDFKit.PDFDocument, mark: DrawnMark): void => {
  const { colour, opacity } = mark;
  switch (mark.is) {
    case 'area':
      if (mark.path !== '') doc.path(mark.path).fillOpacity(opacity).fill(colour);
      return;
    case 'line':
      doc.path(mark.path).lineWidth(mark.width).lineCap('round').lineJoin('round');
      doc.strokeOpacity(opacity).stroke(colour);
      return;
    case 'words':
      doc.fillOpacity(opacity).fillColor(colour).fontSize(mark.size);
      for (const { text, x, y } of mark.lines) {
        doc.text(text, x, y, { lineBreak: false, baseline: 'top' });
      }
  }
};

/** What stands under a page: which it is, and when it is discussed. */
const paintFoot = (doc: PDFKit.PDFDocument, { title, linkTo, pages }: NotesPdf, index: number) => {
  const y = DRAWN_PT + FOOT_PT / 2 - 6;
  doc.fontSize(10).fillOpacity(1).fillColor('#56636c');
  const start = `${title} · page ${index + 1} of ${pages.length}`;
  doc.text(start, 20, y, { lineBreak: false });
  const times = pages[index]!.shownUs.map((us) => ({ words: formatClock(us), us }));
  let right = WIDTH_PT - 20;
  for (const { words, us } of times.reverse()) {
    const width = doc.widthOfString(words);
    right -= width;
    doc.fillColor(linkTo ? '#1f5c63' : '#56636c').text(words, right, y, {
      ...{ lineBreak: false, underline: linkTo !== null },
      ...(linkTo ? { link: linkTo(us) } : {}),
    });
    right -= 12;
  }
  const said = 'at ';
  doc.fillColor('#56636c').text(said, right - doc.widthOfString(said), y, { lineBreak: false });
};

/**
 * The pages of a board as PDF, on light paper, for they are printed: what is drawn as vectors, words as text
 * that can be searched and read out.
 */
export const notesPdf = async (notes: NotesPdf): Promise<Buffer> => {
  const { title, author, pages, pictures, fontFile } = notes;
  const doc = new PDFDocument({
    ...{ autoFirstPage: false, displayTitle: true, margin: 0 },
    info: { Title: title, Author: author },
  });
  const written = buffer(doc);
  const font = fontFile ?? 'Times-Bold';
  for (const [index, notesPage] of pages.entries()) {
    const { page } = notesPage;
    doc.addPage({ size: [WIDTH_PT, DRAWN_PT + FOOT_PT], margin: 0 });
    // On the paper of a material, what was written keeps its colours.
    const paper = page.of ? page.paper : { ...page.paper, shade: 'light' as const };
    const { ground, marks } = drawingOf({ ...page, paper });
    doc.save();
    doc.rect(0, 0, WIDTH_PT, DRAWN_PT).clip();
    doc.scale(SCALE);
    doc.rect(0, 0, DRAWING.width, DRAWING.height).fillOpacity(1).fill(ground);
    const picture = pictures.get(notesPage);
    if (page.of && picture) {
      const { x, y, width, height } = placeOnPage(page.of);
      const [left, top] = [x * DRAWING.width, y * DRAWING.width];
      const [wide, high] = [width * DRAWING.width, height * DRAWING.width];
      doc.rect(left, top, wide, high).fill('#fff');
      doc.image(picture, left, top, { width: wide, height: high });
    }
    doc.font(font);
    marks.forEach((mark) => paintMark(doc, mark));
    doc.restore();
    doc.font(font);
    paintFoot(doc, notes, index);
  }
  doc.end();
  return written;
};
