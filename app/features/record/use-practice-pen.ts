import { useEffect, useRef } from 'react';
import type { RecorderState } from '@under-chalk/core/record/recorder-state';
import type { LiveBoard } from '../board/live-board';
import { PracticePen } from '../board/practice-pen';

/**
 * The practice pen writes while it is recorded, and rests in a pause.
 *
 * @param board null: it isn't chosen
 */
export const usePracticePen = (board: LiveBoard | null, state: RecorderState['name']): void => {
  const pen = useRef<PracticePen | null>(null);
  useEffect(() => {
    if (!board || (state !== 'recording' && state !== 'paused')) {
      pen.current?.stop();
      pen.current = null;
      return;
    }
    if (!pen.current) {
      pen.current = new PracticePen(board);
      pen.current.start();
    }
    pen.current.rest(state === 'paused');
  }, [board, state]);
  useEffect(() => () => pen.current?.stop(), []);
};
