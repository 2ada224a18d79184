/** Named characters that caption files use (WebVTT §6.4 takes those of HTML; these are the ones that are met). */
const NAMED: Readonly<Record<string, string>> = {
  amp: '&',
  lt: '<',
  gt: '>',
  quot: '"',
  apos: "'",
  nbsp: '\u00a0',
  lrm: '',
  rlm: '',
  hellip: '…',
  ndash: '–',
  mdash: '—',
  laquo: '«',
  raquo: '»',
};

const fromCode = (code: number): string =>
  code > 0 && code <= 0x10ffff && !(code >= 0xd800 && code <= 0xdfff)
    ? String.fromCodePoint(code)
    : '\ufffd';

/** Text with its character references read; what is none stays as it is. */
export const withCharacters = (text: string): string =>
  text.replace(/&(?:#(\d{1,7})|#[xX]([\da-fA-F]{1,6})|([a-zA-Z]{2,6}));/g, (all, dec, hex, name) =>
    dec ? fromCode(Number(dec)) : hex ? fromCode(Number.parseInt(hex, 16)) : (NAMED[name] ?? all),
  );

/** The plain words of marked text: tags go, whatever they are, and what would be said of a ruby's sound. */
export const withoutTags = (text: string): string =>
  text.replace(/<rt(?:[ .][^>]*)?>.*?(?:<\/rt>|$)/gs, '').replace(/<[^>]*>?/g, '');

/** Lines without white space round them and without empty ones: neither stands in a cue. */
export const tidied = (text: string): string =>
  text
    .split('\n')
    .map((line) => line.replace(/[ \t\u00a0]+/g, ' ').trim())
    .filter(Boolean)
    .join('\n');
