import type { KeptArrangement } from '@under-chalk/core/lesson/kept-arrangement';
import { call } from '../../data/client';
import { useKeptList } from '../../data/kept-list';
import { KEYS } from '../../data/queries';

/** The teacher's own arrangements, and how one is kept or let go. */
export const useKeptArrangements = () =>
  useKeptList<KeptArrangement>({
    key: KEYS.arrangements,
    all: () => call('arrangements'),
    keep: (body) => call('keepArrangement', { body }),
    forget: (arrangementId) => call('forgetArrangement', { params: { arrangementId } }),
  });
