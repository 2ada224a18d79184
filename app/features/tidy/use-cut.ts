import { useEdits } from '../../data/edits';
import type { OpenStretch } from './open-stretch';
import { useTidying } from './tidying';

/** Cuts a stretch: the focus goes to where it can be brought back. */
export const useCut = (): ((stretch: OpenStretch) => void) => {
  const { put } = useEdits();
  const tidying = useTidying();
  return ({ takeId, placementId, startUs, endUs }) => {
    put({ do: 'cut', takeId, startUs, endUs });
    tidying.open(null);
    tidying.wishFocus({ placementId, takeId, takeUs: (startUs + endUs) / 2 });
  };
};
