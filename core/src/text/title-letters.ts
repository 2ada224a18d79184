/**
 * What the family that titles are set in has (Bitter, SemiBold), as it may be in texts: Latin with its additions, Vietnamese, Cyrillic, and
 * the marks that go along. From one sign up to another; a test holds it to the font.
 */
const HAS: readonly (readonly [from: number, to: number])[] = [
  ...([
    [0x20, 0x7e],
    [0xa0, 0xac],
    [0xae, 0x17f],
    [0x1c4, 0x1dc],
    [0x1fa, 0x21b],
  ] as const),
  ...([
    [0x400, 0x45f],
    [0x48a, 0x4ff],
    [0x1e42, 0x1e49],
    [0x1ea0, 0x1ef9],
  ] as const),
  ...([
    [0x2012, 0x2015],
    [0x2017, 0x201e],
    [0x2020, 0x2022],
    [0x2025, 0x2026],
  ] as const),
  ...([
    [0x2032, 0x2033],
    [0x2039, 0x203a],
    [0x2074, 0x2079],
    [0x207f, 0x2089],
  ] as const),
  ...([
    [0x2153, 0x2154],
    [0x215b, 0x215e],
    [0x2190, 0x2195],
    [0x2264, 0x2265],
  ] as const),
];

/** Composed as far as possible, white space and what joins left out: what has to be there to be set. */
const signsOf = (text: string): string[] => [...text.normalize('NFC').replace(/[\s\u00ad]/g, '')];

/** Signs of a text that the letters of titles don't have, each once, in its order. */
export const signsWithoutLetters = (text: string): string[] => [
  ...new Set(
    signsOf(text).filter((sign) => {
      const code = sign.codePointAt(0)!;
      return !HAS.some(([from, to]) => code >= from && code <= to);
    }),
  ),
];
