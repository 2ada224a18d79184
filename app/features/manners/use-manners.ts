import { useMutation, useQueryClient } from '@tanstack/react-query';
import {
  isPlain,
  mannerEdits,
  mannerText,
  pagesOf,
  type Manner,
} from '@under-chalk/core/lesson/manner';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { newId } from '../../capture/new-id';
import { call } from '../../data/client';
import { useEdits } from '../../data/edits';
import { useKeptList } from '../../data/kept-list';
import { KEYS } from '../../data/queries';

/** The teacher's manners, and how one is kept or let go. */
export const useManners = () => {
  const { kept, ...changes } = useKeptList<Manner>({
    key: KEYS.manners,
    all: () => call('manners'),
    keep: (body) => call('keepManner', { body }),
    forget: (mannerId) => call('forgetManner', { params: { mannerId } }),
  });
  return { manners: kept, ...changes };
};

/** The manner that new lessons of a class begin with. */
export const mannerFor = (manners: readonly Manner[], className: string): Manner | undefined =>
  className === '' ? undefined : manners.findLast((manner) => manner.className === className);

/** Whether a lesson is still to be given a manner: nothing is recorded in it, and nothing decided. */
export const isFresh = ({ takes, decisions }: Lesson): boolean =>
  takes.length === 0 && isPlain(decisions);

/**
 * Gives a lesson a manner, with one step. What the manner shows of materials is brought into the lesson first, where it
 * isn't there; of what is nowhere any more, nothing is said.
 */
export const useTakeManner = (lesson: Lesson) => {
  const { put } = useEdits();
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ says }: Manner) => {
      const lessonId = lesson.id;
      const params = { lessonId };
      const contents = new Set(pagesOf(says).map(({ content }) => content));
      if (contents.size > 0) {
        const [here, kept] = await Promise.all([
          call('materials', { params }),
          call('keptMaterials'),
        ]);
        for (const content of contents) {
          if (here.some((one) => one.content === content)) continue;
          const of = kept.find((one) => one.content === content);
          if (of) await call('bringMaterialAgain', { params, body: { id: newId(), of: of.id } });
        }
        await client.invalidateQueries({ queryKey: KEYS.materials(lessonId) });
      }
      put(...mannerEdits(lesson.decisions, says));
    },
  });
};

/** The manner that a lesson has as it is now, by its looks. */
export const mannerNow = (
  manners: readonly Manner[],
  { decisions }: Lesson,
): Manner | undefined => {
  const now = mannerText(decisions);
  return manners.find(({ says }) => mannerText(says) === now);
};
