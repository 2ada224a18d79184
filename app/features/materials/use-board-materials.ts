import { useEffect } from 'react';
import { useMaterials } from '../../data/queries';
import type { LiveBoard } from '../board/live-board';

/** Has boards offer the materials of a lesson, as they become ready. @returns those that are */
export const useBoardMaterials = (lessonId: string, boards: readonly LiveBoard[]) => {
  const { data } = useMaterials(lessonId);
  const [first, second] = boards;
  useEffect(() => {
    if (!data) return;
    first?.bring(data);
    second?.bring(data);
  }, [data, first, second]);
  return data?.filter(({ state }) => state === 'ready') ?? [];
};
