import type { SavedLayout } from '@under-chalk/core/lesson/saved-layout';
import { call } from '../../data/client';
import { useKeptList } from '../../data/kept-list';
import { KEYS } from '../../data/queries';

/** The teacher's own layouts, and how one is kept or let go. */
export const useSavedLayouts = () =>
  useKeptList<SavedLayout>({
    key: KEYS.layouts,
    all: () => call('layouts'),
    keep: (body) => call('saveLayout', { body }),
    forget: (layoutId) => call('deleteLayout', { params: { layoutId } }),
  });
