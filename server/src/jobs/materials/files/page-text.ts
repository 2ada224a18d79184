/** Where the encoding of a page is looked for, bytes (HTML, “Determining the character encoding”). */
const PRESCAN_BYTES = 1_024;

const decoderOf = (label: string): TextDecoder | null => {
  try {
    return new TextDecoder(label);
  } catch {
    return null; // No encoding of that name: the next that is said is tried.
  }
};

/**
 * The text of a page of the web, in the encoding that it begins with, that it is sent with, or that it says; else in the
 * one that most old pages are in.
 *
 * @param sentAs the encoding that was said beside it
 */
export const decodedPage = (bytes: Uint8Array, sentAs: string | null): string => {
  const head = Buffer.from(bytes.subarray(0, PRESCAN_BYTES)).toString('latin1');
  const mark = head.startsWith('\xef\xbb\xbf')
    ? 'utf-8'
    : head.startsWith('\xff\xfe')
      ? 'utf-16le'
      : null;
  const says = /<meta[^>]+charset\s*=\s*["']?\s*([\w.:-]+)/i.exec(head)?.[1] ?? null;
  for (const label of [mark, sentAs, says]) {
    const decoder = label && decoderOf(label);
    if (decoder) return decoder.decode(bytes);
  }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
};
