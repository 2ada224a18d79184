import * as z from 'zod';
import { fits, hasRight, isRight, type Answer } from '../interaction/answer';
import type { FilmInteraction } from '../interaction/interaction';
import { COMPLETE_PERCENT } from '../out/course-package';

/** Leave to give scores (LTI Assignment and Grade Services 2.0). */
export const SCORE_SCOPE = 'https://purl.imsglobal.org/spec/lti-ags/scope/score';
export const SCORE_TYPE = 'application/vnd.ims.lis.v1.score+json';

/** What a course is told of those who come from it to a film: how much they have watched, or how many questions they answered right. */
export const givesSchema = z.enum(['watched', 'questions']);
export type Gives = z.infer<typeof givesSchema>;

/** How far somebody has come with a film. */
export interface Score {
  readonly given: number;
  readonly most: number;
  /** They have done all of it. */
  readonly done: boolean;
}

const scoreOfWatched = (share: number): Score => {
  const percent = Math.round(share * 100);
  return { given: percent, most: 100, done: percent >= COMPLETE_PERCENT };
};

/** Questions of a film, and those of them that an answer can be right to. */
export const questionsOf = (interactions: readonly FilmInteraction[]) => {
  const all = interactions.flatMap(({ id, does }) =>
    does.is === 'question' ? [{ id, asked: does.asked }] : [],
  );
  return {
    all,
    judged: all.filter(({ asked }) => hasRight(asked)),
  };
};

const scoreOfQuestions = (
  interactions: readonly FilmInteraction[],
  answers: ReadonlyMap<string, Answer>,
): Score => {
  const { all, judged } = questionsOf(interactions);
  const answerTo = ({ id, asked }: (typeof all)[number]) => {
    const answer = answers.get(id);
    // To a question that has changed since, it is none any more.
    return answer && fits(asked, answer) ? answer : null;
  };
  const answered = all.filter((one) => answerTo(one) !== null).length;
  const done = answered === all.length;
  // Where nothing is right or wrong, to have answered is all that there is to be done.
  if (judged.length === 0) return { given: answered, most: all.length, done };
  const right = judged.filter((one) => {
    const answer = answerTo(one);
    return answer !== null && isRight(one.asked, answer) === true;
  });
  return { given: right.length, most: judged.length, done };
};

/** What a student has done with a film. */
export interface Done {
  /** How much of it they have watched, 0 to 1. */
  readonly share: number;
  /** By the interaction. */
  readonly answers: ReadonlyMap<string, Answer>;
}

/** A film that asks nothing (any more) is told of by how much was watched. */
export const scoreOf = (
  gives: Gives,
  interactions: readonly FilmInteraction[],
  { share, answers }: Done,
): Score =>
  gives === 'questions' && questionsOf(interactions).all.length > 0
    ? scoreOfQuestions(interactions, answers)
    : scoreOfWatched(share);

/** Most that a score can be, and of what it is. */
export const scoresFor = (
  gives: Gives,
  interactions: readonly FilmInteraction[],
): { readonly gives: Gives; readonly most: number } => {
  const { most } = scoreOf(gives, interactions, { share: 0, answers: new Map() });
  return { gives: questionsOf(interactions).all.length > 0 ? gives : 'watched', most };
};

/**
 * A score as it is sent (LTI Assignment and Grade Services 2.0, 3.4).
 *
 * @param userId whom the site knows by it
 * @param at when they did what it is given for: a site takes the newest
 */
export const scoreMessage = (
  { given, most, done }: Score,
  { userId, at }: { readonly userId: string; readonly at: Date },
) => ({
  ...{ userId, timestamp: at.toISOString(), scoreGiven: given, scoreMaximum: most },
  activityProgress: done ? ('Completed' as const) : ('InProgress' as const),
  // What is begun counts for as much as it is; nobody has to look it over.
  gradingProgress: 'FullyGraded' as const,
});
