import { AppError } from '@under-chalk/core/errors/errors';
import { call } from '../../data/client';
import type { PieceStore } from '../store/piece-store';

/**
 * Every byte of a take is on the server: has it made playable there, and lets go of what is here.
 *
 * @param cutShort recording ended without the stop button
 * @throws AppError when the server can't be told, or doesn't have all of it; it is told again the next time
 */
export const finishTake = async (
  store: PieceStore | null,
  takeId: string,
  cutShort: boolean,
): Promise<void> => {
  const take = await call('stopTake', { params: { takeId }, body: { cutShort } });
  if (take.cutShort && !cutShort) throw new AppError('not-ready', `${takeId} is not whole there`);
  await store?.forget(takeId);
};
