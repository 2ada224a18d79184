import { useCallback, useMemo } from 'react';
import type { Edit } from '@under-chalk/core/edit/edit';
import { MOST_CUES_AT_ONCE } from '@under-chalk/core/edit/kinds/write-cues';
import type { Film } from '@under-chalk/core/film/film';
import { doubtsOf, type Doubt } from '@under-chalk/core/words/checks';
import { cuesIn, type Cue } from '@under-chalk/core/words/cue';
import { filmCuesOf, type FilmCue } from '@under-chalk/core/words/film-cues';
import { laidOut } from '@under-chalk/core/words/make-right';
import { useEdits } from '../../data/edits';

/** A caption where it is read, and what is wrong with it. */
export interface ShownCue extends FilmCue {
  readonly doubts: readonly Doubt[];
}

/** The edits that write captions and take others away, as many as are needed for one press. */
export const cueEdits = (
  language: string,
  cues: readonly Cue[],
  gone: readonly string[] = [],
): Edit[] => {
  const edits: Edit[] = [];
  const most = MOST_CUES_AT_ONCE;
  for (let at = 0; at < Math.max(cues.length, gone.length); at += most) {
    edits.push({
      do: 'write-cues',
      language,
      cues: cues.slice(at, at + most),
      gone: gone.slice(at, at + most),
    });
  }
  return edits;
};

export interface Captions {
  readonly film: Film;
  readonly language: string;
  /** All of the language, whether the film has them or not. */
  readonly cues: readonly Cue[];
  readonly shown: readonly ShownCue[];
  /** Writes captions and takes others away, with one press. */
  readonly write: (cues: readonly Cue[], gone?: readonly string[]) => void;
  /** The same for captions whose times the program has chosen: shown long enough to read, with a gap before the next. */
  readonly writeLaidOut: (cues: readonly Cue[], gone?: readonly string[]) => void;
}

/** The captions of a film in a language. */
export const useCaptions = (film: Film, language: string): Captions => {
  const { put } = useEdits();
  const all = film.lesson.decisions.cues;
  const cues = useMemo(() => cuesIn(all, language), [all, language]);
  const shown = useMemo(() => {
    const seen = filmCuesOf(film, cues);
    const doubts = doubtsOf(seen);
    return seen.map((cue, index): ShownCue => ({ ...cue, doubts: doubts[index]! }));
  }, [film, cues]);
  const write = useCallback(
    (changed: readonly Cue[], gone: readonly string[] = []) => {
      const edits = cueEdits(language, changed, gone);
      if (edits.length > 0) put(...edits);
    },
    [put, language],
  );
  const writeLaidOut = useCallback(
    (made: readonly Cue[], gone: readonly string[] = []) =>
      write(
        laidOut(
          film,
          cues.filter(({ id }) => !gone.includes(id)),
          made,
        ),
        gone,
      ),
    [write, film, cues],
  );
  return { film, language, cues, shown, write, writeLaidOut };
};

/** The captions that those in another language are written under; null: it is the language that is spoken. */
export const useSpokenCues = (film: Film, language: string): readonly FilmCue[] | null =>
  useMemo(() => {
    const { cues, language: spoken } = film.lesson.decisions;
    return language === spoken ? null : filmCuesOf(film, cuesIn(cues, spoken));
  }, [film, language]);
