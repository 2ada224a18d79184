import { createRequire } from 'node:module';
import PDFDocument from 'pdfkit';
import { buffer } from 'node:stream/consumers';

/** A page, points: of the shape of a film, with letters that can be read on a phone. */
const PAGE = { width: 960, height: 540, margin: 56 };
export const SIZES = { h1: 44, h2: 36, h3: 30, text: 26, code: 22, cell: 20 } as const;
const INDENT = 30;
export const INK = '#1d252c';
export const QUIET = '#56636c';
const LINE = '#9aa5ad';

const { resolve } = createRequire(import.meta.url);
const family = '@expo-google-fonts/atkinson-hyperlegible';
const FONTS = {
  plain: () => resolve(`${family}/400Regular/AtkinsonHyperlegible_400Regular.ttf`),
  bold: () => resolve(`${family}/700Bold/AtkinsonHyperlegible_700Bold.ttf`),
  italic: () => resolve(`${family}/400Regular_Italic/AtkinsonHyperlegible_400Regular_Italic.ttf`),
};
export type Font = keyof typeof FONTS;

export interface Run {
  readonly text: string;
  readonly font: Font;
}

/** A paragraph as it is set. */
export interface Paragraph {
  readonly is: 'paragraph';
  readonly runs: readonly Run[];
  readonly size: number;
  /** How deep in lists and quotations. */
  readonly depth: number;
  /** What stands before it: a bullet, or a number. */
  readonly sign: string;
  readonly colour: string;
  /** Begins a new page, where there is anything on the one before. */
  readonly breaks: boolean;
}

/** A table: words in rows. */
export interface Table {
  readonly is: 'table';
  readonly rows: readonly (readonly string[])[];
  /** Its first row says what is in the others. */
  readonly headed: boolean;
}

/** A picture, PNG or JPEG. */
export interface Picture {
  readonly is: 'picture';
  readonly bytes: Buffer;
  readonly widthPx: number;
  readonly heightPx: number;
  /** What it shows, in words. */
  readonly shows: string;
}

export type Block = Paragraph | Table | Picture;

export const paragraph = (runs: readonly Run[], change: Partial<Paragraph> = {}): Paragraph => ({
  ...{ is: 'paragraph', runs, size: SIZES.text, depth: 0, sign: '', colour: INK, breaks: false },
  ...change,
});

/** What was set. */
export interface SetPages {
  readonly pdf: Uint8Array;
  /** What the pictures on each page show. */
  readonly shown: readonly (readonly string[])[];
}

/** Sets blocks as pages of PDF, in letters large enough for a film. */
export const pagesOf = async (blocks: readonly Block[]): Promise<SetPages> => {
  const { width, height, margin } = PAGE;
  const doc = new PDFDocument({ size: [width, height], margin });
  const written = buffer(doc);
  for (const name of Object.keys(FONTS) as Font[]) doc.registerFont(name, FONTS[name]());
  let onPage = 0;
  const shown: string[][] = [[]];
  doc.on('pageAdded', () => {
    onPage = 0;
    shown.push([]);
  });
  const next = () => void doc.addPage();
  const left = () => height - margin - doc.y;

  const setParagraph = ({ runs, size, depth, sign, colour, breaks }: Paragraph) => {
    if (breaks && onPage > 0) next();
    const from = margin + depth * INDENT;
    // The first line of a paragraph never stands alone at the foot, nor does a sign without its words.
    if (left() < size * 1.3) next();
    doc.fontSize(size).fillColor(colour);
    if (sign) doc.font('plain').text(sign, from - INDENT, doc.y, { lineBreak: false });
    if (sign) doc.moveUp(0);
    const options = { width: width - margin - from, lineGap: size * 0.18 };
    const y = doc.y;
    runs.forEach((run, index) => {
      const continued = index < runs.length - 1;
      doc.font(run.font);
      if (index === 0) doc.text(run.text, from, y, { ...options, continued });
      else doc.text(run.text, { ...options, continued });
    });
    doc.moveDown(size > SIZES.text ? 0.35 : 0.45);
  };

  const setTable = ({ rows, headed }: Table) => {
    const columns = Math.max(...rows.map((row) => row.length));
    // What says what is in the others never stands alone at the foot.
    if (onPage > 0 && left() < SIZES.cell * 4) next();
    doc.fontSize(SIZES.cell).fillColor(INK);
    doc.x = margin;
    doc.table({
      data: rows.map((row, at) =>
        Array.from({ length: columns }, (_, column) => ({
          text: row[column] ?? '',
          font: { src: headed && at === 0 ? 'bold' : 'plain', size: SIZES.cell },
        })),
      ),
      defaultStyle: { border: 0.75, borderColor: LINE, padding: 6, textColor: INK },
    });
    doc.x = margin;
    doc.moveDown(0.6);
  };

  const setPicture = ({ bytes, widthPx, heightPx, shows }: Picture) => {
    // What is said under it stands on the same page.
    const under = SIZES.text * 1.7;
    const [roomWide, roomHigh] = [width - 2 * margin, height - 2 * margin - under];
    // Never larger than twice what it is made for.
    const fits = (high: number) => Math.min(roomWide / widthPx, high / heightPx, 2);
    // One that would be much smaller in what is left of the page has the next one's room.
    if (onPage > 0 && fits(left() - under) < fits(roomHigh) * 0.7) next();
    const scale = fits(left() - under);
    const [wide, high] = [widthPx * scale, heightPx * scale];
    doc.image(bytes, margin, doc.y, { width: wide, height: high });
    doc.x = margin;
    doc.y += high;
    if (shows) shown.at(-1)!.push(shows);
    doc.fontSize(SIZES.text).moveDown(0.45);
  };

  for (const block of blocks) {
    if (block.is === 'paragraph') setParagraph(block);
    else if (block.is === 'table') setTable(block);
    else setPicture(block);
    onPage++;
  }
  doc.end();
  return { pdf: new Uint8Array(await written), shown };
};
