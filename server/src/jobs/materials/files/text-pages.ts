import MarkdownIt, { type Token } from 'markdown-it';
import {
  paragraph,
  QUIET,
  SIZES,
  type Block,
  type Font,
  type Paragraph,
  type Run,
} from './setting';

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
  let rows: string[][] | null = null;
  let breaks = false;
  const put = (runs: readonly Run[], change: Partial<Paragraph> = {}) => {
    const depth = Math.max(0, lists.length - 1) + quoted;
    blocks.push(
      paragraph(runs, { depth: lists.length > 0 ? depth + 1 : depth, sign, breaks, ...change }),
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
      case 'table_open':
        rows = [];
        break;
      case 'table_close':
        if (rows && rows.length > 0) blocks.push({ is: 'table', rows, headed: true });
        rows = null;
        break;
      case 'tr_open':
        rows?.push([]);
        break;
      case 'inline': {
        const runs = runsOf(token.children ?? [], heading ? 'bold' : 'plain');
        if (rows) rows.at(-1)?.push(runs.map((run) => run.text).join(''));
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
    .filter((of) => of.trim() !== '')
    .map((of) => paragraph([{ text: of.replace(/\s+$/, ''), font: 'plain' }]));

/** Typed text, as it is to be set. */
export const blocksOfTyped = (text: string, kind: 'markdown' | 'text'): Block[] => {
  const clean = text
    .replace(/^\ufeff/, '')
    .replace(/\r\n?/g, '\n')
    .replace(/\t/g, '    ');
  return kind === 'markdown' ? blocksOfMarkdown(clean) : blocksOfText(clean);
};
