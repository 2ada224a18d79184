import type { NewStudent } from '../class/class';
import { termsOf, TextWithNames } from '../class/names-in';
import type { Film } from '../film/film';
import { formatClock, type Us } from '../time/us';
import { cuesIn, languagesOf } from '../words/cue';
import { filmCuesOf } from '../words/film-cues';
import type { Check, Mend } from './check';
import type { PicturesSeen } from './pictures-seen';

/** A student who is named somewhere in a film. */
interface Named {
  readonly student: NewStudent;
  /** In film time; null: in what stands beside it. */
  readonly atUs: Us | null;
  readonly step: 'plan' | 'words' | 'tidy';
}

/** Something that is said or shown, to be looked through for names. */
interface SaidAt extends Pick<Named, 'atUs' | 'step'> {
  readonly text: string;
}

/** What is said and shown in a film, and stands beside it. */
const saidIn = (film: Film, { texts }: PicturesSeen): SaidAt[] => {
  const { plan, cues, language: spoken } = film.lesson.decisions;
  const beside = [plan.title, plan.description].map((text) => ({
    ...{ text, atUs: null, step: 'plan' as const },
  }));
  const written = languagesOf(cues, spoken).flatMap((language) => {
    const all = filmCuesOf(film, cuesIn(cues, language));
    // A name may go on in the caption after.
    return all.map(({ text, startUs }, at) => ({
      text: `${text} ${all[at + 1]?.text ?? ''}`,
      ...{ atUs: startUs, step: 'words' as const },
    }));
  });
  const shown = [...texts].map(([text, atUs]) => ({ text, atUs, step: 'tidy' as const }));
  return [...beside, ...written, ...shown];
};

/** Who is named, each once: where first. A given name alone names nobody. */
export const namedIn = (
  film: Film,
  pictures: PicturesSeen,
  students: readonly NewStudent[],
): Named[] => {
  const said = saidIn(film, pictures).map((one) => ({ ...one, text: new TextWithNames(one.text) }));
  return students.flatMap((student): Named[] => {
    const terms = termsOf(student);
    const found = said.filter(({ text }) => text.hasAny(terms));
    const [first] = found.sort((a, b) => (a.atUs ?? -1) - (b.atUs ?? -1));
    return first ? [{ student, atUs: first.atUs, step: first.step }] : [];
  });
};

const MENDS: Readonly<Record<Named['step'], Mend>> = {
  plan: { words: 'To Plan', step: 'plan' },
  words: { words: 'To Words', step: 'words' },
  tidy: { words: 'To Tidy', step: 'tidy' },
};

/** Whether students are named in a film that others may watch. */
export const namedCheck = (
  film: Film,
  pictures: PicturesSeen,
  students: readonly NewStudent[],
): Check[] => {
  const named = namedIn(film, pictures, students);
  const [first] = [...named].sort((a, b) => (a.atUs ?? -1) - (b.atUs ?? -1));
  if (!first) return [];
  const { student, atUs, step } = first;
  const where = atUs === null ? 'beside it' : `at ${formatClock(atUs)}`;
  const sentence =
    named.length === 1
      ? `${student.name} is named ${where}: whoever may watch it learns that.`
      : `${named.length} students are named, ${student.name} first, ${where}: whoever may watch it learns that.`;
  return [
    {
      ...{ id: 'named', verdict: 'look', sentence, mend: MENDS[step] },
      ...(atUs === null ? {} : { atUs }),
    },
  ];
};
