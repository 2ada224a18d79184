import { useMutation, useQueryClient } from '@tanstack/react-query';
import {
  isPlain,
  savedStyleEdits,
  savedStyleText,
  pagesOf,
  type SavedStyle,
} from '@under-chalk/core/lesson/saved-style';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { newId } from '../../capture/new-id';
import { call } from '../../data/client';
import { useEdits } from '../../data/edits';
import { useKeptList } from '../../data/kept-list';
import { KEYS } from '../../data/queries';

/** The teacher's styles, and how one is kept or let go. */
export const useSavedStyles = () => {
  const { kept, ...changes } = useKeptList<SavedStyle>({
    key: KEYS.savedStyles,
    all: () => call('styles'),
    keep: (body) => call('saveStyle', { body }),
    forget: (savedStyleId) => call('deleteStyle', { params: { savedStyleId } }),
  });
  return { savedStyles: kept, ...changes };
};

/** The style that new lessons of a class begin with. */
export const savedStyleFor = (
  savedStyles: readonly SavedStyle[],
  className: string,
): SavedStyle | undefined =>
  className === ''
    ? undefined
    : savedStyles.findLast((savedStyle) => savedStyle.className === className);

/** Whether a lesson is still to be given a style: nothing is recorded in it, and nothing decided. */
export const isFresh = ({ takes, decisions }: Lesson): boolean =>
  takes.length === 0 && isPlain(decisions);

/**
 * Gives a lesson a style, with one step. What the style shows of materials is brought into the lesson first, where it
 * isn't there; of what is nowhere any more, nothing is said.
 */
export const useTakeSavedStyle = (lesson: Lesson) => {
  const { put } = useEdits();
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ says }: SavedStyle) => {
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
          if (of) await call('reuseMaterial', { params, body: { id: newId(), of: of.id } });
        }
        await client.invalidateQueries({ queryKey: KEYS.materials(lessonId) });
      }
      put(...savedStyleEdits(lesson.decisions, says));
    },
  });
};

/** The style that a lesson has as it is now, by its looks. */
export const savedStyleNow = (
  savedStyles: readonly SavedStyle[],
  { decisions }: Lesson,
): SavedStyle | undefined => {
  const now = savedStyleText(decisions);
  return savedStyles.find(({ says }) => savedStyleText(says) === now);
};
