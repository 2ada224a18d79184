import { middleOf } from '@under-chalk/core/time/ranges';
import { useEdits } from '../../data/edits';
import type { OpenStretch } from './open-stretch';
import { useTidying } from './tidying';

/** Cuts a stretch: the focus goes to where it can be brought back. */
export const useCut = (): ((stretch: OpenStretch) => void) => {
  const { put } = useEdits();
  const tidying = useTidying();
  return (stretch) => {
    const { takeId, placementId, startUs, endUs } = stretch;
    put({ do: 'cut', takeId, startUs, endUs });
    tidying.open(null);
    tidying.wishFocus({ placementId, takeId, takeUs: middleOf(stretch) });
  };
};
