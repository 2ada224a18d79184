import type { LessonView, PutDown } from '@under-chalk/core/contract/lessons';
import { applyEdit } from '@under-chalk/core/edit/apply-edit';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { isEdit, type Edit } from '@under-chalk/core/edit/edit';
import { isKnown, type Entry } from '@under-chalk/core/edit/entry';
import { StepList } from '@under-chalk/core/edit/steps';

const laidOver = (decisions: Decisions, edits: readonly Edit[]): Decisions =>
  edits.reduce(applyEdit, decisions);

/**
 * A lesson after the server's answer to edits that were sent.
 *
 * @param baseRevision the revision they were sent for
 * @returns null where what came in between can't be told from the answer: the lesson is asked for anew
 */
export const viewAfter = (
  view: LessonView,
  baseRevision: number,
  answer: PutDown,
): LessonView | null => {
  const { revision, since, steps, unknown } = answer;
  if (revision <= view.lesson.revision) return view;
  const withAll = (decisions: Decisions): LessonView => ({
    ...view,
    lesson: { ...view.lesson, revision, decisions },
    steps,
    unknown,
  });
  if (answer.decisions) return withAll(answer.decisions);
  const seen = view.lesson.revision - baseRevision;
  if (seen < 0) return null;
  const acts = since.slice(seen).flatMap((entry) => (isKnown(entry) ? entry.edit : []));
  return withAll(laidOver(view.lesson.decisions, acts.filter(isEdit)));
};

/**
 * A lesson with what waits laid over it, as the teacher has decided it. What an undo takes back of that which
 * waits too is gone at once; the rest is shown once the server has answered: it alone has the whole list.
 */
export const withWaiting = (view: LessonView, waiting: readonly Entry[]): LessonView => {
  if (waiting.length === 0) return view;
  const steps = new StepList(view.steps);
  const back = new Set<string>();
  for (const entry of waiting) {
    steps.add(entry);
    if (entry.edit.do === 'undo') entry.edit.entries.forEach((id) => back.add(id));
    if (entry.edit.do === 'redo') entry.edit.entries.forEach((id) => back.delete(id));
  }
  const edits = waiting.filter(({ id }) => !back.has(id)).map(({ edit }) => edit);
  const decisions = laidOver(view.lesson.decisions, edits.filter(isEdit));
  return { ...view, lesson: { ...view.lesson, decisions }, steps: steps.steps() };
};
