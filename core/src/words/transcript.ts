import type { Chapter } from '../film/chapters';
import type { Us } from '../time/us';
import type { ReadDescription } from './audio-description';
import type { ReadCue } from './read-cue';

/** A paragraph of a transcript, and when it begins in the film. */
export interface Paragraph {
  readonly startUs: Us;
  readonly text: string;
}

/** A part of a transcript under one heading; null: before the first chapter, or where there are none. */
export interface TranscriptPart {
  readonly title: string | null;
  readonly startUs: Us;
  readonly paragraphs: readonly Paragraph[];
}

/** Quiet so long ends a paragraph, µs. */
const PAUSE_US = 2_000_000;
/** A paragraph with so many signs ends with its sentence. */
const LONG = 320;

const endsSentence = (text: string): boolean => /[.!?…。！？]["”’)]?$/.test(text.trim());

const paragraphsOf = (cues: readonly ReadCue[]): Paragraph[] => {
  const paragraphs: { startUs: Us; text: string; endUs: Us }[] = [];
  for (const { startUs, endUs, text } of cues) {
    const plain = text.replace(/\s+/g, ' ');
    const last = paragraphs.at(-1);
    const goesOn =
      last &&
      startUs - last.endUs < PAUSE_US &&
      !(last.text.length >= LONG && endsSentence(last.text));
    if (goesOn) {
      last.text += ` ${plain}`;
      last.endUs = endUs;
    } else paragraphs.push({ startUs, text: plain, endUs });
  }
  return paragraphs.map(({ startUs, text }) => ({ startUs, text }));
};

/** What is said and what is seen, one after the other: a paragraph ends where something is described, which stands in brackets. */
const withDescribed = (
  cues: readonly ReadCue[],
  described: readonly ReadDescription[],
): Paragraph[] => {
  let said = 0;
  const before = (us: Us): Paragraph[] => {
    const from = said;
    while (cues[said] && cues[said]!.startUs < us) said++;
    return paragraphsOf(cues.slice(from, said));
  };
  return [
    ...described.flatMap(({ filmUs, text }) => [
      ...before(filmUs),
      { startUs: filmUs, text: `[${text}]` },
    ]),
    ...before(Number.POSITIVE_INFINITY),
  ];
};

/**
 * All words of a film to read, under the titles of its chapters. Chapters in which nothing is said keep their heading.
 *
 * @param described what is seen, if that is to stand in it too
 */
export const transcriptOf = (
  cues: readonly ReadCue[],
  chapters: readonly Chapter[],
  described: readonly ReadDescription[] = [],
): TranscriptPart[] => {
  const firstUs = chapters[0]?.startUs ?? Number.POSITIVE_INFINITY;
  const within = (fromUs: Us, toUs: Us) =>
    withDescribed(
      cues.filter(({ startUs }) => startUs >= fromUs && startUs < toUs),
      described.filter(({ filmUs }) => filmUs >= fromUs && filmUs < toUs),
    );
  const before = within(0, firstUs);
  return [
    ...(before.length > 0 || chapters.length === 0
      ? [{ title: null, startUs: 0, paragraphs: before }]
      : []),
    ...chapters.map(({ title, startUs }, index) => ({
      title,
      startUs,
      paragraphs: within(startUs, chapters[index + 1]?.startUs ?? Number.POSITIVE_INFINITY),
    })),
  ];
};
