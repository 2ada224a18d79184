import { Splitter, type MimeNode, type SplitterChunk } from '@zone-eu/mailsplit';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Unreadable } from '../reading';
import { decodedPage } from './page-text';

/** Most parts that one may have. */
const MOST_PARTS = 2_000;

/** A page of the web with what it shows, in one file. */
export interface WebArchive {
  readonly html: string;
  /** Where the page was, for addresses that are told from there. */
  readonly location: string;
  /** What is in it besides, by its address, and as `cid:` by its name. */
  readonly parts: ReadonlyMap<string, Buffer>;
}

const headerOf = ({ headers }: MimeNode, name: string): string =>
  headers ? headers.getFirst(name) : '';

/**
 * Reads an archive of a page: MIME, `multipart/related` (RFC 2557).
 *
 * @throws Unreadable where there is no page in it
 */
export const readArchive = async (file: Buffer): Promise<WebArchive> => {
  const splitter = new Splitter({ maxChildNodes: MOST_PARTS, ignoreEmbedded: true });
  const found: { readonly node: MimeNode; readonly chunks: Buffer[] }[] = [];
  await pipeline(Readable.from([file]), splitter, async (split: AsyncIterable<SplitterChunk>) => {
    for await (const chunk of split) {
      if (chunk.type === 'node') found.push({ node: chunk as MimeNode, chunks: [] });
      else if (chunk.type === 'body') found.at(-1)?.chunks.push(chunk.value);
    }
  });
  const parts = new Map<string, Buffer>();
  let page: Omit<WebArchive, 'parts'> | null = null;
  for (const { node, chunks } of found) {
    if (node.multipart) continue;
    const decoded = await Readable.from(chunks).pipe(node.getDecoder()).toArray();
    const bytes = Buffer.concat(decoded as Buffer[]);
    const location = headerOf(node, 'content-location');
    if (!page && node.contentType === 'text/html') {
      page = { html: decodedPage(bytes, node.charset || null), location };
      continue;
    }
    if (location) parts.set(location, bytes);
    const id = headerOf(node, 'content-id').replace(/^<|>$/g, '');
    if (id) parts.set(`cid:${id}`, bytes);
  }
  if (!page) throw new Unreadable('material-unreadable', 'no page in it');
  return { ...page, parts };
};
