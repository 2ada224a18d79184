import { usePart } from '../../data/live-value';
import { useMaterialWords } from '../../data/queries';
import type { LiveBoard } from './live-board';

/** What the material's page says that is shown on a board; empty where there is none. */
export const usePageWords = (board: LiveBoard): string => {
  // Turning a page tells which one it is.
  usePart(board, ({ stack, page, pages }) => `${stack} ${page} ${pages}`);
  const shown = board.material();
  const { data } = useMaterialWords(shown?.stack ?? null);
  return (shown && data?.[shown.of.page]?.trim()) ?? '';
};
