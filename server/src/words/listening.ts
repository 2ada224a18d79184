import type { Draft, Timing } from '@under-chalk/core/contract/words';
import { AppError } from '@under-chalk/core/errors/errors';
import { filmOf, type Film } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { cuesIn, wordsIn, type Cue } from '@under-chalk/core/words/cue';
import { filmCuesOf, type FilmCue } from '@under-chalk/core/words/film-cues';
import { baseOf } from '@under-chalk/core/words/language';
import { cueHeard, recordedRanges } from '@under-chalk/core/words/align/heard-cues';
import {
  confidenceOf,
  DOUBTFUL,
  draftedCues,
  LEAST_CONFIDENCE,
} from '@under-chalk/core/words/drafted';
import { newId } from '../store/ids';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { MediaStore } from '../store/media-store';
import { spelledByCourse, textsOfCourse } from './course-spelling';
import { alignEnglish, canAlignEnglish } from './english-voice';
import { filmVoice, type FilmVoice } from './film-voice';
import { alignOther, likenessLanguages } from './other-voices';
import type { Recogniser } from './recogniser';

/** So many words are told at most that were spelled as the course does. */
const MOST_TOLD = 50;

/** Of the time that it takes, the share that goes into decoding. */
const DECODING = 0.08;

/** Captions that are in the film as they were written, each once: of one that a cut goes through it can't be told when it is said. */
const wholeCues = (cues: readonly FilmCue[]): Cue[] => {
  const found = new Map<string, Cue>();
  for (const { cue, fromWord, toWord } of cues) {
    if (fromWord === 0 && toWord === wordsIn(cue.text).length) found.set(cue.id, cue);
  }
  return [...found.values()];
};

/**
 * Listens when the captions of a lesson are said in its film: English by what is known of its sounds, other languages by how alike
 * the voice is to a synthesizer's. Nothing is put down: what comes of it is for the teacher to look at.
 *
 * @param likenessScript the built thread for other languages (`likeness-thread`); empty: it is done in this one
 * @throws AppError `nothing-to-time`, `language-not-heard`, `listener-missing`, `footage-missing`; ProgramError; the signal's
 *   reason
 */
export const timingOf = async (
  lesson: Lesson,
  language: string,
  media: MediaStore,
  likenessScript: string,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<Timing> => {
  const film = filmOf(lesson);
  const cues = wholeCues(filmCuesOf(film, cuesIn(lesson.decisions.cues, language)));
  if (cues.length === 0) throw new AppError('nothing-to-time');
  const base = baseOf(language);
  const isEnglish = base === 'en' && canAlignEnglish();
  if (!isEnglish && !(await likenessLanguages()).has(base))
    throw new AppError(base === 'en' ? 'listener-missing' : 'language-not-heard');
  const texts = cues.map(({ text }) => text);
  return heardInFilm(
    film,
    media,
    onProgress,
    signal,
    async ({ path, durationUs, ...voice }, tell) => {
      const { units, unwritten } = isEnglish
        ? await alignEnglish(path, durationUs, texts, tell, signal)
        : await alignOther(
            { path, durationUs, texts, language: base },
            likenessScript,
            tell,
            signal,
          );
      const heard = cues.map((cue, index) => cueHeard(cue, units[index] ?? null, voice.pieces));
      return {
        language,
        cues: heard.flatMap((cue) => cue ?? []),
        unsaid: cues.filter((_, index) => !heard[index]).map(({ id }) => id),
        unwritten: recordedRanges(unwritten, voice.pieces),
      };
    },
  );
};

/**
 * Writes down what is said in a lesson's film, by machine. Nothing is put down: it is for the teacher to look at.
 *
 * @param materials what is written in the lesson's materials: its own words are spelled as they are
 * @throws AppError `listener-missing`, `listener-failed`, `nothing-in-film`, `footage-missing`; ProgramError; the signal's reason
 */
export const draftOf = async (
  lesson: Lesson,
  language: string,
  recognisers: readonly Recogniser[],
  media: MediaStore,
  materials: readonly string[],
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<Draft> => {
  const film = filmOf(lesson);
  if (film.frames === 0) throw new AppError('nothing-in-film');
  const recogniser = recognisers.find(({ knows }) => knows(baseOf(language)));
  if (!recogniser) throw new AppError('listener-missing');
  return heardInFilm(film, media, onProgress, signal, async (voice, onShare) => {
    const base = baseOf(language);
    const written = await recogniser.recognise(voice, base, onShare, signal);
    const texts = textsOfCourse(lesson, materials);
    const { heard, changed } =
      base === 'en' && canAlignEnglish()
        ? await spelledByCourse(written, texts, signal)
        : { heard: written, changed: [] };
    const confidence = confidenceOf(heard);
    const cues = confidence < LEAST_CONFIDENCE ? [] : draftedCues(heard, voice.pieces, newId);
    const doubtful = heard.filter(({ sure }) => sure < DOUBTFUL).length;
    return { language, cues, confidence, doubtful, spelled: [...changed].slice(0, MOST_TOLD) };
  });
};

/** Has what is said in a film listened to, with its progress; nothing of it stays on the disk. */
const heardInFilm = async <T>(
  film: Film,
  media: MediaStore,
  onProgress: (share: number) => void,
  signal: AbortSignal | undefined,
  listen: (voice: FilmVoice, onShare: (share: number) => void) => Promise<T>,
): Promise<T> => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-voice-'));
  try {
    const voice = await filmVoice(film, media, folder, signal);
    onProgress(DECODING);
    return await listen(voice, (share) => onProgress(DECODING + (1 - DECODING) * share));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};
