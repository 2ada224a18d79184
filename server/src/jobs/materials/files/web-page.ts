import { JSDOM } from 'jsdom';
import sharp from 'sharp';
import { kindOf } from './file-kind';
import {
  paragraph,
  QUIET,
  SIZES,
  type Block,
  type Font,
  type Paragraph,
  type Run,
} from './setting';
import { cleanSvg } from './svg';

/** Larger pictures in a page are not opened, px. */
const MOST_PX = 60_000_000;
/** Finest that one is kept, px wide: as a film shows it. */
const WIDEST_PX = 1_920;
/** Smaller ones are signs and ornaments, px. */
const LEAST_PX = 32;
const MOST_PICTURES = 500;
/** Deeper than this nothing is looked at; browsers draw the line there, too. */
const DEEPEST = 512;

/** What is in a page and isn't read, or only does something where the page is alive. */
const UNREAD = new Set(
  (
    'head script style template noscript iframe frame object embed canvas audio video source track ' +
    'button select input textarea datalist dialog map area link meta nav'
  ).split(' '),
);
/** What begins and ends a paragraph. */
const PARTED = new Set(
  (
    'address article aside blockquote body caption center dd details div dl dt fieldset figcaption figure footer form ' +
    'h1 h2 h3 h4 h5 h6 header hr li main ol p pre search section summary table ul'
  ).split(' '),
);
/** Round the page's own words: of the place that it is from. */
const ROUND = new Set(['header', 'footer', 'aside']);

const HIDDEN = /(^|;)\s*(display\s*:\s*none|visibility\s*:\s*hidden)/i;

const RAISED: Readonly<Record<string, string>> = { 1: '¹', 2: '²', 3: '³' };

const { window } = new JSDOM('');
const { ELEMENT_NODE, TEXT_NODE } = window.Node;

/** Gives a picture that a page shows, by the address that it says; null where it isn't in the file. */
export type PictureAt = (address: string) => Buffer | null;

/** What a `data:` address holds (RFC 2397); null for any other. */
export const dataAt = (address: string): Buffer | null => {
  const found = /^data:[^,]*?(;base64)?,/i.exec(address);
  if (!found) return null;
  const rest = address.slice(found[0].length);
  try {
    return found[1]
      ? Buffer.from(decodeURIComponent(rest), 'base64')
      : Buffer.from(decodeURIComponent(rest));
  } catch {
    return null; // Badly escaped: no picture.
  }
};

/** What is looked at of a page: what it calls its main part, where there is just one, else all. */
const mainOf = (document: Document): Element => {
  for (const named of ['main, [role="main"]', 'article']) {
    const found = [...document.querySelectorAll(named)];
    if (found.length === 1 && found[0]!.textContent?.trim()) return found[0]!;
  }
  return document.body;
};

const isHidden = (element: Element): boolean =>
  element.hasAttribute('hidden') ||
  element.getAttribute('aria-hidden') === 'true' ||
  HIDDEN.test(element.getAttribute('style') ?? '');

/** How words are set where they stand. */
interface Setting {
  readonly font: Font;
  /** How deep in lists and quotations. */
  readonly depth: number;
  readonly quoted: boolean;
  readonly heading: Pick<Paragraph, 'size' | 'breaks'> | null;
  /** Spaces and lines stand as they are. */
  readonly typed: boolean;
  /** Numbers the next point of the list that it is in; null in a list without numbers. */
  readonly number: (() => string) | null;
  readonly deep: number;
}

/** A picture in a page: an address, or a drawing that stands in the page itself. */
interface PageImage {
  readonly is: 'image';
  readonly svg: boolean;
  readonly from: string;
  readonly alt: string;
}

/** Walks through a page and gathers what is to be set. */
class PageWalk {
  readonly blocks: (Block | PageImage)[] = [];
  #runs: Run[] = [];
  #sign = '';
  #pictures = 0;

  /** Ends the paragraph. */
  end({ depth, quoted, heading, typed }: Setting): void {
    const runs = typed ? this.#runs : trimmed(this.#runs);
    this.#runs = [];
    if (runs.every(({ text }) => text.trim() === '')) return;
    this.blocks.push(
      paragraph(runs, {
        ...{ depth, sign: this.#sign },
        ...(quoted ? { colour: QUIET } : {}),
        ...(typed ? { size: SIZES.code } : {}),
        ...heading,
      }),
    );
    this.#sign = '';
  }

  walk(node: Node, within: Setting): void {
    if (node.nodeType === TEXT_NODE) return this.#say(node.textContent ?? '', within);
    if (node.nodeType !== ELEMENT_NODE || within.deep > DEEPEST) return;
    const element = node as Element;
    const name = element.localName;
    if (UNREAD.has(name) || isHidden(element)) return;
    if (name === 'br') return void this.#runs.push({ text: '\n', font: within.font });
    if (name === 'img') return this.#picture(element, within);
    if (name === 'svg') return this.#drawing(element, within);
    if (name === 'math') return this.#say(wordsIn(element), within);
    if (name === 'table') return this.#table(element, within);
    if (name === 'sup' || name === 'sub') {
      const words = wordsIn(element);
      return this.#say(name === 'sup' ? (RAISED[words] ?? `^${words}`) : words, within);
    }
    const inside = insideOf(element, within);
    const parted = PARTED.has(name);
    if (parted) this.end(within);
    if (name === 'li') this.#sign = within.number?.() ?? '•';
    for (const child of node.childNodes) this.walk(child, inside);
    if (parted) this.end(inside);
    if (parted) this.#sign = '';
  }

  #say(text: string, { font, typed }: Setting): void {
    if (text) this.#runs.push({ text: typed ? text : text.replace(/[\s\u00a0]+/g, ' '), font });
  }

  #picture(element: Element, within: Setting): void {
    const [from, alt] = [element.getAttribute('src') ?? '', element.getAttribute('alt') ?? ''];
    if (this.#pictures++ >= MOST_PICTURES) return;
    this.end(within);
    this.blocks.push({ is: 'image', svg: false, from, alt: alt.trim() });
  }

  #drawing(element: Element, within: Setting): void {
    if (this.#pictures++ >= MOST_PICTURES) return;
    this.end(within);
    const alt = element.getAttribute('aria-label') ?? element.querySelector('title')?.textContent;
    const from = new window.XMLSerializer().serializeToString(element);
    this.blocks.push({ is: 'image', svg: true, from, alt: alt?.trim() ?? '' });
  }

  /** A table of words; one that others are laid out in, or that has one column, is read as what is in it. */
  #table(element: Element, within: Setting): void {
    this.end(within);
    const lines = [...element.querySelectorAll('tr')];
    const rows = lines.map((line) => [...line.children].map(wordsIn));
    const isLaidOut = element.querySelector('table, img, svg, h1, h2, h3, ul, ol, p + p') !== null;
    if (isLaidOut || rows.every((row) => row.length < 2)) {
      for (const cell of element.querySelectorAll('caption, td, th')) {
        // Of cells in cells each is read once, where it stands.
        if (cell.closest('table') !== element) continue;
        for (const child of cell.childNodes) this.walk(child, { ...within, deep: within.deep + 2 });
        this.end(within);
      }
      return;
    }
    const caption = element.querySelector('caption');
    if (caption) this.#say(wordsIn(caption), { ...within, font: 'bold' });
    this.end(within);
    const headed = lines[0]?.querySelector('td') === null;
    this.blocks.push({ is: 'table', rows: rows.filter((row) => row.some(Boolean)), headed });
  }
}

/** What of a part of a page is read, as it stands in it. */
const textIn = (node: Node): string => {
  if (node.nodeType === TEXT_NODE) return node.textContent ?? '';
  if (node.nodeType !== ELEMENT_NODE) return '';
  const element = node as Element;
  if (UNREAD.has(element.localName) || isHidden(element)) return '';
  return [...element.childNodes].map(textIn).join('');
};

const wordsIn = (element: Element): string =>
  textIn(element)
    .replace(/[\s\u00a0]+/g, ' ')
    .trim();

/** Runs without room before the first word, after the last, or twice between two. */
const trimmed = (runs: readonly Run[]): Run[] => {
  let ends = true;
  const kept = runs.flatMap(({ text, font }): Run[] => {
    const said = ends ? text.replace(/^ /, '') : text;
    if (said === '') return [];
    ends = /[ \n]$/.test(said);
    return [{ text: said, font }];
  });
  const last = kept.pop();
  return last ? [...kept, { ...last, text: last.text.replace(/\s+$/, '') }] : [];
};

const insideOf = (element: Element, within: Setting): Setting => {
  const name = element.localName;
  const inside = { ...within, deep: within.deep + 1 };
  switch (name) {
    case 'h1':
    case 'h2':
      return { ...inside, font: 'bold', heading: { size: SIZES[name], breaks: true } };
    case 'h3':
    case 'h4':
    case 'h5':
    case 'h6':
      return { ...inside, font: 'bold', heading: { size: SIZES.h3, breaks: false } };
    case 'b':
    case 'strong':
    case 'dt':
    case 'th':
      return { ...inside, font: 'bold' };
    case 'i':
    case 'em':
    case 'cite':
    case 'figcaption':
      return within.font === 'bold' ? inside : { ...inside, font: 'italic' };
    case 'blockquote':
      return { ...inside, depth: within.depth + 1, quoted: true };
    case 'dd':
      return { ...inside, depth: within.depth + 1 };
    case 'pre':
      return { ...inside, typed: true };
    case 'ul':
      return { ...inside, depth: within.depth + 1, number: null };
    case 'ol': {
      let next = Number.parseInt(element.getAttribute('start') ?? '1', 10) || 1;
      return { ...inside, depth: within.depth + 1, number: () => `${next++}.` };
    }
    default:
      return inside;
  }
};

/** A picture as it is set, PNG; null where there is none that can be opened. */
const opened = async (bytes: Buffer, isDrawing: boolean) => {
  const kind = isDrawing ? 'svg' : kindOf(bytes.subarray(0, 4_096), '');
  if (kind !== 'svg' && kind !== 'picture') return null;
  const clean = kind === 'svg' ? Buffer.from(cleanSvg(bytes.toString('utf8'))) : bytes;
  try {
    const { data, info } = await sharp(clean, { limitInputPixels: MOST_PX, failOn: 'error' })
      .autoOrient()
      .resize({ width: WIDEST_PX, withoutEnlargement: true })
      .flatten({ background: '#fff' })
      .toColourspace('srgb')
      .png({ compressionLevel: 3 })
      .toBuffer({ resolveWithObject: true });
    return { bytes: data, widthPx: info.width, heightPx: info.height };
  } catch {
    return null; // Damaged or far too large: its words stand for it.
  }
};

/**
 * A page of the web, as it is to be set: its words, headings, lists, tables and pictures. Nothing in it is run, nothing
 * outside of the file is fetched, and how it was laid out is left behind.
 *
 * @param pictureAt gives what an address in the page stands for
 */
export const blocksOfPage = async (html: string, pictureAt: PictureAt): Promise<Block[]> => {
  const document = new window.DOMParser().parseFromString(html, 'text/html');
  const main = mainOf(document);
  if (main === document.body)
    for (const child of [...main.children]) if (ROUND.has(child.localName)) child.remove();
  const walk = new PageWalk();
  const outside: Setting = {
    ...{
      font: 'plain',
      depth: 0,
      quoted: false,
      heading: null,
      typed: false,
      number: null,
      deep: 0,
    },
  };
  walk.walk(main, outside);
  walk.end(outside);
  const title = document.title.replace(/\s+/g, ' ').trim();
  const blocks: Block[] = [];
  if (title && !main.querySelector('h1'))
    blocks.push(paragraph([{ text: title, font: 'bold' }], { size: SIZES.h1 }));
  for (const block of walk.blocks) {
    if (block.is !== 'image') {
      blocks.push(block);
      continue;
    }
    const bytes = block.svg ? Buffer.from(block.from) : pictureAt(block.from);
    const picture = bytes && (await opened(bytes, block.svg));
    if (picture && Math.max(picture.widthPx, picture.heightPx) >= LEAST_PX)
      blocks.push({ is: 'picture', ...picture, shows: block.alt });
    else if (block.alt && !picture)
      blocks.push(paragraph([{ text: `[${block.alt}]`, font: 'italic' }]));
  }
  return blocks;
};
