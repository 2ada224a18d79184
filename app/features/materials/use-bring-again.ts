import { useMutation, useQueryClient } from '@tanstack/react-query';
import { newId } from '../../capture/new-id';
import { call } from '../../data/client';
import { KEYS } from '../../data/queries';
import { useThisLesson } from '../lessons/lesson-layout';

/** Brings into this lesson what is kept elsewhere, by its id there. Nothing is sent again. */
export const useBringAgain = (onCome: () => void) => {
  const { lesson } = useThisLesson();
  const client = useQueryClient();
  return useMutation({
    mutationFn: (of: string) =>
      call('reuseMaterial', { params: { lessonId: lesson.id }, body: { id: newId(), of } }),
    onSuccess: () => {
      onCome();
      return client.invalidateQueries({ queryKey: KEYS.materials(lesson.id) });
    },
  });
};
