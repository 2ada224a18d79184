/**
 * Characters that have no business in a name or a sentence: control characters but tab and line feed
 * (Unicode, C0 and C1), marks that turn the direction of what follows (UAX #9, explicit formatting), and
 * those that stand for nothing.
 */
const UNWANTED =
  /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069\ufeff\ufffe\uffff]/g;

/** Halves of characters beyond U+FFFF without their other half: they can be in no file name and no address. */
const HALVES = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** Text without what can't be seen in it and misleads whoever, or whatever, reads it. */
export const cleanText = (text: string): string =>
  text.replace(/\r\n?/g, '\n').replace(UNWANTED, '').replace(HALVES, '');

/** One line of clean text. */
export const cleanLine = (text: string): string => cleanText(text.replace(/\s*\n\s*/g, ' '));
