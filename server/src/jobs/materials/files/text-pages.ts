import MarkdownIt, { type Token } from 'markdown-it';
import { createRequire } from 'node:module';
import PDFDocument from 'pdfkit';
import { buffer } from 'node:stream/consumers';

/** A page, points: of the shape of a film, with letters that can be read on a phone. */
const PAGE = { width: 960, height: 540, margin: 56 };
const SIZES = { h1: 44, h2: 36, h3: 30, text: 26, code: 22 } as const;
const INDENT = 30;
const [INK, QUIET] = ['#1d252c', '#56636c'];

const { resolve } = createRequire(import.meta.url);
const family = '@expo-google-fonts/atkinson-hyperlegible';
const FONTS = {
  plain: () => resolve(`${family}/400Regular/AtkinsonHyperlegible_400Regular.ttf`),
  bold: () => resolve(`${family}/700Bold/AtkinsonHyperlegible_700Bold.ttf`),
  italic: () => resolve(`${family}/400Regular_Italic/AtkinsonHyperlegible_400Regular_Italic.ttf`),
};
type Font = keyof typeof FONTS;

interface Run {
  readonly text: string;
  readonly font: Font;
}

/** A paragraph as it is set. */
interface Block {
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

const block = (runs: readonly Run[], change: Partial<Block> = {}): Block => ({
  ...{ runs, size: SIZES.text, depth: 0, sign: '', colour: INK, breaks: false },
  ...change,
});

/** Runs of one line of Markdown. Pictures are told by what they are said to show; addresses are left out. */
const runsOf = (tokens: readonly Token[], base: Font = 'plain'): Run[] => {
  let font = base;
  return tokens.flatMap((token): Run[] => {
    if (token.type === 'strong_open') font = 'bold';
    else if (token.type === 'em_open') font = 'italic';
    else if (token.type === 'strong_close' || token.type === 'em_close') font = base;
    else if (token.type === 'softbreak') return [{ text: ' ', font }];
    else if (token.type === 'hardbreak') return [{ text: '\n', font }];
    else if (token.type === 'image') return [{ text: `[${token.content}]`, font: 'italic' }];
    else if (token.content) return [{ text: token.content, font }];
    return [];
  });
};

/** Markdown (CommonMark, and tables) as paragraphs. HTML in it stays the text that it is. */
const blocksOfMarkdown = (text: string): Block[] => {
  const blocks: Block[] = [];
  const lists: { ordered: boolean; next: number }[] = [];
  let quoted = 0;
  let sign = '';
  let heading: { size: number; breaks: boolean } | null = null;
  let row: Run[] | null = null;
  let breaks = false;
  const put = (runs: readonly Run[], change: Partial<Block> = {}) => {
    const depth = Math.max(0, lists.length - 1) + quoted;
    blocks.push(
      block(runs, { depth: lists.length > 0 ? depth + 1 : depth, sign, breaks, ...change }),
    );
    sign = '';
    breaks = false;
  };
  for (const token of new MarkdownIt({ html: false, linkify: false }).parse(text, {})) {
    switch (token.type) {
      case 'heading_open': {
        const size = { h1: SIZES.h1, h2: SIZES.h2 }[token.tag] ?? SIZES.h3;
        heading = { size, breaks: token.tag === 'h1' || token.tag === 'h2' };
        break;
      }
      case 'heading_close':
        heading = null;
        break;
      case 'hr':
        breaks = true;
        break;
      case 'bullet_list_open':
      case 'ordered_list_open':
        lists.push({
          ordered: token.type === 'ordered_list_open',
          next: Number(token.attrGet('start') ?? 1),
        });
        break;
      case 'bullet_list_close':
      case 'ordered_list_close':
        lists.pop();
        break;
      case 'list_item_open': {
        const list = lists.at(-1)!;
        sign = list.ordered ? `${list.next++}.` : '•';
        break;
      }
      case 'blockquote_open':
        quoted++;
        break;
      case 'blockquote_close':
        quoted--;
        break;
      case 'fence':
      case 'code_block':
        put([{ text: token.content.replace(/\n$/, ''), font: 'plain' }], { size: SIZES.code });
        break;
      case 'tr_open':
        row = [];
        break;
      case 'tr_close':
        put(row ?? []);
        row = null;
        break;
      case 'inline': {
        const runs = runsOf(token.children ?? [], heading ? 'bold' : 'plain');
        if (row)
          row.push(
            ...(row.length > 0 ? [{ text: '   |   ', font: 'plain' as const }] : []),
            ...runs,
          );
        else if (heading) put(runs, { size: heading.size, breaks: heading.breaks });
        else put(runs, quoted > 0 ? { colour: QUIET } : {});
      }
    }
  }
  return blocks;
};

const blocksOfText = (text: string): Block[] =>
  text
    .split(/\n{2,}/)
    .filter((paragraph) => paragraph.trim() !== '')
    .map((paragraph) => block([{ text: paragraph.replace(/\s+$/, ''), font: 'plain' }]));

/** Typed text as pages of PDF, in letters large enough for a film. */
export const textPdf = async (text: string, kind: 'markdown' | 'text'): Promise<Uint8Array> => {
  const clean = text
    .replace(/^\ufeff/, '')
    .replace(/\r\n?/g, '\n')
    .replace(/\t/g, '    ');
  const blocks = kind === 'markdown' ? blocksOfMarkdown(clean) : blocksOfText(clean);
  const { width, height, margin } = PAGE;
  const doc = new PDFDocument({ size: [width, height], margin });
  const written = buffer(doc);
  for (const name of Object.keys(FONTS) as Font[]) doc.registerFont(name, FONTS[name]());
  let onPage = 0;
  doc.on('pageAdded', () => {
    onPage = 0;
  });
  for (const { runs, size, depth, sign, colour, breaks } of blocks) {
    if (breaks && onPage > 0) doc.addPage();
    const left = margin + depth * INDENT;
    doc.fontSize(size).fillColor(colour);
    // The first line of a paragraph never stands alone at the foot, nor does a sign without its words.
    if (doc.y + size * 1.3 > height - margin) doc.addPage();
    if (sign) doc.font('plain').text(sign, left - INDENT, doc.y, { lineBreak: false });
    if (sign) doc.moveUp(0);
    const options = { width: width - margin - left, lineGap: size * 0.18 };
    const y = doc.y;
    runs.forEach((run, index) => {
      const continued = index < runs.length - 1;
      doc.font(run.font);
      if (index === 0) doc.text(run.text, left, y, { ...options, continued });
      else doc.text(run.text, { ...options, continued });
    });
    doc.moveDown(size > SIZES.text ? 0.35 : 0.45);
    onPage++;
  }
  doc.end();
  return new Uint8Array(await written);
};
