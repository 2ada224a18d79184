import { useEffect, useState } from 'react';
import {
  storageLeft,
  type StorageLeft,
  type TrackToMeasure,
} from '@under-chalk/core/record/storage-left';
import { useFreeSpace } from '../../data/queries';

const EVERY_MS = 15_000;

/** Room that the browser gives this page, bytes; null while unknown. */
const useBrowserRoom = (): number | null => {
  const [bytes, setBytes] = useState<number | null>(null);
  useEffect(() => {
    const look = () =>
      void navigator.storage
        ?.estimate?.()
        .then(({ quota, usage }) => {
          setBytes(quota === undefined ? null : quota - (usage ?? 0));
        })
        .catch(() => setBytes(null));
    look();
    const timer = setInterval(look, EVERY_MS);
    return () => clearInterval(timer);
  }, []);
  return bytes;
};

/** How long can still be recorded with these tracks. */
export const useStorageLeft = (tracks: readonly TrackToMeasure[]): StorageLeft =>
  storageLeft(useBrowserRoom(), useFreeSpace().data?.freeBytes ?? null, tracks);
